/** How near following comes to where things truly are, and how fast it is, on generated clips at 1280x720. */
import { Follower, LEVELS } from '@skipback/core/tracks/follow';
import { pyramidOf } from '@skipback/core/tracks/luma';
import { type Motion, frameOf } from '@skipback/core/tracks/moving-thing';
import { Surface } from '@skipback/core/pixels/surface';

const [WIDTH, HEIGHT, FRAMES] = [1280, 720, 40];
const still = { size: 1, turn: 0 };
const MOTIONS: Readonly<Record<string, Motion>> = {
  goes: { frames: FRAMES, pose: (t) => ({ ...still, x: 200 + 18 * t, y: 200 + 6 * t }) },
  turns: { frames: FRAMES, pose: (t) => ({ x: 500 + 3 * t, y: 360, size: 1, turn: 4 * t }) },
  grows: { frames: FRAMES, pose: (t) => ({ x: 640 + 2 * t, y: 360 - t, size: 1.015 ** t, turn: 0 }) },
  'changing light': {
    frames: FRAMES,
    pose: (t) => ({ ...still, x: 300 + 8 * t, y: 300 + 2 * t }),
    light: (t) => 0.6 + 0.4 * Math.sin(t / 5),
  },
  smeared: { frames: FRAMES, pose: (t) => ({ ...still, x: 200 + 14 * t, y: 360 }), smeared: 14 },
  'behind a post': {
    frames: FRAMES,
    pose: (t) => ({ ...still, x: 200 + 14 * t, y: 360 }),
    post: [400, 540],
  },
};

/** Prints both. */
export function printFollowing(): void {
  const said: string[] = [];
  let [ms, frames] = [0, 0];
  for (const [name, motion] of Object.entries(MOTIONS)) {
    const first = pyramidOf(frameOf(motion, 0, WIDTH, HEIGHT), LEVELS);
    const follower = new Follower(first, { ...motion.pose(0), size: 1, turn: 0 }, 48, 48);
    const off: number[] = [];
    for (let t = 1; t < FRAMES; t++) {
      const picture = frameOf(motion, t, WIDTH, HEIGHT);
      const from = performance.now();
      const step = follower.next(pyramidOf(picture, LEVELS));
      ms += performance.now() - from;
      frames++;
      const truth = motion.pose(t);
      if (step) off.push(Math.hypot(step.pose.x - truth.x, step.pose.y - truth.y));
    }
    const mean = off.reduce((a, b) => a + b, 0) / off.length;
    said.push(
      `${name} ${mean.toFixed(2)}${off.length < FRAMES - 1 ? `, lost in ${FRAMES - 1 - off.length}` : ''}`,
    );
  }
  console.log(
    `Following a point at ${WIDTH}x${HEIGHT}, without decoding: ${Math.round((1000 * frames) / ms)} frames a second; mean distance in pixels: ${said.join('; ')}`,
  );
  const surface = new Surface(WIDTH, HEIGHT);
  const soft = { feather: 24, grow: 0, inverted: false };
  const star = [0.5, 0.1, 0.8, 0.9, 0.1, 0.35, 0.9, 0.35, 0.2, 0.9].map(
    (v, i) => v * (i % 2 ? HEIGHT : WIDTH),
  );
  const masks = {
    ellipse: (i: number) => ({ shape: 'ellipse' as const, numbers: [600 + i, 300, 400, 300, 10], ...soft }),
    polygon: (i: number) => ({ shape: 'polygon' as const, numbers: star.map((v) => v + i), ...soft }),
    still: () => ({ shape: 'ellipse' as const, numbers: [600, 300, 400, 300, 10], ...soft }),
  };
  const costs = Object.entries(masks).map(([name, mask]) => {
    const draw = (i: number) => surface.within({ mask: mask(i) }, 1, 1, () => undefined);
    for (let i = 0; i < 5; i++) draw(i);
    const from = performance.now();
    for (let i = 5; i < 25; i++) draw(i);
    return `${name} ${((performance.now() - from) / 20).toFixed(1)}`;
  });
  console.log(`Regions at ${WIDTH}x${HEIGHT}, ms a picture beside its look: ${costs.join(', ')}`);
}
