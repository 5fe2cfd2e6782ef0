import {
  BlobSource,
  BufferTarget,
  Input,
  ALL_FORMATS,
  Output,
  Quality,
  type VideoEncodingConfig,
  VideoSample,
  VideoSampleSink,
  VideoSampleSource,
  canEncodeVideo,
} from 'mediabunny';
import { planesOf } from './planes-of';
import { Said } from '../worker-client';
import type { FileKind } from './encoders';
import type { RenderSettings, Setting } from './messages';

/**
 * What each quality means: how near the file's pictures come to those that went in, as PSNR in dB over all three
 * planes. The aims are a little above what is promised (`PROMISED_DB`), since a sample stands for the whole.
 */
export const AIMS_DB: Record<RenderSettings['quality'], number> = {
  draft: 34,
  good: 39.2,
  high: 42.2,
  finest: 45.4,
};

/** What a sample came to at a setting. */
export interface Trial {
  readonly setting: Setting;
  /** What the sample was encoded with, which is the first guess for the next file like it. */
  readonly tried?: Setting;
  readonly db: number;
  readonly bytesPerFrame: number;
  /** Set where the encoder fails at what would come nearer to the aim: what it was to be, decibels. */
  readonly wantedDb?: number;
}

/**
 * Encoders that take a quantizer, with its range, the step at about 40 dB and a first guess of dB a step. Browsers
 * count in the codec's own index, 0 to 255; where one refuses more than 63, that is the most.
 */
const QUANTIZERS: Partial<
  Record<FileKind['codec'], { readonly most: number; readonly middle: number; readonly perStep: number }>
> = {
  vp9: { most: 255, middle: 110, perStep: 0.11 },
  av1: { most: 255, middle: 120, perStep: 0.11 },
};

/** The most that every browser and the package take; above it the frame itself says its quantizer. */
const SAFE_QUANTIZER = 63;

/** Bits a second at least: of fewer the encoder makes H.264 of level 1b, which browsers will not decode again. */
const LEAST_BITRATE = 160_000;

/** Trials at most, and with those that an encoder gave up. */
const TRIALS = 4;
const MOST_TRIALS = 9;

/** Doublings of bits between what an encoder does and what it gives up, below which it is known well enough. */
const KNOWN_WELL = 0.35;

/** Bits a pixel below which nothing worth having is saved by looking further. */
const HARDLY_ANY = 0.01;

/** Decibels gained by twice the bits, about, for the first step of the search. */
const DB_PER_DOUBLING = 4.3;

/** Whether a kind of file is made with a fixed quantizer in this browser. */
export async function quantizes(kind: FileKind, width: number, height: number): Promise<boolean> {
  if (!QUANTIZERS[kind.codec]) return false;
  const quality = new Quality({ quantizer: 30 });
  return canEncodeVideo(kind.codec, { width, height, quality }).catch(() => false);
}

/** A track's encoder at a setting, and what has to be said with every frame; `hear` gets its packets. */
export function encoderAt(
  kind: FileKind,
  setting: Setting,
  hear?: VideoEncodingConfig['onEncodedPacket'],
  alpha: 'keep' | 'discard' = 'discard',
): { source: VideoSampleSource; everyFrame: VideoEncoderEncodeOptions } {
  const byQuantizer = 'quantizer' in setting;
  const quality = byQuantizer
    ? new Quality({ quantizer: Math.min(SAFE_QUANTIZER, setting.quantizer) })
    : new Quality({ bitrate: Math.round(setting.bitrate), bitrateMode: 'variable' });
  return {
    source: new VideoSampleSource({
      codec: kind.codec,
      quality,
      keyFrameInterval: 2,
      alpha,
      ...(hear && { onEncodedPacket: hear }),
    }),
    everyFrame: byQuantizer ? { [kind.codec]: { quantizer: setting.quantizer } } : {},
  };
}

/**
 * Finds the setting at which pictures come out as near to themselves as a quality promises, by encoding them and
 * looking: at most four times, `guess` first, or nine where the encoder gives up at what would be needed. The pictures
 * stay the caller's. Throws `Said` where it gives up at everything.
 */
export async function settingFor(
  kind: FileKind,
  pictures: readonly VideoFrame[],
  rateHz: number,
  aimDb: number,
  signal?: AbortSignal,
  guess?: Setting,
): Promise<Trial> {
  const { codedWidth: width, codedHeight: height } = pictures[0]!;
  const range = (await quantizes(kind, width, height)) ? QUANTIZERS[kind.codec] : undefined;
  // Everything is counted in steps in which dB grows about evenly: quantizer steps down, or doublings of bits.
  const settingAt = (at: number): Setting =>
    range
      ? { quantizer: Math.round(Math.min(most, Math.max(1, range.middle - at))) }
      : { bitrate: Math.min(400e6, Math.max(LEAST_BITRATE, 0.12 * width * height * rateHz * 2 ** at)) };
  const slope = range ? range.perStep : DB_PER_DOUBLING;
  const trials: (Trial & { at: number })[] = [];
  let most = range?.most ?? 0;
  let at = (aimDb - 40) / slope;
  if (guess && range && 'quantizer' in guess) at = range.middle - guess.quantizer;
  if (guess && !range && 'bitrate' in guess) at = Math.log2(guess.bitrate / (0.12 * width * height * rateHz));
  /** From here on the encoder gives up: a picture takes more than it can write. */
  let limit = Infinity;
  for (let i = 0; i < (limit === Infinity ? TRIALS : MOST_TRIALS) && !signal?.aborted; i++) {
    const setting = settingAt(at);
    if (trials.some((t) => JSON.stringify(t.setting) === JSON.stringify(setting))) break;
    const tried = await tryOut(kind, setting, pictures, rateHz).catch((error: unknown) => {
      const lower =
        'quantizer' in setting ? setting.quantizer > SAFE_QUANTIZER : setting.bitrate > LEAST_BITRATE;
      if (lower) return undefined;
      throw error;
    });
    if (!tried && range) {
      most = SAFE_QUANTIZER;
      at = range.middle - most;
      continue;
    }
    const highest = Math.max(-Infinity, ...trials.map((t) => t.at));
    if (!tried) {
      limit = Math.min(limit, at);
      if (limit - highest < KNOWN_WELL) break;
      at = highest === -Infinity ? at - 1.5 : (highest + limit) / 2;
      continue;
    }
    const trial = { ...tried, at };
    trials.push(trial);
    const over = trial.db - aimDb;
    const hardlyAny = trial.bytesPerFrame * 8 < HARDLY_ANY * width * height;
    if (over >= -0.15 && (over < 1.5 || hardlyAny)) break;
    const other = trials.length > 1 ? trials[trials.length - 2]! : undefined;
    const measured =
      other && Math.abs(other.at - at) > 1e-6 ? (trial.db - other.db) / (trial.at - other.at) : slope;
    const step = measured > slope / 6 ? measured : slope;
    at += (aimDb + 0.2 - trial.db) / step;
    if (at < limit) continue;
    if (limit - trial.at < KNOWN_WELL) break;
    at = (trial.at + limit) / 2;
  }
  const good = trials.filter((t) => t.db >= aimDb - 0.15).sort((a, b) => a.bytesPerFrame - b.bytesPerFrame);
  const best = good[0] ?? trials.sort((a, b) => b.db - a.db)[0];
  if (!best)
    throw new Said('The encoder gave up on this picture. Choose another kind of file, or a smaller size.');
  const reached = good.length > 0 || limit === Infinity;
  return {
    ...best,
    tried: best.setting,
    // What is near its limit gets no more than what it was seen to do.
    setting: limit === Infinity ? asSpent(best, rateHz) : best.setting,
    ...(!reached && { wantedDb: aimDb }),
  };
}

/** Rate control spends more than it was told on a few frames; over many it keeps to what these really took. */
const asSpent = ({ setting, bytesPerFrame }: Trial, rateHz: number): Setting =>
  'bitrate' in setting ? { bitrate: Math.max(setting.bitrate, bytesPerFrame * 8 * rateHz) } : setting;

/** Encodes pictures at a setting, decodes what came out, and measures it. */
async function tryOut(
  kind: FileKind,
  setting: Setting,
  pictures: readonly VideoFrame[],
  rateHz: number,
): Promise<Trial> {
  const target = new BufferTarget();
  const output = new Output({ format: kind.container(), target });
  const { source, everyFrame } = encoderAt(kind, setting);
  output.addVideoTrack(source, { frameRate: rateHz });
  await output.start();
  try {
    for (const [i, picture] of pictures.entries()) {
      const frame = new VideoFrame(picture, { timestamp: Math.round((i * 1e6) / rateHz) });
      const sample = new VideoSample(frame, { timestamp: i / rateHz, duration: 1 / rateHz });
      await source.add(sample, everyFrame).finally(() => sample.close());
    }
    await output.finalize();
  } catch (error) {
    await output.cancel().catch(() => {});
    throw error;
  }
  const file = new Blob([target.buffer!]);
  const input = new Input({ formats: ALL_FORMATS, source: new BlobSource(file) });
  try {
    const track = (await input.getPrimaryVideoTrack())!;
    let squares = 0;
    let values = 0;
    let i = 0;
    for await (const sample of new VideoSampleSink(track).samples()) {
      const frame = sample.toVideoFrame();
      const difference = await squaredDifference(pictures[i++]!, frame);
      squares += difference.squares;
      values += difference.values;
      frame.close();
      sample.close();
    }
    const db = squares === 0 ? 99 : 10 * Math.log10((255 * 255 * values) / squares);
    return { setting, db, bytesPerFrame: file.size / pictures.length };
  } finally {
    input.dispose();
  }
}

/** Sum of squared differences over all planes of two pictures of one size, both I420. */
async function squaredDifference(a: VideoFrame, b: VideoFrame): Promise<{ squares: number; values: number }> {
  const [x, y] = await Promise.all([planesOf(a), planesOf(b)]);
  const values = Math.min(x.length, y.length);
  let squares = 0;
  for (let i = 0; i < values; i++) squares += (x[i]! - y[i]!) ** 2;
  return { squares, values };
}
