import fc from 'fast-check';
import { parseAmount, parseLength } from './amount';
import { rational } from './rational';
import { sumOf } from './sum';

const units = { '': 1, f: 1, s: 30, b: 15, bar: 60, bars: 60 } as const;
const terms = { factor: (unit: string) => (units as Record<string, number>)[unit] };

it.each([
  ['60+10', 70],
  ['90/2', 45],
  ['2 bars - 1 f', 119],
  ['1/4 b', 3.75],
  ['2 * 3 s', 180],
  ['3 s / 2', 45],
  ['(1 s + 10 f) * 2', 80],
  ['100 - (20 + 30) / 5', 90],
  ['-4 + 10', 6],
  ['3 - -2', 5],
  ['2 * (3) b', undefined],
  ['1,5 s', 45],
])('%s', (typed, value) => expect(sumOf(typed, terms)).toBe(value));

it.each([
  '',
  '+',
  '60+',
  '2 s * 3 s',
  '1/0',
  '4 f f',
  '3 4',
  '(2',
  '2)',
  'bar',
  '2 m',
  '1,2,3',
  '2 ** 3',
  '*4',
])('“%s” is no sum', (typed) => expect(sumOf(typed, terms)).toBeUndefined());

it('is what arithmetic says, for any sum of whole numbers', () => {
  const number = fc.integer({ min: 0, max: 99 }).map(String);
  const { sum } = fc.letrec<{ sum: string; term: string }>((tie) => ({
    term: fc.oneof(
      { depthSize: 'small' },
      number,
      tie('sum').map((s) => `(${s})`),
    ),
    sum: fc
      .array(fc.tuple(fc.constantFrom('+', '-', '*'), tie('term')), { minLength: 1, maxLength: 4 })
      .map((parts) => parts.map(([sign, term], i) => (i ? ` ${sign} ${term}` : term)).join('')),
  }));
  fc.assert(
    fc.property(sum, (typed) => {
      // eslint-disable-next-line no-new-func -- only digits, signs and parentheses
      const meant = new Function(`return ${typed}`)() as number;
      expect(sumOf(typed, terms)).toBeCloseTo(meant, 6);
    }),
  );
});

describe('in fields', () => {
  const at = { rate: rational(30), beat: { frames: 15, perBar: 4 } };
  it.each([
    ['2 bars - 1 f', { unit: 'f', least: 0, most: 1000, at }, 119],
    ['1 s', { unit: 'f', least: 0, most: 1000, whole: true, at }, 30],
    ['0:02:15', { unit: 'f', least: 0, most: 1000, whole: true, at }, 75],
    ['15 f', { unit: 's', least: 0, most: 10, at }, 0.5],
    ['2 beats', { unit: 'ms', least: 0, most: 2000, at }, 1000],
    ['50 % + 2x', { unit: '%', also: { x: 100 }, least: 0, most: 1000 }, 250],
    ['90 / 4°', { unit: '°', least: 0, most: 360 }, 22.5],
  ])('%s', (typed, kind, value) => expect(parseAmount(typed, kind)).toBe(value));

  it('lengths say that they take beats where there are some', () => {
    expect(parseLength('60+10', at.rate, { least: 1, most: 1000 })).toBe(70);
    expect(parseLength('90/2', at.rate, { least: 1, most: 1000 })).toBe(45);
    expect(parseLength('1 bar', at.rate, { least: 1, most: 1000, beat: at.beat })).toBe(60);
    expect(parseLength('1 bar', at.rate, { least: 1, most: 1000 })).toMatch(/not understood/);
    expect(parseLength('soon', at.rate, { least: 1, most: 1000, beat: at.beat })).toMatch(/bars/);
  });
});
