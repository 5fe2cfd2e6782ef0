import { Follower, LEVELS } from './follow';
import { type Luma, type Pyramid, pyramidOf } from './luma';
import { type Motion, boardFrame, frameOf } from './moving-thing';

const [WIDTH, HEIGHT] = [640, 360];
const { hypot, abs, max, sin } = Math;

interface Outcome {
  /** Distances from where it truly is, of frames at which it was found. */
  readonly off: readonly number[];
  readonly lost: readonly number[];
  readonly turned: number;
  readonly sized: number;
}

const drawn = new Map<string, Pyramid>();

/** A frame of a motion, drawn once for all that follow it. */
function pictureOf(motion: Motion, t: number): Pyramid {
  const key = `${motion.pose} ${motion.light} ${motion.post?.join()} ${motion.smeared} ${motion.noise} ${t}`;
  let picture = drawn.get(key);
  if (!picture) drawn.set(key, (picture = pyramidOf(frameOf(motion, t, WIDTH, HEIGHT), LEVELS)));
  return picture;
}

function followed(motion: Motion, width: number, height: number): Outcome {
  const picture = (t: number) => pictureOf(motion, t);
  const first = motion.pose(0);
  const follower = new Follower(picture(0), { ...first, size: 1, turn: 0 }, width, height);
  expect(follower.holds).toBe(true);
  const off: number[] = [];
  const lost: number[] = [];
  let [turned, sized] = [0, 0];
  for (let t = 1; t < motion.frames; t++) {
    const step = follower.next(picture(t));
    if (!step) {
      lost.push(t);
      continue;
    }
    const truth = motion.pose(t);
    off.push(hypot(step.pose.x - truth.x, step.pose.y - truth.y));
    turned = max(turned, abs(step.pose.turn - truth.turn + first.turn));
    sized = max(sized, abs(step.pose.size / (truth.size / first.size) - 1));
  }
  return { off, lost, turned, sized };
}

const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
const still = { size: 1, turn: 0 };

const VISIBLE: Readonly<Record<string, Motion>> = {
  goes: { frames: 20, pose: (t) => ({ ...still, x: 120 + 9.3 * t, y: 120 + 3.1 * t }) },
  'goes far a frame': { frames: 14, pose: (t) => ({ ...still, x: 80 + 33 * t, y: 180 + 40 * sin(t / 2) }) },
  turns: { frames: 20, pose: (t) => ({ x: 300 + 3 * t, y: 180, size: 1, turn: 4 * t }) },
  grows: { frames: 20, pose: (t) => ({ x: 320 + 2 * t, y: 180 - t, size: 1.015 ** t, turn: 0.5 * t }) },
  'goes in changing light': {
    frames: 20,
    pose: (t) => ({ ...still, x: 150 + 8 * t, y: 150 + 2 * t }),
    light: (t) => 0.6 + 0.4 * sin(t / 4),
  },
  'is smeared': { frames: 20, pose: (t) => ({ ...still, x: 100 + 11 * t, y: 180 }), smeared: 12 },
  'goes in noise': {
    frames: 20,
    pose: (t) => ({ x: 120 + 10 * t, y: 180 + 30 * sin(t / 5), size: 1, turn: 2 * sin(t / 9) }),
    noise: 0.06,
  },
};

describe.each([
  ['a point', 48, 48],
  ['a box', 76, 70],
] as const)('%s', (_, width, height) => {
  it.each(Object.entries(VISIBLE))('is followed where it %s: within a pixel', (_words, motion) => {
    const { off, lost, turned, sized } = followed(motion, width, height);
    expect(lost).toEqual([]);
    expect(mean(off)).toBeLessThan(0.25);
    expect(max(...off)).toBeLessThan(1);
    expect(turned).toBeLessThan(2);
    expect(sized).toBeLessThan(0.03);
  });

  it('is lost behind a post, and found again after it, never before', () => {
    const motion: Motion = {
      frames: 46,
      pose: (t) => ({ ...still, x: 90 + 11 * t, y: 180 }),
      post: [270, 380],
    };
    const { off, lost } = followed(motion, width, height);
    expect(mean(off)).toBeLessThan(0.25);
    expect(max(...off)).toBeLessThan(2);
    // Its middle is behind the post from frame 17 to 26: lost by three frames after, found again soon.
    const hidden = Array.from({ length: 10 }, (_x, i) => 17 + i);
    expect(lost).toEqual(expect.arrayContaining(hidden.slice(3)));
    expect(lost[0]).toBeGreaterThanOrEqual(14);
    expect(lost.at(-1)).toBeLessThanOrEqual(33);
  });

  it('is lost within three frames of leaving the picture, for good', () => {
    const motion: Motion = { frames: 30, pose: (t) => ({ ...still, x: 400 + 13 * t, y: 180 }) };
    const { off, lost } = followed(motion, width, height);
    expect(max(...off)).toBeLessThan(1);
    // Its middle leaves after frame 18.
    expect(lost[0]).toBeLessThanOrEqual(21);
    expect(lost).toHaveLength(30 - lost[0]!);
  });
});

describe.each([
  ['coarse and faint', 12, [90, 160]],
  ['fine and strong', 5, [20, 230]],
] as const)('on a board whose texture is %s', (_, square, range) => {
  const pose = (t: number) => ({ x: 120 + 3.3 * t, y: 180 + 60 * sin(t / 11) });
  const pictures = Array.from({ length: 22 }, (_x, t) =>
    pyramidOf(boardFrame({ width: 120, height: 90, square, range, pose }, t, 480, HEIGHT), LEVELS),
  );
  it.each([
    ['a box on it', 104, 76],
    ['one with a little ground', 124, 94],
    ['a point in its middle', 48, 48],
  ] as const)('%s is followed, whatever the number on it turns to', (_words, width, height) => {
    const follower = new Follower(pictures[0]!, { ...pose(0), ...still }, width, height);
    for (let t = 1; t < pictures.length; t++) {
      const step = follower.next(pictures[t]!);
      expect([t, step !== undefined]).toEqual([t, true]);
      expect(hypot(step!.pose.x - pose(t).x, step!.pose.y - pose(t).y)).toBeLessThan(1.5);
    }
  });
});

const even = (value: (x: number, y: number) => number): Luma => ({
  width: 320,
  height: 180,
  data: Uint8Array.from({ length: 320 * 180 }, (_, i) => value(i % 320, Math.floor(i / 320))),
});

it.each([
  ['on a flat wall', even(() => 128)],
  ['in darkness', even((x, y) => 16 + ((x * 7 + y * 13) % 3))],
  ['along one edge', even((x) => (x < 160 ? 40 : 200))],
] as const)('there is nothing to hold on to %s', (_, picture) => {
  const follower = new Follower(pyramidOf(picture, LEVELS), { x: 160, y: 90, size: 1, turn: 0 }, 48, 48);
  expect(follower.holds).toBe(false);
});

it('another scene is not taken for it', () => {
  const motion = VISIBLE['goes']!;
  const first = pyramidOf(frameOf(motion, 0, WIDTH, HEIGHT), LEVELS);
  const follower = new Follower(first, { ...motion.pose(0), size: 1, turn: 0 }, 48, 48);
  const other = pyramidOf(
    even((x, y) => 128 + 80 * sin(x / 7) * sin(y / 5)),
    LEVELS,
  );
  for (let i = 0; i < 6; i++) expect(follower.next(other)).toBeUndefined();
});
