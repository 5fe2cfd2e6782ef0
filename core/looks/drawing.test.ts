/** What treatments do to small pictures: exact values, at edges, at odd sizes. */
import { Surface, weightOf } from '../pixels/surface';
import { bytesOf } from '../base64';
import { readCube, writeCube } from './cube';
import { drawStack, tablesOf } from './draw';
import { factsOfPiece } from './facts';
import { LookSchema } from './look';
import { track } from './looks-fixtures';
import { TREATMENTS } from './registry';
import { resolveLooks } from './resolve';

type Pixel = readonly [number, number, number];
const facts = factsOfPiece(
  track([100, 160], { move: 'boomerang', values: { trips: 1, turn: 'twice' } }).pieces[0]!.compiled,
  true,
);

/** A picture as a look shows it at result frame `at`, as rows of pixels. */
function drawn(
  picture: readonly (readonly Pixel[])[],
  look: string,
  values: object,
  { at = 0, unit = 1, strength = 100 } = {},
): number[][][] {
  const [height, width] = [picture.length, picture[0]!.length];
  const surface = new Surface(width, height);
  surface.loadRgba(picture.flatMap((row) => row.flatMap((p) => [...p, 255])));
  const resolved = resolveLooks([LookSchema.parse({ id: 'x', look, values, strength })], facts);
  drawStack(surface, resolved.drawn[at]!, unit, tablesOf(Object.fromEntries(resolved.tables)));
  const { pixels } = surface;
  return Array.from({ length: height }, (_, y) =>
    Array.from({ length: width }, (_, x) => [...pixels.slice(4 * (y * width + x), 4 * (y * width + x) + 3)]),
  );
}
const grey = (...values: number[]): Pixel[] => values.map((v) => [v, v, v]);
const values = (rows: number[][][], channel = 0) => rows.map((row) => row.map((p) => p[channel]!));

describe('flash', () => {
  it('is whole at its hit and fades', () => {
    expect(values(drawn([grey(0, 100, 255)], 'flash', { fall: 3 }))).toEqual([[255, 255, 255]]);
    const quarter = values(drawn([grey(0, 100, 255)], 'flash', { fall: 3 }, { at: 3 }));
    expect(quarter).toEqual([
      [0, 100, 255].map((v) => (v * (256 - weightOf(0.25)) + 255 * weightOf(0.25) + 128) >> 8),
    ]);
  });
  it('of the negative, of hard black and white, of a colour', () => {
    expect(values(drawn([grey(0, 100, 255)], 'flash', { kind: 'inverted' }))).toEqual([[255, 155, 0]]);
    expect(values(drawn([grey(0, 127, 128, 255)], 'flash', { kind: 'hard', threshold: 50 }))).toEqual([
      [0, 0, 255, 255],
    ]);
    expect(drawn([grey(9)], 'flash', { kind: 'colour', colour: '#102030' })).toEqual([[[16, 32, 48]]]);
  });
});

describe('split', () => {
  it('shifts red and blue their own ways; what comes in is the edge going on', () => {
    const row = drawn([grey(10, 20, 30, 40, 50)], 'split', { redX: 1, blueX: -2 });
    expect(values(row, 0)).toEqual([[10, 10, 20, 30, 40]]);
    expect(values(row, 1)).toEqual([[10, 20, 30, 40, 50]]);
    expect(values(row, 2)).toEqual([[30, 40, 50, 50, 50]]);
  });
  it('half as strong goes half as far; smaller than the project, so do its pixels', () => {
    const half = drawn([grey(10, 20, 30, 40, 50)], 'split', { redX: 2, blueX: 0 }, { strength: 50 });
    expect(values(half, 0)).toEqual([[10, 10, 20, 30, 40]]);
    expect(drawn([grey(10, 20, 30)], 'split', { redX: 2, blueX: 0 }, { unit: 0.5 })).toEqual(
      drawn([grey(10, 20, 30)], 'split', { redX: 1, blueX: 0 }),
    );
  });
});

describe('punch', () => {
  it('twice as close shows the middle, each pixel twice as wide', () => {
    const row = values(drawn([grey(0, 80, 160, 240)], 'punch', { zoom: 200, edges: 'stretched' }));
    expect(row).toEqual([[60, 100, 140, 180]]);
  });
  it('moved aside: mirrored, stretched or black beyond the edge', () => {
    const moved = (edges: string) =>
      values(drawn([grey(10, 20, 30, 40)], 'punch', { zoom: 100, x: 2, edges }));
    expect(moved('mirrored')).toEqual([[20, 10, 10, 20]]);
    expect(moved('stretched')).toEqual([[10, 10, 10, 20]]);
    expect(moved('black')).toEqual([[0, 0, 10, 20]]);
  });
  it('turned a quarter, clockwise', () => {
    const square = [grey(1, 2, 3), grey(4, 5, 6), grey(7, 8, 9)];
    expect(values(drawn(square, 'punch', { zoom: 100, angle: 90, edges: 'black' }))).toEqual([
      [7, 4, 1],
      [8, 5, 2],
      [9, 6, 3],
    ]);
  });
});

it('an outline is where brightness changes, alone or added', () => {
  const step = [grey(20, 20, 20, 220, 220, 220), grey(20, 20, 20, 220, 220, 220)];
  const own = { threshold: 10, width: 1, gain: 1, soft: 0, colour: '#ffffff' };
  // 200 of 255 less a threshold of 26.
  expect(values(drawn(step, 'outline', { ...own, laid: 'alone' }))[0]).toEqual([0, 0, 174, 174, 0, 0]);
  expect(values(drawn(step, 'outline', { ...own, laid: 'add' }))[0]).toEqual([20, 20, 194, 255, 220, 220]);
  expect(values(drawn(step, 'outline', { ...own, laid: 'alone', x: 2 }))[0]).toEqual([0, 0, 0, 0, 174, 174]);
});

describe('grade', () => {
  const plain = { contrast: 100 };
  it('changes nothing at rest, and greys stay grey', () => {
    expect(drawn([[[10, 90, 200]]], 'grade', plain)).toEqual([[[10, 90, 200]]]);
    expect(values(drawn([grey(10, 128, 250)], 'grade', { ...plain, saturation: 300 }))).toEqual([
      [10, 128, 250],
    ]);
  });
  it('a stop is twice the light; no saturation is brightness alone', () => {
    expect(values(drawn([grey(20, 60, 200)], 'grade', { ...plain, exposure: 1 }))).toEqual([[40, 120, 255]]);
    expect(drawn([[[255, 0, 0]]], 'grade', { ...plain, saturation: 0 })).toEqual([[[54, 54, 54]]]);
  });
  it('contrast turns about the middle', () =>
    expect(values(drawn([grey(28, 128, 228)], 'grade', { contrast: 200 }))).toEqual([[0, 129, 255]]));
  it('takes colour tables of one and three dimensions', () => {
    const negative = readCube('LUT_1D_SIZE 2\n1 1 1\n0 0 0\n', 'n.cube');
    const swapped = readCube(
      [
        'LUT_3D_SIZE 2',
        ...Array.from({ length: 8 }, (_, i) => `${(i >> 2) & 1} ${(i >> 1) & 1} ${i & 1}`),
      ].join('\n'),
      's.cube',
    );
    if (!negative.ok || !swapped.ok) throw new Error('a table was refused');
    expect(drawn([[[0, 100, 255]]], 'grade', { ...plain, table: negative.table })).toEqual([[[255, 155, 0]]]);
    expect(drawn([[[10, 90, 200]]], 'grade', { ...plain, table: swapped.table })).toEqual([[[200, 90, 10]]]);
  });
});

it('a vignette leaves the middle and takes the corners', () => {
  const white = Array.from({ length: 9 }, () => grey(...Array<number>(9).fill(255)));
  const rows = values(drawn(white, 'vignette', { amount: 100, size: 50, soft: 40 }));
  expect(rows[4]![4]).toBe(255);
  expect(rows[0]![0]).toBe(0);
  expect(rows[0]).toEqual([...rows[0]!].reverse());
  expect(rows.map((r) => r[0])).toEqual(rows[0]);
});

describe('blur', () => {
  it('along: a point becomes a line of its length, as bright altogether', () => {
    const point = [grey(...Array.from({ length: 33 }, (_, i) => (i === 16 ? 240 : 0)))];
    const row = values(drawn(point, 'blur', { length: 8 }))[0]!;
    const lit = row.flatMap((v, i) => (v > 0 ? [i] : []));
    expect(lit.at(-1)! - lit[0]! + 1).toBe(8);
    expect(row.reduce((a, b) => a + b)).toBeGreaterThan(232);
    expect(row.reduce((a, b) => a + b)).toBeLessThan(249);
  });
  it('leaves an even picture as it is, whichever way, at odd sizes too', () => {
    const even = Array.from({ length: 7 }, () => grey(...Array<number>(13).fill(93)));
    for (const kind of ['along', 'zoom', 'round'])
      expect(drawn(even, 'blur', { kind, length: 9, amount: 30, angle: 33 })).toEqual(even);
  });
});

describe('tint', () => {
  it('is one colour in light and dark, aside', () => {
    const row = drawn([grey(0, 100, 255)], 'tint', { colour: '#ff8000', x: 1, y: 0 });
    expect(row).toEqual([
      [
        [0, 0, 0],
        [0, 0, 0],
        [100, 50, 0],
      ],
    ]);
  });
  it('keeps its own colours by as much as its depth leaves', () => {
    expect(drawn([[[200, 100, 0]]], 'tint', { colour: '#ffffff', depth: 0, x: 0 })).toEqual([
      [[200, 100, 0]],
    ]);
    expect(drawn([[[200, 100, 0]]], 'tint', { colour: '#ffffff', depth: 100, x: 0 })).toEqual([
      [[114, 114, 114]],
    ]);
  });
});

it('a backdrop is darker and has less colour, by its strength', () => {
  const draw = (strength: number) =>
    drawn([[[200, 100, 0]]], 'backdrop', { blur: 0, dark: 50, saturation: 0 }, { strength });
  expect(draw(100)).toEqual([[[57, 57, 57]]]);
  expect(draw(50)).toEqual([[[118, 80, 43]]]);
});

describe('worn tape', () => {
  const flat = Array.from({ length: 40 }, () => grey(...Array.from({ length: 60 }, () => 100)));
  const still = { streaks: 0, wobble: 0, noise: 0, grey: 0, bleed: 0 };
  it('with nothing of it is the picture as it is', () => {
    expect(drawn(flat, 'worn-tape', still)).toEqual(flat);
  });
  it('streaks are others at every frame, the same every time, and only lighter', () => {
    const at = (frame: number) => drawn(flat, 'worn-tape', { ...still, streaks: 6 }, { at: frame });
    expect(at(3)).toEqual(at(3));
    expect(at(3)).not.toEqual(at(4));
    expect(Math.min(...at(3).flat(2))).toBe(100);
    expect(Math.max(...at(3).flat(2))).toBeGreaterThan(150);
  });
  it('grain stays around what was there', () => {
    const values = drawn(flat, 'worn-tape', { ...still, noise: 20 }).flat(2);
    expect(Math.max(...values) - 100).toBeLessThanOrEqual(26);
    expect(Math.abs(values.reduce((a, b) => a + b, 0) / values.length - 100)).toBeLessThan(1);
  });
});

describe('torn bars', () => {
  // Every column its own grey, so that it is seen how far a row went.
  const rows = Array.from({ length: 40 }, () => grey(...Array.from({ length: 60 }, (_, x) => 4 * x)));
  const shown = (at: number, values: object = {}) =>
    drawn(rows, 'torn-bars', { often: 100, ...values }, { at });
  /** How far a row went aside: what stands at its middle came from there. */
  const aside = (row: number[][]) => 30 - row[30]![0]! / 4;
  it('bands go aside as a whole, at most as far as they may, and the rest stays', () => {
    const went = shown(0, { bars: 3, height: 20, shift: 20 }).map(aside);
    expect(went.some((d) => d === 0)).toBe(true);
    const moved = went.filter((d) => d !== 0);
    expect(moved.length).toBeGreaterThan(0);
    for (const d of moved) {
      expect(Math.abs(d)).toBeLessThanOrEqual(20);
      expect(Math.abs(d)).toBeGreaterThanOrEqual(5);
    }
  });
  it('they stay so many frames, are others then, and the same every time', () => {
    expect(shown(0, { hold: 3 })).toEqual(shown(2, { hold: 3 }));
    expect(shown(3, { hold: 3 })).not.toEqual(shown(2, { hold: 3 }));
    expect(shown(7)).toEqual(shown(7));
    expect(shown(7, { seed: 9 })).not.toEqual(shown(7));
  });
  it('a stretch begins with them; with less than always the picture is whole in between', () => {
    const often = { often: 40, hold: 1 };
    expect(shown(0, often)).not.toEqual(rows);
    const whole = Array.from({ length: 60 }, (_, i) => shown(i, often)).filter(
      (p) => JSON.stringify(p) === JSON.stringify(rows),
    );
    expect(whole.length).toBeGreaterThan(20);
    expect(whole.length).toBeLessThan(50);
  });
});

describe('sign', () => {
  // The path goes forward over frames 0 to 59, then backward.
  const black = Array.from({ length: 60 }, () => grey(...Array.from({ length: 160 }, () => 0)));
  const shown = (at: number, values: object = {}) =>
    drawn(
      black,
      'sign',
      { counter: 'no', size: 30, on: 4, off: 3, opacity: 100, colour: '#ffffff', ...values },
      { at },
    );
  const lit = (rows: number[][][]) => rows.flat().filter((p) => p[0]! > 0).length;
  it('blinks: so many frames on, so many off', () => {
    expect([0, 3, 4, 6, 7, 10, 11].map((at) => lit(shown(at)) > 0)).toEqual([
      true,
      true,
      false,
      false,
      true,
      true,
      false,
    ]);
  });
  it('points the way the path plays: to the right forward, to the left backward', () => {
    const middle = (at: number) => {
      const columns = shown(at, { off: 0 }).map((row) => row.map((p) => p[0]!));
      const weight = (x: number) => columns.reduce((sum, row) => sum + row[x]!, 0);
      const used = Array.from({ length: 160 }, (_, x) => x).filter((x) => weight(x) > 0);
      return weight(used[2]!) > weight(used.at(-3)!) ? 'right' : 'left';
    };
    expect([middle(10), middle(70)]).toEqual(['right', 'left']);
  });
  it('counts', () => {
    const count = (at: number) => lit(shown(at, { counter: 'yes', sign: 'forward', off: 0 }));
    expect(count(0)).toBeGreaterThan(lit(shown(0, { sign: 'forward' })));
    expect(shown(1, { counter: 'yes', off: 0 })).not.toEqual(shown(2, { counter: 'yes', off: 0 }));
  });
});

it.each(TREATMENTS.map((t) => t.id))('%s is the same every time, on any size', (id) => {
  for (const [width, height] of [
    [1, 1],
    [5, 3],
    [17, 11],
  ] as const) {
    const picture = Array.from({ length: height }, (_, y) =>
      Array.from({ length: width }, (_, x): Pixel => [(x * 37) % 256, (y * 91) % 256, (x * y * 13) % 256]),
    );
    expect(drawn(picture, id, {}, { at: 2 })).toEqual(drawn(picture, id, {}, { at: 2 }));
  }
});

describe('colour tables from .cube files', () => {
  const rows = (n: number) => Array.from({ length: n }, (_, i) => `${i / n} 0.5 0`);
  const said = (text: string) => {
    const read = readCube(text, 'night.cube');
    return read.ok ? 'read' : read.sentence;
  };
  it('are read with comments, titles, any line ends, and written so that they read again', () => {
    const text = ['# made by hand', 'TITLE "Night"', 'LUT_3D_SIZE 2', '', ...rows(8)].join('\r\n');
    const read = readCube(text, 'x.cube');
    if (!read.ok) throw new Error(read.sentence);
    expect(read.table).toMatchObject({ name: 'Night', kind: '3d', size: 2 });
    const again = readCube(writeCube(read.table), 'y.cube');
    expect(again).toEqual(read);
  });
  it('keep to their domain', () => {
    const read = readCube(
      'LUT_1D_SIZE 3\nDOMAIN_MIN -1 -1 -1\nDOMAIN_MAX 1 1 1\n0 0 0\n.5 .5 .5\n1 1 1',
      'd.cube',
    );
    if (!read.ok) throw new Error(read.sentence);
    expect([...bytesOf(read.table.data)].slice(0, 2)).toEqual([128, 128]);
  });
  it.each([
    ['cut short', ['LUT_3D_SIZE 2', ...rows(7)].join('\n'), /8 rows and has 7/],
    ['with a word for a number', 'LUT_1D_SIZE 2\n0 0 0\n1 NaN 1', /Line 3 .* not three numbers/],
    ['of a thousand entries each way', 'LUT_3D_SIZE 1000\n0 0 0', /2 to 65 can be read/],
    ['without a size', '0 0 0\n1 1 1', /does not say its size/],
    [
      'with a domain that ends before it begins',
      'LUT_1D_SIZE 2\nDOMAIN_MIN 1 1 1\nDOMAIN_MAX 0 0 0\n0 0 0\n1 1 1',
      /ends before it begins/,
    ],
    ['empty', '', /does not say its size/],
  ])('are refused with a sentence: %s', (_, text, sentence) => expect(said(text)).toMatch(sentence));
});

describe('what a look comes to is a mean of before and after, whatever it does on the way', () => {
  const negative = readCube(
    `LUT_3D_SIZE 2\n${[0, 1].flatMap((b) => [0, 1].flatMap((g) => [0, 1].map((r) => `${1 - r} ${1 - g} ${1 - b}`))).join('\n')}`,
    'x.cube',
  );
  const curve = readCube('LUT_1D_SIZE 2\n0.2 0.2 0.2\n0.8 0.8 0.8', 'y.cube');
  if (!negative.ok || !curve.ok) throw new Error('a table was refused');
  const graded = [
    { exposure: 1, table: negative.table, tableAmount: 100 },
    { exposure: 1, table: negative.table, tableAmount: 50 },
    { saturation: 40, table: curve.table, tableAmount: 30 },
    { contrast: 130, table: curve.table, tableAmount: 100 },
  ];
  const picture = [grey(0, 30, 60, 90, 120, 170, 210, 255), grey(255, 200, 150, 100, 60, 30, 10, 0)];
  const region = {
    ...{ shape: 'ellipse', keys: [{ at: 0, ease: 'even', values: [2, 1, 2.2, 3, 0] }] },
    ...{ feather: 0, grow: 0, inverted: false },
  };

  it.each(graded.map((v, i) => [i, v] as const))(
    'a graded table under strength, and in a region: %i',
    (_, values) => {
      const whole = drawn(picture, 'grade', values);
      const half = drawn(picture, 'grade', values, { strength: 50 });
      const before = picture.map((row) => row.map((p) => [...p]));
      half.forEach((row, y) =>
        row.forEach((pixel, x) =>
          pixel.forEach((v, c) =>
            expect(Math.abs(v - (before[y]![x]![c]! + whole[y]![x]![c]!) / 2)).toBeLessThanOrEqual(1),
          ),
        ),
      );
      const surface = new Surface(8, 2);
      surface.loadRgba(picture.flatMap((row) => row.flatMap((p) => [...p, 255])));
      const look = LookSchema.parse({ id: 'x', look: 'grade', values });
      const resolved = resolveLooks([look], facts);
      const mask = {
        shape: region.shape,
        numbers: region.keys[0]!.values,
        feather: 0,
        grow: 0,
        inverted: false,
      };
      const stack = resolved.drawn[0]!.map((d) => ({ ...d, mask: mask as never }));
      drawStack(surface, stack, 1, tablesOf(Object.fromEntries(resolved.tables)));
      const { pixels } = surface;
      // Far out of the ellipse nothing is touched; in its middle all of it is seen.
      for (const [x, y] of [
        [6, 0],
        [7, 0],
        [6, 1],
        [7, 1],
      ] as const)
        expect([...pixels.slice(4 * (8 * y + x), 4 * (8 * y + x) + 3)]).toEqual(before[y]![x]);
      expect([...pixels.slice(4 * 2, 4 * 2 + 3)]).toEqual(whole[0]![2]);
    },
  );
});

it.each(Array.from({ length: 30 }, (_, i) => i + 2))(
  'a blur along a line of %i pixels leaves the picture where it is',
  (length) => {
    const width = 121;
    const row = grey(...Array.from({ length: width }, (_, x) => (x === 60 ? 255 : 0)));
    const [across] = values(drawn([row], 'blur', { kind: 'along', angle: 0, length }));
    const sum = across!.reduce((a, b) => a + b, 0);
    const centre = across!.reduce((a, v, x) => a + v * x, 0) / sum;
    expect(sum).toBeGreaterThan(100);
    const lit = across!.filter((v) => v > 0).length;
    // As many pixels on either side; of an even number there is one more on one of them.
    expect(Math.abs(centre - 60)).toBeLessThan(lit % 2 === 1 ? 0.12 : 0.6);
  },
);
