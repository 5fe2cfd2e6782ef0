import { Output, StreamTarget, type StreamTargetChunk } from 'mediabunny';
import { ClipRow } from '../frames/clip-row';
import { FrameServer, type Served } from '../frames/frame-server';
import { FrameSets } from '../frames/frame-sets';
import { OpenClips } from '../frames/open-clips';
import type { DecodeCounters } from '../reader/run-decoder';
import { fileKind, fileSize } from './encoders';
import { FullFrames, blackFrame, pictureBytes } from './full-frames';
import { treatedFor } from '../looks/treated-frames';
import { inOrder } from '../pixels/in-order';
import type { RenderCounts, RenderJob } from './messages';
import { type GivenPicture, lookedAt, smallGrey } from './given';
import { encodePlan, encodedPlaces } from './encode-plan';
import { PacketWriter } from './packet-writer';
import { AIMS_DB, type Setting, type Trial, settingFor } from './quality';
import { sampleFrames } from './sample-frames';
import { SoundTrack } from './sound-track';

/** Bytes of full-size pictures a render may hold. */
export const RENDER_BUDGET_BYTES = 512 * 1024 * 1024;
/** A cancelled job says so with this. */
export class Cancelled extends Error {}

/**
 * Makes the file: each result frame's picture in order, decoded once where the budget allows, given
 * to the encoder as it is; what repeats is encoded once. Memory does not grow with the length of the result, but for packets
 * that are repeated, which are bounded. Throws `Cancelled` after `signal` aborts, with the half-made file thrown away.
 */
export async function renderFile(
  job: RenderJob,
  signal: AbortSignal,
  progress: (done: number, frame: VideoFrame) => void,
): Promise<{ counts: RenderCounts; damaged: number; given: GivenPicture[]; setting: Setting }> {
  const { setting, bytesPerFrame } = await settingOf(job, signal);
  const began = performance.now();
  const row = new ClipRow(job.clips);
  const clips = new OpenClips();
  const counters: DecodeCounters = { decoded: 0, open: 0 };
  const size = fileSize(job.width, job.height, job.settings.scale);
  const full = new FullFrames(size.width, size.height, job.settings.scale);
  const developed = { open: 0 };
  const server = new FrameServer(
    clips.runsOf(
      row,
      counters,
      async (picture, clip, placement) =>
        new HeldFrame(await full.develop(picture, clip, placement), developed),
    ),
    (held) => pictureBytes(held.frame),
  );
  const sets = new FrameSets(
    row,
    job.clips.map((c) => c.clipId),
    job,
  );
  const total = sets.length * job.settings.loops;
  const plan = encodePlan(job, sets, bytesPerFrame);
  const treated = treatedFor(job, sets, plan.positions, size);
  const all = sets.inOrder(plan.positions);
  const kind = fileKind(job.settings.format);
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
  const writer = new PacketWriter(output, kind, setting, plan, frameS, async (frames) => {
    done = frames;
    await sound?.addUpTo(frames * frameS + 0.5);
    if (signal.aborted) throw new Cancelled();
  });
  const sound = job.sound && (await SoundTrack.on(output, job.sound, kind, job.settings.loops));
  try {
    await output.start();
    await writer.start();
    const capacity = Math.max(2, Math.floor(RENDER_BUDGET_BYTES / (size.width * size.height * 1.5)) - 8);
    const request = { ...all, loops: false, start: 0, keys: row.keys, clipStarts: row.starts, capacity };
    const placeOf = encodedPlaces(plan);
    const looks = new Map<number, number[]>();
    for (const n of lookedAt(job, total)) looks.set(placeOf(n), [...(looks.get(placeOf(n)) ?? []), n]);
    let encoded = 0;
    let turn = 0;
    const develop = async ({ pictures }: Served<HeldFrame>): Promise<VideoFrame> => {
      const at = turn++;
      const black = pictures.every(Boolean) ? undefined : blackFrame(size);
      const decoded = pictures.map((p) => p?.picture.frame ?? black!);
      let drawn: VideoFrame | undefined;
      try {
        drawn = await treated?.treat(decoded, plan.positions[at]!);
        return new VideoFrame(drawn ?? decoded[0]!, { timestamp: Math.round(at * frameS * 1e6) });
      } finally {
        drawn?.close();
        pictures.forEach((p) => p?.release());
        black?.close();
      }
    };
    const served = server.serve(request, signal);
    for await (const frame of inOrder(served, treated?.threads ?? 1, develop, (f) => f.close())) {
      const small = looks.has(encoded) ? smallGrey(frame) : undefined;
      for (const atFrame of looks.get(encoded) ?? []) given.push({ atFrame, small: small! });
      progress(Math.max(done, ++encoded), frame);
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
    await server.clear();
    clips.close();
    treated?.close();
  }
  return {
    counts: {
      decoded: counters.decoded,
      distinct: new Set(all.wanted).size,
      encoded: plan.positions.length,
      peakBytes: server.peakBytes,
      elapsedMs: performance.now() - began,
      ...full.counts,
      treated: treated?.counts.computed ?? 0,
      treatedAgain: treated?.counts.again ?? 0,
      leftOpen: counters.open + developed.open,
    },
    damaged: server.damaged.size,
    given,
    setting,
  };
}

/** The encoder's setting that gives the ordered quality, found on a sample of the result. */
async function settingOf(job: RenderJob, signal: AbortSignal): Promise<Trial> {
  const pictures = await sampleFrames(job, signal);
  try {
    if (signal.aborted) throw new Cancelled();
    const rateHz = job.rate.num / job.rate.den;
    const kind = fileKind(job.settings.format);
    return await settingFor(kind, pictures, rateHz, AIMS_DB[job.settings.quality], signal);
  } finally {
    pictures.forEach((p) => p.close());
  }
}

/** A full-size picture that counts itself while it is open. */
class HeldFrame {
  constructor(
    readonly frame: VideoFrame,
    private readonly count: { open: number },
  ) {
    count.open++;
  }

  close(): void {
    this.count.open--;
    this.frame.close();
  }
}
