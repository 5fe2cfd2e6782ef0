import { FrameServer, type OpenRun } from './frame-server';

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
    try {
      for (let frame = key; frame <= last; frame++) {
        if (bad.includes(frame)) {
          yield { frame, damaged: true, picture: undefined };
          continue;
        }
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
  for await (const { picture } of server.serve(request, new AbortController().signal)) {
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

  it('shows the good frame before in place of a damaged one, and counts it', async () => {
    const decoder = fakeDecoder([3, 4]);
    const server = new FrameServer(decoder.openRun, () => 1);
    expect(await showAll(server, up(0, 6), 20)).toEqual([0, 1, 2, 2, 2, 5, 6]);
    expect([...server.damaged]).toEqual([3, 4]);
    await server.clear();
    expect(decoder.made.every((p) => p.closed === 1)).toBe(true);
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
});
