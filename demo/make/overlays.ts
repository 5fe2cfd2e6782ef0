/**
 * Draws the overlays that come with the program, light on black: `npm run demo:overlays [-- name ...]`. Each begins again
 * without a seam.
 */
import { spawn } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { seeded } from '@skipback/core/moves/random';
import { addPlaced } from '@skipback/core/sound/made/add-made';
import { MIX_RATE_HZ, silence } from '@skipback/core/sound/stereo';
import { wavBytes } from './wav';

const [WIDTH, HEIGHT, RATE] = [1280, 720, 30];
const into = join(import.meta.dirname, '../../web/public/overlays');

type Paint = (x: number, y: number, r: number, g: number, b: number) => void;

interface Plan {
  readonly frames: number;
  readonly crf: number;
  /** Draws the n-th frame by adding light. */
  draw(n: number, add: Paint): void;
  readonly sound?: true;
}

const TAU = 2 * Math.PI;
const smooth = (t: number) => t * t * (3 - 2 * t);
const within = (v: number, a: number, b: number) => Math.min(1, Math.max(0, (v - a) / (b - a)));

/** Smooth noise in the plane, 0 to 1, the same for the same number. */
function plane(seed: number) {
  const random = seeded(seed);
  const grid = Float32Array.from({ length: 64 * 64 }, random);
  const at = (x: number, y: number) => grid[(y & 63) * 64 + (x & 63)]!;
  const { floor } = Math;
  const one = (x: number, y: number) => {
    const [ix, iy] = [floor(x), floor(y)];
    const [fx, fy] = [smooth(x - ix), smooth(y - iy)];
    const top = at(ix, iy) + (at(ix + 1, iy) - at(ix, iy)) * fx;
    return top + (at(ix, iy + 1) + (at(ix + 1, iy + 1) - at(ix, iy + 1)) * fx - top) * fy;
  };
  return (x: number, y: number) => (4 * one(x, y) + 2 * one(2 * x, 2 * y) + one(4 * x, 4 * y)) / 7;
}

/** Bands of torn white lines that climb through the picture, as tape shows them that runs fast. */
function burst(n: number, add: Paint): void {
  const random = seeded(900 + n);
  for (let band = 0; band < 5; band++) {
    // A whole number of turns while it lasts.
    const turns = [3, 2, 4, 3, 5][band]!;
    const middle = ((((band * 0.23 - (turns * n) / 60) % 1) + 1) % 1) * (HEIGHT + 160) - 80;
    const half = 14 + 16 * ((band * 7) % 3);
    for (let i = 0; i < 5 * half; i++) {
      const y = Math.round(middle + half * (random() + random() - 1));
      const [x, long] = [random() * WIDTH * 1.3 - 0.3 * WIDTH, 20 + random() ** 2 * 420];
      const bright = 90 + 165 * random();
      if (y < 0 || y >= HEIGHT) continue;
      for (let k = Math.max(0, Math.round(x)); k < Math.min(WIDTH, x + long); k++) {
        const v = bright * (1 - (k - x) / long);
        add(k, y, v, v, v);
      }
    }
  }
  // Snow between them, thin.
  for (let i = 0; i < 900; i++) {
    const [x, y, v] = [Math.floor(random() * WIDTH), Math.floor(random() * HEIGHT), 60 + 120 * random()];
    for (let k = x; k < Math.min(WIDTH, x + 6); k++) add(k, y, v, v, v);
  }
}

/** Specks that are there for a frame, hairs, and scratches that stay a while. */
function dust(n: number, add: Paint): void {
  const random = seeded(40 + n);
  const speck = (x: number, y: number, radius: number, bright: number) => {
    for (let dy = -radius; dy <= radius; dy++)
      for (let dx = -radius; dx <= radius; dx++) {
        const v = bright * within(Math.hypot(dx, dy), radius, radius * 0.3);
        if (x + dx >= 0 && x + dx < WIDTH && y + dy >= 0 && y + dy < HEIGHT && v > 1)
          add(x + dx, y + dy, v, v * 0.98, v * 0.93);
      }
  };
  for (let i = 0; i < 60 + 40 * random(); i++)
    speck(
      Math.floor(random() * WIDTH),
      Math.floor(random() * HEIGHT),
      1 + Math.floor(5 * random() ** 2.2),
      80 + 150 * random(),
    );
  if (random() < 0.35) {
    let [x, y, way] = [random() * WIDTH, random() * HEIGHT, random() * TAU];
    for (let i = 0; i < 90; i++) {
      way += (random() - 0.5) * 0.5;
      [x, y] = [x + 1.6 * Math.cos(way), y + 1.6 * Math.sin(way)];
      speck(Math.round(x), Math.round(y), 1, 150);
    }
  }
  const held = seeded(7);
  for (let s = 0; s < 7; s++) {
    const [first, long, place] = [Math.floor(held() * 96), 10 + Math.floor(held() * 14), held() * WIDTH];
    const bright = 50 + 90 * held();
    if (n < first || n >= first + long) continue;
    for (let y = 0; y < HEIGHT; y++) {
      const x = Math.round(place + 3 * Math.sin(y / 170 + n * 0.7) + 0.6 * random());
      const v = bright * (0.5 + 0.5 * random());
      if (x >= 0 && x < WIDTH) add(x, y, v, v, v * 0.95);
    }
  }
}

/** Warm light that wanders in from the sides. */
const cloud = plane(5);
function leak(n: number, add: Paint): void {
  const turn = (TAU * n) / 120;
  const [left, right] = [0.55 + 0.45 * Math.sin(turn), 0.45 + 0.45 * Math.cos(turn + 1)];
  const [ox, oy] = [2 * Math.cos(turn), 2 * Math.sin(turn)];
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const haze = 0.55 + 0.9 * cloud(x / 520 + ox, y / 380 + oy);
      const a = left * Math.exp(-x / 330) * haze;
      const b = right * Math.exp(-(WIDTH - x) / 260) * haze;
      const v = a + b;
      if (v > 0.01) add(x, y, 255 * Math.min(1, v * 1.25), 118 * v * (0.7 + 0.5 * b), 30 * v + 14 * v * v);
    }
}

/** Film that burns through: a hole of light with a glowing rim opens, whitens, and dies away. */
const embers = plane(11);
function burn(n: number, add: Paint): void {
  const open = within(n, 4, 56) ** 1.4;
  const gone = 1 - smooth(within(n, 62, 88));
  if (open <= 0 || gone <= 0) return;
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const far = Math.hypot((x - 0.78 * WIDTH) / WIDTH, ((y - 0.3 * HEIGHT) / HEIGHT) * 0.6);
      const edge = 1.25 * open - far - 0.34 * (embers(x / 150, y / 150 + n * 0.008) - 0.5) - 0.05;
      const core = smooth(within(edge, 0, 0.22));
      const rim = Math.exp(-((edge / 0.045) ** 2)) + 0.35 * Math.exp(-(Math.max(0, -edge) / 0.09));
      const v = gone * (core + 0.9 * rim * (1 - 0.5 * core));
      if (v > 0.012)
        add(
          x,
          y,
          255 * Math.min(1, v * 1.3),
          255 * (0.36 * v + 0.6 * core * gone),
          255 * (0.06 * v + 0.75 * core ** 2 * gone),
        );
    }
}

const PLANS: Record<string, Plan> = {
  burst: { frames: 60, crf: 46, draw: burst, sound: true },
  dust: { frames: 120, crf: 34, draw: dust },
  leak: { frames: 120, crf: 30, draw: leak },
  burn: { frames: 90, crf: 30, draw: burn },
};

/** The chatter of tape, as long as the picture. */
function chatter(frames: number) {
  const samples = (frames * MIX_RATE_HZ) / RATE;
  const out = silence(samples);
  addPlaced(out, { kind: 'spool', at: 0, samples, gain: 1.1, seed: 3 });
  return out;
}

async function draw(name: string, { frames, crf, draw: paint, sound }: Plan): Promise<void> {
  const work = await mkdtemp(join(tmpdir(), 'skip-back-overlay-'));
  const wav = join(work, 'sound.wav');
  if (sound) await writeFile(wav, wavBytes(chatter(frames), MIX_RATE_HZ));
  const ffmpeg = spawn(
    'ffmpeg',
    [
      ...['-y', '-loglevel', 'error', '-f', 'rawvideo', '-pix_fmt', 'rgb24'],
      ...['-s', `${WIDTH}x${HEIGHT}`, '-framerate', String(RATE), '-i', '-', ...(sound ? ['-i', wav] : [])],
      ...['-vf', 'scale=out_range=tv:out_color_matrix=bt709,format=yuv420p'],
      ...['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709'],
      ...[
        '-c:v',
        'libvpx-vp9',
        '-crf',
        String(crf),
        '-b:v',
        '0',
        '-g',
        '30',
        '-row-mt',
        '1',
        '-cpu-used',
        '2',
      ],
      ...(sound ? ['-c:a', 'libopus', '-b:a', '96k'] : []),
      join(into, `${name}.webm`),
    ],
    { stdio: ['pipe', 'inherit', 'inherit'] },
  );
  for (let n = 0; n < frames; n++) {
    const light = new Float32Array(WIDTH * HEIGHT * 3);
    paint(n, (x, y, r, g, b) => {
      const at = 3 * (y * WIDTH + x);
      light[at]! += r;
      light[at + 1]! += g;
      light[at + 2]! += b;
    });
    if (!ffmpeg.stdin.write(Buffer.from(Uint8ClampedArray.from(light).buffer)))
      await new Promise((resolve) => ffmpeg.stdin.once('drain', resolve));
  }
  ffmpeg.stdin.end();
  await new Promise((resolve) => ffmpeg.once('close', resolve));
  await rm(work, { recursive: true });
}

const names = process.argv.slice(2).filter((n) => n in PLANS);
for (const name of names.length > 0 ? names : Object.keys(PLANS)) await draw(name, PLANS[name]!);
