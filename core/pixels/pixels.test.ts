import { type Colour, SHARES, colourOf, differencesToRgb } from './colour';
import { toWorkingColour } from './convert';
import { HighRange } from './high-range';
import { fromRgba, turned } from './incoming';
import { Placer } from './place';
import { type Planes, halfOf, planesBytes, planesIn } from './planes';
import { Surface } from './surface';

const blank = (width: number, height: number): Planes =>
  planesIn(new Uint8Array(planesBytes(width, height)), width, height);

/** One colour all over, encoded in exact arithmetic. */
function flat(width: number, height: number, rgb: readonly [number, number, number], colour: Colour): Planes {
  const { red, blue } = SHARES[colour.matrix];
  const [r, g, b] = rgb.map((v) => v / 255) as [number, number, number];
  const l = red * r + (1 - red - blue) * g + blue * b;
  const [cb, cr] = [(b - l) / (2 * (1 - blue)), (r - l) / (2 * (1 - red))];
  const planes = blank(width, height);
  planes.y.fill(Math.round(colour.fullRange ? 255 * l : 16 + 219 * l));
  planes.u.fill(Math.min(255, Math.round(128 + (colour.fullRange ? 255 : 224) * cb)));
  planes.v.fill(Math.min(255, Math.round(128 + (colour.fullRange ? 255 : 224) * cr)));
  return planes;
}
const rgbaOf = (planes: Planes): number[] => {
  const surface = new Surface(planes.width, planes.height);
  surface.load(planes);
  return [...surface.pixels.subarray(0, 3)];
};
const BARS: readonly (readonly [number, number, number])[] = [
  [255, 255, 255],
  [255, 255, 0],
  [0, 255, 255],
  [0, 255, 0],
  [255, 0, 255],
  [255, 0, 0],
  [0, 0, 255],
  [0, 0, 0],
  [200, 200, 200],
  [180, 90, 40],
];
const COLOURS: Colour[] = (['bt709', 'bt601'] as const).flatMap((matrix) =>
  [true, false].map((fullRange) => ({ matrix, transfer: 'sdr' as const, fullRange })),
);

describe('colour', () => {
  it.each(COLOURS)('bars in %o come back within three levels', (colour) => {
    for (const bar of BARS) {
      const planes = flat(5, 3, bar, colour);
      toWorkingColour(planes, colour);
      rgbaOf(planes).forEach((v, i) => expect(Math.abs(v - bar[i]!)).toBeLessThanOrEqual(3));
    }
  });

  it('grey 200 is one and the same level from every colour', () => {
    const levels = COLOURS.map((colour) => {
      const planes = flat(4, 4, [200, 200, 200], colour);
      toWorkingColour(planes, colour);
      return planes.y[5]!;
    });
    expect(new Set(levels).size).toBe(1);
  });

  it('red, green and blue go in and come out again, odd sizes included', () => {
    for (const bar of BARS) {
      const rgba = new Uint8Array(4 * 3 * 5);
      for (let i = 0; i < 15; i++) rgba.set([...bar, 255], 4 * i);
      const planes = blank(3, 5);
      fromRgba(rgba, false, planes);
      rgbaOf(planes).forEach((v, i) => expect(Math.abs(v - bar[i]!)).toBeLessThanOrEqual(3));
    }
  });

  it('untagged pictures are BT.709 from 720 lines on, BT.601 below, and tags come first', () => {
    expect(colourOf({ matrix: null, fullRange: false }, 720).matrix).toBe('bt709');
    expect(colourOf({}, 719).matrix).toBe('bt601');
    expect(colourOf({ matrix: 'smpte170m' }, 1080).matrix).toBe('bt601');
    expect(colourOf({ matrix: 'bt2020-ncl', transfer: 'hlg' }, 480)).toEqual({
      matrix: 'bt2020',
      transfer: 'hlg',
      fullRange: false,
    });
  });

  it('blue is what the matrix says', () => expect(differencesToRgb('bt709').blueOfCb).toBeCloseTo(1.8556, 4));
});

describe('high range', () => {
  const deep = (l: number, bits = 10) => {
    const value = Math.round((16 + 219 * l) * (1 << (bits - 8)));
    const half = 128 << (bits - 8);
    return {
      ...{ width: 2, height: 2, bits },
      y: new Uint16Array(4).fill(value),
      u: new Uint16Array(1).fill(half),
      v: new Uint16Array(1).fill(half),
    };
  };
  const grey = (transfer: 'hlg' | 'pq', l: number) => {
    const to = blank(2, 2);
    new HighRange(transfer, 'bt2020', false, 10).convert(deep(l), to);
    expect([to.u[0], to.v[0]]).toEqual([128, 128]);
    return rgbaOf(to)[0]!;
  };

  it('HLG gets brighter all the way, its reference white is nearly white, and black stays black', () => {
    const levels = Array.from({ length: 21 }, (_, i) => grey('hlg', i / 20));
    levels.forEach((v, i) => i > 0 && expect(v).toBeGreaterThanOrEqual(levels[i - 1]!));
    expect(levels[0]).toBe(0);
    expect(grey('hlg', 0.75)).toBeGreaterThan(235);
    // Middle grey of HLG (38 %) is a middle grey again, not a flat one.
    expect(grey('hlg', 0.38)).toBeGreaterThan(95);
    expect(grey('hlg', 0.38)).toBeLessThan(150);
  });

  it('PQ shows 203 cd/m² nearly white, and 10,000 no brighter than white', () => {
    expect(grey('pq', 0.58)).toBeGreaterThan(235);
    expect(grey('pq', 1)).toBeLessThanOrEqual(255);
    expect(grey('pq', 0.2)).toBeLessThan(45);
  });
});

describe('placing', () => {
  const ramp = (width: number, height: number): Planes => {
    const p = blank(width, height);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) p.y[y * width + x] = (16 + 3 * x + 5 * y) % 220;
    for (let i = 0; i < p.u.length; i++) [p.u[i], p.v[i]] = [100 + (i % 50), 200 - (i % 50)];
    return p;
  };

  it.each([
    [7, 5],
    [16, 9],
    [1, 1],
    [33, 2],
  ])('a picture of %d by %d at its own size stays byte for byte', (width, height) => {
    const from = ramp(width, height);
    const to = blank(width, height);
    new Placer(from, to, { x: 0, y: 0, width, height }).place(from, to);
    expect([to.y, to.u, to.v]).toEqual([from.y, from.u, from.v]);
  });

  it.each([
    [0.25, 3],
    [0.5, 2],
    [0.77, 1],
    [1.5, 1],
    [3, 1],
  ])('a flat picture stays flat at %d times its size, black around it', (scale) => {
    const from = flat(40, 30, [180, 90, 40], COLOURS[1]!);
    const [width, height] = [Math.round(40 * scale), Math.round(30 * scale)];
    const to = blank(width + 20, height + 10);
    new Placer(from, to, { x: 10, y: 5, width, height }).place(from, to);
    expect(to.y[0]).toBe(16);
    const middle = (5 + (height >> 1)) * to.width + 10 + (width >> 1);
    expect(to.y[middle]).toBe(from.y[0]);
    const chroma = ((5 + (height >> 1)) >> 1) * halfOf(to.width) + ((10 + (width >> 1)) >> 1);
    expect([to.u[chroma], to.v[chroma]]).toEqual([from.u[0], from.v[0]]);
  });

  it('fills over the edges without leaving the frame', () => {
    const from = ramp(64, 48);
    const to = blank(64, 36);
    new Placer(from, to, { x: 0, y: -6, width: 64, height: 48 }).place(from, to);
    expect(to.y.subarray(0, 64)).toEqual(from.y.subarray(6 * 64, 7 * 64));
  });

  it.each([0, 90, 180, 270] as const)('turned by %d and back it is itself, flipped too', (rotation) => {
    const from = ramp(7, 5);
    const back = turned(turned(from, { rotation, flip: false }), {
      rotation: ((360 - rotation) % 360) as 0,
      flip: false,
    });
    expect([back.y, back.u, back.v]).toEqual([from.y, from.u, from.v]);
    const flipped = turned(turned(from, { rotation: 0, flip: true }), { rotation: 0, flip: true });
    expect(flipped.y).toEqual(from.y);
  });

  it('turned by 90 degrees the top left corner is at the top right', () => {
    const from = blank(4, 2);
    from.y[0] = 99;
    const to = turned(from, { rotation: 90, flip: false });
    expect([to.width, to.height, to.y[to.width - 1]]).toEqual([2, 4, 99]);
  });
});
