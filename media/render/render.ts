import { Output, StreamTarget, type StreamTargetChunk } from 'mediabunny';
import { encodePlan, encodedPlaces } from './encode-plan';
import { filmKindOf } from './encoders';
import { fileSize } from '../frames/file-size';
import { type GivenPicture, lookedAt, rowsOf, smallGrey } from './proof-samples';
import type { RenderCounts, RenderJob, Setting } from './messages';
import { PacketWriter } from './packet-writer';
import { AIMS_DB, type Trial, settingFor } from './quality';
import { sampleFrames } from './sample-frames';
import { SoundTrack } from './sound-track';
import { streamOf } from './transparent-stream';

/** A cancelled job says so with this. */
export class Cancelled extends Error {}

/** Hears how many frames of the file are there, and the one being written. */
export type Progress = (done: number, frame: VideoFrame) => void;

/** A file made, and what it has to be held against. */
export interface MadeFile {
  readonly counts: RenderCounts;
  readonly damaged: number;
  readonly given: readonly GivenPicture[];
  /** What is to be said of it, though it is as ordered. */
  readonly notes: readonly string[];
}

/**
 * Makes a film: each result frame's picture in order, given to the encoder as it is; what repeats is encoded once. Memory does
 * not grow with the length of the result, but for packets that are repeated, which are bounded. Throws `Cancelled` after
 * `signal` aborts, with the half-made file thrown away.
 */
export async function renderFile(
  job: RenderJob,
  signal: AbortSignal,
  progress: Progress,
): Promise<MadeFile & { readonly setting: Setting }> {
  let trial = await settingOf(job, signal);
  for (let tries = 0; ; tries++)
    try {
      return { ...(await renderAt(job, trial, signal, progress)), notes: notesOf(job, trial) };
    } catch (error) {
      // A picture of the result was busier than those that were tried.
      const { setting } = trial;
      if (tries >= MOST_TRIES || !('bitrate' in setting) || !gaveUp(error)) throw error;
      trial = {
        ...trial,
        setting: { bitrate: setting.bitrate / 2 },
        wantedDb: AIMS_DB[job.settings.quality],
      };
    }
}

/** How often a file is begun anew with half the bits, where the encoder gave up. */
const MOST_TRIES = 4;

/** Whether it was the encoder that failed. */
const gaveUp = (error: unknown): boolean =>
  error instanceof DOMException && (error.name === 'EncodingError' || /encod/i.test(error.message));

/** What is to be said of a file that is as ordered, and yet not quite what was asked for. */
function notesOf(job: RenderJob, { db, wantedDb }: Trial): string[] {
  if (wantedDb === undefined) return [];
  const { label } = filmKindOf(job.settings);
  return [
    `This picture is too busy for ${label} at the quality “${job.settings.quality}”: the encoder gives up on it. It was made as near as it can, about ${db.toFixed(1)} dB instead of ${wantedDb.toFixed(1)}. WebM, VP9 comes nearer.`,
  ];
}

/** Renders with one setting of the encoder. */
async function renderAt(
  job: RenderJob,
  { setting, bytesPerFrame, tried = setting }: Trial,
  signal: AbortSignal,
  progress: Progress,
): Promise<Omit<MadeFile, 'notes'> & { readonly setting: Setting }> {
  const began = performance.now();
  const size = fileSize(job.width, job.height, job.settings.scale);
  const stream = streamOf(job, size);
  const { sets } = stream;
  const total = sets.length * job.settings.loops;
  const plan = encodePlan(job, sets, bytesPerFrame);
  const kind = filmKindOf(job.settings);
  const writable = await job.target.createWritable();
  const output = new Output({
    format: kind.container(),
    target: new StreamTarget(writable as unknown as WritableStream<StreamTargetChunk>, {
      chunked: true,
      chunkSize: 4 << 20,
    }),
  });
  const given: GivenPicture[] = [];
  const frameS = job.rate.den / job.rate.num;
  let done = 0;
  const writer = new PacketWriter(output, kind, setting, plan, frameS, job.transparent, async (frames) => {
    done = frames;
    await sound?.addUpTo(frames * frameS + 0.5);
    if (signal.aborted) throw new Cancelled();
  });
  const sound = job.sound && (await SoundTrack.on(output, job.sound, kind, job.settings.loops));
  try {
    await output.start();
    await writer.start();
    const placeOf = encodedPlaces(plan);
    const looks = new Map<number, number[]>();
    for (const n of lookedAt(job, total)) looks.set(placeOf(n), [...(looks.get(placeOf(n)) ?? []), n]);
    let encoded = 0;
    for await (const frame of stream.pictures(plan.positions, frameS, signal)) {
      try {
        const at = looks.get(encoded);
        if (at) {
          const small = smallGrey(frame);
          // Colours of what is transparent come back as they like.
          const rows = job.transparent ? undefined : await rowsOf(frame);
          for (const atFrame of at) given.push({ atFrame, small, ...(rows && { rows }) });
        }
        progress(Math.max(done, ++encoded), frame);
      } catch (problem) {
        frame.close();
        throw problem;
      }
      await writer.add(frame);
    }
    if (signal.aborted) throw new Cancelled();
    await writer.finish();
    await sound?.finish();
    await output.finalize();
    given.sort((a, b) => a.atFrame - b.atFrame);
  } catch (error) {
    await writer.cancel();
    await sound?.cancel();
    await output.cancel().catch(() => undefined);
    await writable.abort().catch(() => undefined);
    throw signal.aborted ? new Cancelled() : error;
  } finally {
    await stream.close();
  }
  return {
    counts: {
      ...stream.counts,
      encoded: plan.positions.length,
      elapsedMs: performance.now() - began,
    },
    damaged: stream.damaged,
    given,
    setting: tried,
  };
}

/** The encoder's setting that gives the ordered quality, found on a sample of the result. */
async function settingOf(job: RenderJob, signal: AbortSignal): Promise<Trial> {
  const pictures = await sampleFrames(job, signal);
  try {
    if (signal.aborted) throw new Cancelled();
    const rateHz = job.rate.num / job.rate.den;
    const kind = filmKindOf(job.settings);
    return await settingFor(kind, pictures, rateHz, AIMS_DB[job.settings.quality], signal, job.guess);
  } catch (error) {
    throw signal.aborted ? new Cancelled() : error;
  } finally {
    pictures.forEach((p) => p.close());
  }
}
