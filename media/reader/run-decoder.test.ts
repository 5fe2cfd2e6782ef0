import type { FilmFile } from './clip-file';
import type { PacketIndex } from './packet-index';
import { type DecodeCounters, decodeRun } from './run-decoder';

/** A decoder that gives a picture a packet; one of a graphics card is taken away after some. */
function fakeDecoders(givesUpAfter: number, alsoInSoftware = false, silently = false) {
  const begun: boolean[] = [];
  class FakeDecoder extends EventTarget {
    state = 'unconfigured';
    decodeQueueSize = 0;
    private given = 0;
    private software = false;
    constructor(private readonly hear: { output(p: unknown): void; error(e: Error): void }) {
      super();
    }
    configure({ hardwareAcceleration }: { hardwareAcceleration?: string }) {
      this.state = 'configured';
      this.software = hardwareAcceleration === 'prefer-software';
      begun.push(this.software);
    }
    decode({ timestamp }: { timestamp: number }) {
      if (this.given++ < givesUpAfter || (this.software && !alsoInSoftware))
        return this.hear.output({ timestamp, close: () => undefined });
      if (silently) return;
      this.state = 'closed';
      this.hear.error(new Error('taken away'));
    }
    async flush() {
      if (silently && !this.software) return new Promise<void>(() => undefined);
      if (this.state !== 'configured') throw new Error('closed');
    }
    close() {
      this.state = 'closed';
    }
  }
  Object.assign(globalThis, {
    VideoDecoder: FakeDecoder,
    EncodedVideoChunk: class {
      constructor(of: object) {
        Object.assign(this, of);
      }
    },
  });
  return begun;
}

const FRAMES = 10;
const index = {
  ...{ keys: [0, 5], keyPlaces: [0, 5], keyTimesS: [0, 1] },
  framesInDecodeOrder: Int32Array.from({ length: FRAMES }, (_, i) => i),
  decodePlaces: Int32Array.from({ length: FRAMES }, (_, i) => i),
} as unknown as PacketIndex;

function file(): FilmFile {
  const at = (n: number) => (n < FRAMES ? { n, data: new Uint8Array(1), timestamp: n / 5 } : null);
  return {
    kind: 'film',
    stills: false,
    track: { getDecoderConfig: async () => ({ codec: 'vp8', codedHeight: 720 }) },
    packets: {
      getFirstPacket: async () => at(0),
      getKeyPacket: async () => at(5),
      getNextPacket: async ({ n }: { n: number }) => at(n + 1),
    },
  } as unknown as FilmFile;
}

async function decoded(
  of: FilmFile,
  from = 0,
): Promise<{ frames: (number | string)[]; counters: DecodeCounters }> {
  const counters = { decoded: 0, open: 0 };
  const frames: (number | string)[] = [];
  for await (const { frame, picture } of decodeRun(of, index, from, FRAMES - 1, counters))
    frames.push(picture ? frame : `${frame} lost`);
  return { frames, counters };
}
const ALL = Array.from({ length: FRAMES }, (_, i) => i);

it('a decoder that gives up is tried once more without the graphics card, from where it was', async () => {
  const begun = fakeDecoders(3);
  const film = file();
  expect((await decoded(film)).frames).toEqual(ALL);
  expect(begun).toEqual([false, true]);
  // The file stays with what worked.
  const again = await decoded(film);
  expect([again.frames, again.counters.open]).toEqual([ALL, 0]);
  expect(begun).toEqual([false, true, true]);
});

it('what is not decoded without it either is damaged, up to the next key frame', async () => {
  const begun = fakeDecoders(3, true);
  const { frames, counters } = await decoded(file());
  expect(frames).toEqual([0, 1, 2, '3 lost', '4 lost', 5, 6, 7, '8 lost', '9 lost']);
  expect(counters.open).toBe(0);
  expect(begun).toEqual([false, true, true]);
});

it('one that gives no answer any more is not waited for for ever', async () => {
  jest.useFakeTimers({ doNotFake: ['queueMicrotask', 'performance'] });
  try {
    const begun = fakeDecoders(3, false, true);
    const [{ frames, counters }] = await Promise.all([
      decoded(file()),
      jest.advanceTimersByTimeAsync(20_000),
    ]);
    expect([frames, counters.open]).toEqual([ALL, 0]);
    expect(begun).toEqual([false, true]);
  } finally {
    jest.useRealTimers();
  }
});
