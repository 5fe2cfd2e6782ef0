/** Pictures between frames against the true ones: frames are taken away and made again, mixed and along the motion. */
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { AlongMotion } from '@skipback/core/flow/along';
import { fieldBytes } from '@skipback/core/flow/field';
import { MotionFinder } from '@skipback/core/flow/motion';
import { SCENES, pictureOf } from '@skipback/core/flow/moving-textures';
import { psnr, ssim } from '@skipback/core/flow/quality';
import { WHOLE } from '@skipback/core/gather/gather';
import { Averager } from '@skipback/core/pixels/average';
import { planesBytes, planesIn } from '@skipback/core/pixels/planes';
import { Surface } from '@skipback/core/pixels/surface';

const MEDIA = join(import.meta.dirname, '..', 'demo', 'media');
const MOST_PICTURES = 60;

/** What was measured of one clip with only every so-many-th frame kept: means over the pictures made again. */
export interface MotionQuality {
  readonly name: string;
  readonly every: number;
  readonly mixDb: number;
  readonly flowDb: number;
  readonly mixSsim: number;
  readonly flowSsim: number;
  readonly lost: number;
  /** Milliseconds for the motion of a pair, and for one picture along it. */
  readonly findMs: number;
  readonly makeMs: number;
}

function measured(
  name: string,
  frames: readonly Uint8Array[],
  width: number,
  height: number,
  every: number,
): MotionQuality {
  const finder = new MotionFinder(width, height);
  const along = new AlongMotion(width, height);
  const averager = new Averager();
  const surface = new Surface(width, height);
  const field = new Uint8Array(fieldBytes(finder.size));
  const [flow, mix] = [new Uint8Array(frames[0]!.length), new Uint8Array(frames[0]!.length)];
  const luma = (picture: Uint8Array) => picture.subarray(0, width * height);
  // In colour, as it is seen.
  const colours = (picture: Uint8Array) => {
    surface.load(planesIn(picture, width, height));
    return Uint8Array.from(surface.pixels).filter((_, i) => i % 4 !== 3);
  };
  const sum = { mixDb: 0, flowDb: 0, mixSsim: 0, flowSsim: 0, lost: 0, findMs: 0, makeMs: 0 };
  let made = 0;
  let pairs = 0;
  for (let i = 0; i + every < frames.length && made < MOST_PICTURES; i += every, pairs++) {
    const [first, second] = [frames[i]!, frames[i + every]!];
    let from = performance.now();
    finder.find(luma(first), luma(second), field);
    sum.findMs += performance.now() - from;
    for (let m = 1; m < every; m++, made++) {
      const share = Math.round((WHOLE * m) / every);
      from = performance.now();
      sum.lost += along.picture(first, second, field, share, flow);
      sum.makeMs += performance.now() - from;
      averager.mean([first, second], [WHOLE - share, share], mix);
      const truth = frames[i + m]!;
      const seen = colours(truth);
      sum.mixDb += psnr(colours(mix), seen);
      sum.flowDb += psnr(colours(flow), seen);
      sum.mixSsim += ssim(luma(mix), luma(truth), width, height);
      sum.flowSsim += ssim(luma(flow), luma(truth), width, height);
    }
  }
  const mean = (key: keyof typeof sum, by: number) => sum[key] / Math.max(1, by);
  return {
    ...{ name, every, mixDb: mean('mixDb', made), flowDb: mean('flowDb', made) },
    ...{ mixSsim: mean('mixSsim', made), flowSsim: mean('flowSsim', made), lost: mean('lost', made) },
    ...{ findMs: mean('findMs', pairs), makeMs: mean('makeMs', made) },
  };
}

/** A clip's frames in I420 at a size; needs Debian's ffmpeg. */
export function framesOfClip(path: string, width: number, height: number, most: number): Uint8Array[] {
  const raw = execFileSync(
    'ffmpeg',
    [
      ...['-v', 'error', '-i', path, '-frames:v', String(most), '-vf', `scale=${width}:${height}:flags=area`],
      ...['-pix_fmt', 'yuv420p', '-f', 'rawvideo', '-'],
    ],
    { maxBuffer: 2 ** 30 },
  );
  const bytes = planesBytes(width, height);
  return Array.from(
    { length: Math.floor(raw.length / bytes) },
    (_, i) => new Uint8Array(raw.buffer, raw.byteOffset + i * bytes, bytes),
  );
}

const line = (q: MotionQuality): string =>
  `  ${q.name}, every ${q.every}: mix ${q.mixDb.toFixed(1)} dB, flow ${q.flowDb.toFixed(1)} (${(q.flowDb - q.mixDb).toFixed(2)}); SSIM ${q.mixSsim.toFixed(4)}, ${q.flowSsim.toFixed(4)}; lost ${(100 * q.lost).toFixed(1)} % of the picture; ${q.findMs.toFixed(0)} ms a pair and ${q.makeMs.toFixed(0)} a picture`;

/** Prints what pictures along the motion are worth, on the demo's clips and on generated scenes. */
export function printMotionQuality(): void {
  console.log(
    'Frames taken away and made again, 640x360, one core (PSNR of the colours; SSIM of the brightness):',
  );
  const worst: MotionQuality[] = [];
  const note = (q: MotionQuality) => {
    worst.push(q);
    console.log(line(q));
  };
  for (const [clip, rows] of [
    ['tea.mp4', [2, 4, 8]],
    ['lantern.mp4', [2, 4]],
    ['pinwheels.webm', [2, 4]],
    ['drummer.mp4', [2, 4]],
    ['tram.webm', [2, 4]],
  ] as const) {
    const frames = framesOfClip(join(MEDIA, clip), 640, 360, 121);
    for (const every of rows) note(measured(clip.replace(/\..*/, ''), frames, 640, 360, every));
  }
  const [width, height] = [320, 180];
  console.log('The same of generated scenes, 320x180:');
  for (const [name, scene] of Object.entries(SCENES)) {
    const frames = Array.from({ length: 9 }, (_, t) => pictureOf(scene, t, width, height));
    for (const every of [2, 4]) note(measured(name, frames, width, height, every));
  }
  const least = worst.toSorted((a, b) => a.flowDb - a.mixDb - (b.flowDb - b.mixDb))[0]!;
  console.log(
    `  the worst against a mix: ${least.name}, every ${least.every}: ${(least.flowDb - least.mixDb).toFixed(2)} dB`,
  );
}

if (process.argv[1] === import.meta.filename) printMotionQuality();
