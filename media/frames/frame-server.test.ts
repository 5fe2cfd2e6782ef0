import fc from 'fast-check';
import { FrameServer, type OpenRun } from './frame-server';
import type { SharedPicture } from './shared-picture';

class FakePicture {
  closed = 0;
  constructor(readonly frame: number) {}
  close() {
    this.closed++;
  }
}

/** A decoder that hands out numbered pictures and remembers what it was asked for. */
function fakeDecoder(bad: number[] = []) {
  const made: FakePicture[] = [];
  const runs: [number, number][] = [];
  let open = 0;
  const openRun: OpenRun<FakePicture> = async function* (key, last, keeping) {
    runs.push([key, last]);
    open++;
    let good: number | undefined;
    try {
      for (let frame = key; frame <= last; frame++) {
        if (bad.includes(frame)) {
          const standIn = good === undefined || !keeping() ? undefined : new FakePicture(good);
          if (standIn) made.push(standIn);
          yield { frame, damaged: true, picture: standIn };
          continue;
        }
        good = frame;
        const picture = keeping() ? new FakePicture(frame) : undefined;
        if (picture) made.push(picture);
        yield { frame, damaged: false, picture };
      }
    } finally {
      open--;
    }
  };
  return { openRun, made, runs, openRuns: () => open };
}

const up = (a: number, b: number) => Array.from({ length: b - a + 1 }, (_, i) => a + i);

async function showAll(
  server: FrameServer<FakePicture>,
  wanted: number[],
  capacity: number,
  loops = false,
  most = Infinity,
) {
  const shown: (number | undefined)[] = [];
  const request = { wanted: Int32Array.from(wanted), loops, start: 0, keys: [0], capacity };
  for await (const {
    pictures: [picture],
  } of server.serve(request, new AbortController().signal)) {
    expect(picture === undefined || picture.picture.closed === 0).toBe(true);
    shown.push(picture?.picture.frame);
    picture?.release();
    if (shown.length >= most) break;
  }
  return shown;
}

describe('the frame server', () => {
  it('serves a boomerang from one run, and closes every picture exactly once', async () => {
    const decoder = fakeDecoder();
    const server = new FrameServer(decoder.openRun, () => 1);
    const wanted = [...up(5, 14), ...up(6, 13).reverse()];
    expect(await showAll(server, wanted, 20, true, 18 * 4)).toEqual([
      ...wanted,
      ...wanted,
      ...wanted,
      ...wanted,
    ]);
    expect(decoder.runs).toEqual([[0, 14]]);
    expect(decoder.made).toHaveLength(10);
    expect(server.peakBytes).toBe(10);
    await server.clear();
    expect(decoder.made.map((p) => p.closed)).toEqual(decoder.made.map(() => 1));
    expect(decoder.openRuns()).toBe(0);
  });

  it('stays within its capacity however long the way back', async () => {
    const decoder = fakeDecoder();
    const server = new FrameServer(decoder.openRun, () => 1);
    const wanted = up(0, 39).reverse();
    expect(await showAll(server, wanted, 12)).toEqual(wanted);
    expect(server.peakBytes).toBeLessThanOrEqual(12);
    await server.clear();
    expect(decoder.made.every((p) => p.closed === 1)).toBe(true);
  });

  it('shows what the run gives in place of a damaged frame, and counts it', async () => {
    const decoder = fakeDecoder([3, 4]);
    const server = new FrameServer(decoder.openRun, () => 1);
    expect(await showAll(server, up(0, 6), 20)).toEqual([0, 1, 2, 2, 2, 5, 6]);
    expect([...server.damaged]).toEqual([3, 4]);
    await server.clear();
    expect(decoder.made.every((p) => p.closed === 1)).toBe(true);
  });

  it('gives away what is decoded on the way where it is wanted, and keeps none of it', async () => {
    const decoder = fakeDecoder([2]);
    const server = new FrameServer(decoder.openRun, () => 1);
    const given: number[] = [];
    let asked = 0;
    const onTheWay = {
      // The third and the fourth.
      wants: () => [3, 4].includes(++asked),
      give: (shared: SharedPicture<FakePicture>) => {
        given.push(shared.picture.frame);
        shared.release();
      },
    };
    const request = { wanted: Int32Array.of(6), loops: false, start: 0, keys: [0], capacity: 5 };
    const shown: (number | undefined)[] = [];
    for await (const { pictures } of server.serve(request, new AbortController().signal, onTheWay)) {
      shown.push(pictures[0]?.picture.frame);
      pictures[0]?.release();
    }
    // The damaged one has the good one before it in its place.
    expect(given).toEqual([1, 3]);
    expect(shown).toEqual([6]);
    await server.clear();
    expect(decoder.made.map((p) => p.closed)).toEqual(decoder.made.map(() => 1));
  });

  it('has nothing to show where no frame before is good', async () => {
    const server = new FrameServer(fakeDecoder([0, 1]).openRun, () => 1);
    expect(await showAll(server, [0, 1, 2], 5)).toEqual([undefined, undefined, 2]);
  });

  it('a serving that is given up leaves its run closed and its pictures held for the next', async () => {
    const decoder = fakeDecoder();
    const server = new FrameServer(decoder.openRun, () => 1);
    await showAll(server, up(0, 30), 40, false, 10);
    expect(decoder.openRuns()).toBe(0);
    await showAll(server, up(0, 8).reverse(), 40);
    expect(decoder.runs).toHaveLength(1);
  });

  it('random rows of pieces over several clips: every picture is its own, no run leaves its clip', async () => {
    const clip = fc.record({
      length: fc.integer({ min: 1, max: 30 }),
      keys: fc.uniqueArray(fc.integer({ min: 1, max: 29 }), { maxLength: 4 }),
    });
    const piece = fc.record({ clip: fc.nat(), from: fc.nat(), to: fc.nat(), backward: fc.boolean() });
    await fc.assert(
      fc.asyncProperty(
        fc.array(clip, { minLength: 1, maxLength: 4 }),
        fc.array(piece, { minLength: 1, maxLength: 6 }),
        fc.integer({ min: 1, max: 40 }),
        async (clips, pieces, capacity) => {
          const starts: number[] = [];
          const keys: number[] = [];
          let total = 0;
          for (const c of clips) {
            starts.push(total);
            const own = [0, ...c.keys.filter((k) => k < c.length)].sort((a, b) => a - b);
            keys.push(...own.map((k) => total + k));
            total += c.length;
          }
          // Whole clips in a row, from first frame to last, are the case that went wrong.
          const rows = pieces.flatMap((p, i) => {
            const n = (p.clip + i) % clips.length;
            const { length } = clips[n]!;
            const whole = p.from % 2 === 0;
            const [a, b] = whole ? [0, length - 1] : [p.from % length, p.to % length].sort((x, y) => x - y);
            const frames = up(starts[n]! + a!, starts[n]! + b!);
            return p.backward ? frames.reverse() : frames;
          });
          const decoder = fakeDecoder();
          const server = new FrameServer(decoder.openRun, () => 1);
          const shown: (number | undefined)[] = [];
          const request = {
            wanted: Int32Array.from(rows),
            loops: false,
            start: 0,
            keys,
            clipStarts: starts,
            capacity,
          };
          for await (const {
            pictures: [picture],
          } of server.serve(request, new AbortController().signal)) {
            shown.push(picture?.picture.frame);
            picture?.release();
          }
          expect(shown).toEqual(rows);
          for (const [key, last] of decoder.runs)
            expect(starts.findLastIndex((s) => s <= key)).toBe(starts.findLastIndex((s) => s <= last));
          await server.clear();
          expect(decoder.made.every((p) => p.closed === 1)).toBe(true);
        },
      ),
    );
  });
});
