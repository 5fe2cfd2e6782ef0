import { texture } from '../flow/moving-textures';
import { seeded } from '../moves/random';
import type { Luma } from './luma';
import type { Pose } from './patch';

/** A generated clip in which a round, textured thing moves before a textured ground, and what happens to it. */
export interface Motion {
  readonly frames: number;
  /** Where the thing is at a frame. */
  readonly pose: (t: number) => Pose;
  /** How bright it all is. */
  readonly light?: (t: number) => number;
  /** Columns in which something stands before it. */
  readonly post?: readonly [from: number, to: number];
  /** Pixels over which it is smeared across. */
  readonly smeared?: number;
  /** Of noise, part of the whole range. */
  readonly noise?: number;
}

const { floor, round, min, max, cos, sin, sqrt, PI } = Math;

/** A texture worked out once, going on beyond its edges. */
function sheet(seed: number, detail: number, size: number): (x: number, y: number) => number {
  const values = new Float32Array(size * size);
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) values[y * size + x] = texture(x, y, seed, detail);
  const around = (v: number) => ((v % size) + size) % size;
  return (x, y) => {
    const [i, j] = [floor(around(x)), floor(around(y))];
    const [u, v] = [around(x) - i, around(y) - j];
    const [k, l] = [(i + 1) % size, (j + 1) % size];
    const top = values[j * size + i]! * (1 - u) + values[j * size + k]! * u;
    return top * (1 - v) + (values[l * size + i]! * (1 - u) + values[l * size + k]! * u) * v;
  };
}

/** Half the thing's width, pixels. */
export const RADIUS = 44;
const ground = sheet(1, 22, 512);
const thing = sheet(7, 9, 256);

const grounds = new Map<string, Float64Array>();

/** The ground's brightness at each pixel, worked out once for a size. */
function groundOf(width: number, height: number): Float64Array {
  const key = `${width}x${height}`;
  let values = grounds.get(key);
  if (!values) {
    const at = (i: number) => 0.1 + 0.7 * ground((i % width) + 0.5, floor(i / width) + 0.5);
    grounds.set(key, (values = Float64Array.from({ length: width * height }, (_, i) => at(i))));
  }
  return values;
}

/** The brightness of a frame of such a clip. */
export function frameOf(motion: Motion, t: number, width: number, height: number): Luma {
  const data = new Uint8Array(width * height);
  const pose = motion.pose(t);
  const turn = (pose.turn * PI) / 180;
  const [c, s] = [cos(turn) / pose.size, sin(turn) / pose.size];
  const light = motion.light?.(t) ?? 1;
  const steps = motion.smeared ? 7 : 1;
  const random = seeded(t + 1);
  const [from, to] = motion.post ?? [0, 0];
  const behind = groundOf(width, height);
  const reach = ((RADIUS + 30) * pose.size) ** 2;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let value = behind[y * width + x]!;
      const [dx, dy] = [x + 0.5 - pose.x, y + 0.5 - pose.y];
      if (x >= from && x < to) value = 0.3 + 0.1 * ((y >> 4) & 1);
      else if (dx * dx + dy * dy < reach) {
        let [covered, sum] = [0, 0];
        for (let k = 0; k < steps; k++) {
          const ex = dx - (steps > 1 ? ((k - 3) * motion.smeared!) / 6 : 0);
          const inside = min(1, max(0, RADIUS - sqrt(ex * ex + dy * dy) / pose.size + 0.5));
          covered += inside / steps;
          sum += (inside * thing(128 + c * ex + s * dy, 128 - s * ex + c * dy)) / steps;
        }
        value = value * (1 - covered) + sum;
      }
      if (motion.noise) value += motion.noise * (2 * random() - 1);
      data[y * width + x] = 16 + round(219 * min(1, max(0, value * light)));
    }
  return { width, height, data };
}

/** A textured board that moves before an uneven ground and carries a number in black and white, another one in each frame. */
export interface Board {
  readonly width: number;
  readonly height: number;
  /** Side of the squares of its texture, pixels. */
  readonly square: number;
  /** Darkest and brightest of its texture. */
  readonly range: readonly [number, number];
  readonly pose: (t: number) => Pick<Pose, 'x' | 'y'>;
}

/** Digits of a board's number, in two rows at its foot that take a fifth of it. */
const DIGITS = 8;

/** The brightness of a frame of such a clip. */
export function boardFrame(board: Board, t: number, width: number, height: number): Luma {
  const { square, range, pose } = board;
  const random = seeded(square);
  const across = floor(board.width / square) + 1;
  const squares = Array.from(
    { length: across * (floor(board.height / square) + 1) },
    () => range[0] + random() * (range[1] - range[0]),
  );
  const number = Math.imul(t + 1, 0x9e3779b1) >>> 8;
  const at = (u: number, v: number): number => {
    const foot = board.height - v;
    if (foot > 6 && foot < 26 && u > 10 && u < board.width - 10) {
      const digit = floor(((u - 10) / (board.width - 20)) * DIGITS) + (foot < 16 ? DIGITS : 0);
      return (number >> digit) & 1 ? 235 : 16;
    }
    return squares[floor(v / square) * across + floor(u / square)]!;
  };
  const [left, top] = [pose(t).x - board.width / 2, pose(t).y - board.height / 2];
  const data = new Uint8Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const behind = 90 + 25 * sin(x / 23) + 20 * cos(y / 17);
      let sum = 0;
      for (const [dx, dy] of [
        [0.25, 0.25],
        [0.75, 0.25],
        [0.25, 0.75],
        [0.75, 0.75],
      ] as const) {
        const [u, v] = [x + dx - left, y + dy - top];
        sum += u >= 0 && v >= 0 && u < board.width && v < board.height ? at(u, v) : behind;
      }
      data[y * width + x] = sum / 4;
    }
  return { width, height, data };
}
