import { frame } from '@skipback/core/time/units';
import { SharedPicture } from '../frames/shared-picture';
import { Filling, type Making } from './filling';
import { PictureClock, ReadyPictures } from './picture-clock';
import { playOrder } from './play-order';
import type { Screen, ShownPicture } from './screen';
import type { ScreenLooks } from './screen-looks';

const RATE = 30;
const LOOKS = { any: false, meanMs: 0, coarser: () => false } as unknown as ScreenLooks;
const pause = (ms: number) => new Promise<void>((resolve) => void setTimeout(resolve, ms));

interface Machine {
  /** Milliseconds to decode a frame, and to make a picture of it. */
  readonly decodeMs: number;
  readonly makeMs: number;
  /** Frames between two that decoding can begin at. */
  readonly group?: number;
  readonly frames: number;
  readonly loops?: boolean;
  /** Frames that are kept once decoded. */
  readonly keeps?: number;
  /** Milliseconds [from, to) of playing in which the display is not refreshed. */
  readonly hidden?: readonly [number, number];
}

/** Plays on a machine, for `ms` at most: what was on the screen when, how far behind, and what is told. */
async function played(machine: Machine, ms: number) {
  const { decodeMs, makeMs, group = 30, frames, loops = false, keeps = 0, hidden } = machine;
  const abort = new AbortController();
  const order = playOrder(0, 1, 0, frames);
  let [open, decoded] = [0, 0];
  const kept = new Set<number>();
  const making: Making = {
    async *serve(positions, start, again) {
      let cursor = -2;
      for (let i = start; again || i < positions.length; i++) {
        const at = i % positions.length;
        const position = positions[at]!;
        if (!kept.has(position)) {
          const key = position - (position % group);
          if (cursor < key || cursor > position) cursor = key - 1;
          for (; cursor < position; cursor++, decoded++) if (decodeMs > 0) await pause(decodeMs);
          if (makeMs > 0) await pause(makeMs);
          if (kept.size < keeps) kept.add(position);
        }
        open++;
        const close = () => void open--;
        yield {
          at,
          make: async () => new SharedPicture({ close } as unknown as ShownPicture, 1),
          release: close,
        };
      }
    },
    depth: () => 1,
    wayTo: (position) => (position % group) + 1,
    passingMs: () => decodeMs,
    decoded: () => decoded,
  };
  let due = 0;
  const shown: { readonly ms: number; readonly position: number }[] = [];
  const behind: { readonly ms: number; readonly frames: number }[] = [];
  let began: number | undefined;
  const screen = { show: () => undefined } as unknown as Screen;
  const follower = new PictureClock(
    screen,
    LOOKS,
    (reply) => {
      if (reply.kind === 'began') began = performance.now();
      if (reply.kind === 'shown-result')
        shown.push({ ms: performance.now() - began!, position: reply.position });
    },
    () => undefined,
  );
  /** At a refresh of the display, once what was due then is on it. */
  const look = () => {
    if (began === undefined) return;
    const at = performance.now() - began;
    due = Math.floor((at / 1000) * RATE);
    const wanted = loops ? due % frames : Math.min(due, frames - 1);
    const far = wanted - (shown.at(-1)?.position ?? 0);
    // A second after the tab was seen again it counts as one that just began.
    const counts = !hidden || at < hidden[0] || at > hidden[1] + 1000;
    if (counts) behind.push({ ms: at, frames: loops && far < 0 ? far + frames : far });
  };
  const real = globalThis.requestAnimationFrame;
  globalThis.requestAnimationFrame = (call) => {
    const at = began === undefined ? 0 : performance.now() - began;
    const wait = hidden && at >= hidden[0] && at < hidden[1] ? hidden[1] - at : 16;
    const refresh = () => {
      call(performance.now());
      void Promise.resolve()
        .then(() => pause(0))
        .then(look);
    };
    return setTimeout(refresh, wait) as unknown as number;
  };
  const waiting = new ReadyPictures(10);
  abort.signal.addEventListener('abort', () => {
    waiting.clear();
    waiting.taken();
  });
  const filling = new Filling(order, loops, RATE, waiting, making);
  follower.begin();
  let ended = false;
  const filled = filling.fill(abort.signal);
  const followed = follower
    .follow(waiting, frame(0), filling.lastTurn, RATE, abort.signal)
    .then((all) => (ended = all));
  await jest.advanceTimersByTimeAsync(ms);
  const { late } = follower;
  abort.abort();
  await jest.advanceTimersByTimeAsync(10_000);
  await Promise.all([filled, followed]);
  globalThis.requestAnimationFrame = real;
  return { shown, behind, ended, late, open, due };
}

describe('playing', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  it.each([
    [30, 5],
    [90, 5],
    [3, 0],
  ])('once, %i frames: all of them are shown, the last one too', async (frames, decodeMs) => {
    const { shown, ended, late, open } = await played({ decodeMs, makeMs: 0, frames }, 10_000);
    expect(shown.map((s) => s.position)).toEqual(Array.from({ length: frames }, (_, i) => i));
    expect({ ended, late, open }).toEqual({ ended: true, late: 0, open: 0 });
  });

  it('once, too slow: ends with its last frame, when it is over', async () => {
    const { shown, ended, open } = await played({ decodeMs: 1, makeMs: 97, frames: 90 }, 3600);
    expect(shown.at(-1)!.position).toBe(89);
    expect({ ended, open }).toEqual({ ended: true, open: 0 });
  });

  it.each([
    ['from cold', { decodeMs: 1, makeMs: 97 }],
    ['with long groups', { decodeMs: 8, makeMs: 70, group: 250 }],
    ['in a loop of which nothing is kept', { decodeMs: 1, makeMs: 97, frames: 120, loops: true }],
    ['after a hidden tab', { decodeMs: 1, makeMs: 20, hidden: [2000, 8000] as const }],
    ['slow, after a hidden tab', { decodeMs: 1, makeMs: 97, hidden: [2000, 8000] as const }],
  ])('a third of real time %s is never more than three frames behind after a second', async (_, machine) => {
    const { behind, late, shown, due, open } = await played({ frames: 600, ...machine }, 14_000);
    expect(Math.max(...behind.filter((b) => b.ms > 1000).map((b) => b.frames))).toBeLessThanOrEqual(3);
    // Looked at a refresh apart.
    expect(Math.abs(due + 1 - shown.length - late)).toBeLessThanOrEqual(1);
    expect(open).toBe(0);
  });

  it('goes on where it can be in time where decoding itself is too slow', async () => {
    const { behind, shown } = await played({ decodeMs: 60, makeMs: 5, group: 30, frames: 900 }, 20_000);
    expect(shown.length).toBeGreaterThan(35);
    // There is a place to begin at every second: a picture comes before that is over twice.
    expect(Math.max(...behind.filter((b) => b.ms > 1000).map((b) => b.frames))).toBeLessThanOrEqual(60);
  });

  it('shows every frame of a slow loop once it is kept', async () => {
    const machine = { decodeMs: 1, makeMs: 97, frames: 60, loops: true, keeps: 60 };
    const { shown, open } = await played(machine, 40_000);
    const last = shown.filter((s) => s.ms > 36_000).map((s) => s.position);
    expect(last.slice(1).every((p, i) => p === (last[i]! + 1) % 60)).toBe(true);
    expect(open).toBe(0);
  });
});
