import type { PacketIndex } from '../reader/packet-index';
import { ClipRow } from './clip-row';
import { placeInFrame } from '@skipback/core/steady/framing';

const index = (count: number, keys: number[]): PacketIndex => ({
  times: new Float64Array(count),
  decodePlaces: new Uint32Array(count),
  framesInDecodeOrder: new Int32Array(count),
  keys,
  keyPlaces: keys,
  keyTimesS: keys.map((k) => k / 30),
});
const source = (clipId: string, count: number, keys: number[]) => ({
  clipId,
  framing: 'fit' as const,
  file: new Blob(),
  index: index(count, keys),
});

describe('a row of clips', () => {
  const row = new ClipRow([source('a', 100, [0, 50]), source('b', 10, [0]), source('c', 30, [0, 12])]);

  it('numbers the frames through, each clip from a key frame', () => {
    expect(row.keys).toEqual([0, 50, 100, 110, 122]);
    expect([row.numberOf('a', 99), row.numberOf('b', 0), row.numberOf('c', 5), row.numberOf('x', 0)]).toEqual(
      [99, 100, 115, undefined],
    );
  });

  it('finds the clip behind a number', () => {
    expect(row.locate(99)).toMatchObject({ place: 0, frame: 99 });
    expect(row.locate(100)).toMatchObject({ place: 1, frame: 0 });
    expect(row.locate(139)).toMatchObject({ place: 2, frame: 29 });
  });
});

it.each([
  [{ width: 1920, height: 1080 }, 'fit', { x: 0, y: 0, width: 1280, height: 720 }],
  [{ width: 640, height: 480 }, 'fit', { x: 160, y: 0, width: 960, height: 720 }],
  [{ width: 720, height: 1280 }, 'fit', { x: 438, y: 0, width: 405, height: 720 }],
  [{ width: 640, height: 480 }, 'fill', { x: 0, y: -120, width: 1280, height: 960 }],
  [{ width: 640, height: 480 }, 'centre', { x: 320, y: 120, width: 640, height: 480 }],
] as const)('%o placed to %s', (picture, framing, box) =>
  expect(placeInFrame(picture, { width: 1280, height: 720 }, framing)).toEqual(box),
);
