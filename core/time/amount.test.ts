import fc from 'fast-check';
import { changedHalf, framesAndSeconds, parseAmount, parseLength, parseShare } from './amount';
import { rational } from './rational';

const LEVEL = { unit: 'dB', least: -60, most: 12 };
const DELAY = { unit: 'ms', also: { s: 1000 }, least: -500, most: 500 };
const COUNT = { least: 1, most: 16, whole: true };

describe('amounts as they are typed', () => {
  it.each([
    ['-3,5', LEVEL, -3.5],
    ['−3.5 dB', LEVEL, -3.5],
    ['+ 6 db', LEVEL, 6],
    ['.5', LEVEL, 0.5],
    ['0.2 s', DELAY, 200],
    ['120ms', DELAY, 120],
    ['4', COUNT, 4],
  ])('%s', (typed, kind, value) => expect(parseAmount(typed, kind)).toBe(value));

  it.each([
    ['', LEVEL, 'It needs a value. A number from -60 dB to 12 dB.'],
    ['   ', COUNT, 'It needs a value. A whole number from 1 to 16.'],
    ['loud', LEVEL, '“loud” is not understood here. A number from -60 dB to 12 dB.'],
    ['3 f', LEVEL, '“3 f” is not understood here. A number from -60 dB to 12 dB.'],
    ['20', LEVEL, 'At most 12 dB.'],
    ['-1 s', DELAY, 'At least -500 ms.'],
    ['2.5', COUNT, 'A whole number from 1 to 16.'],
    ['1,2,3', LEVEL, '“1,2,3” is not understood here. A number from -60 dB to 12 dB.'],
  ])('%s is refused in words', (typed, kind, words) => expect(parseAmount(typed, kind)).toBe(words));

  it('what is shown can be typed again, with a point or a comma', () => {
    fc.assert(
      fc.property(fc.integer({ min: -6000, max: 1200 }), fc.boolean(), (hundredths, comma) => {
        const shown = `${hundredths / 100} dB`;
        expect(parseAmount(comma ? shown.replace('.', ',') : shown, LEVEL)).toBe(hundredths / 100);
      }),
    );
  });

  it('percent and factors', () => {
    expect(parseShare('2,5x', 2, 3000)).toBe(250);
    expect(parseShare('40 %', 2, 3000)).toBe(40);
    expect(parseShare('1', 2, 3000)).toBe('At least 2 %.');
  });
});

describe('lengths that are shown in two ways', () => {
  const rate = rational(30);
  const limits = { least: 1, most: 10_000, shown: framesAndSeconds(240, rate) };

  it.each([
    ['240 f  8 s', 240],
    ['240 f  2 s', 60],
    ['120 f  8 s', 120],
    ['2 s', 60],
    ['1,5 s', 45],
    ['0:02:15', 75],
    ['60', 60],
    ['60 f', 60],
    ['2s', 60],
    ['500 ms', 15],
    ['2:15', 75],
    ['00:01:00:00', 1800],
  ])('%s', (typed, frames) => expect(parseLength(typed, rate, limits)).toBe(frames));

  it('say what they take', () => {
    expect(parseLength('', rate, limits)).toMatch(/^It needs a value/);
    expect(parseLength('240 f  soon', rate, limits)).toMatch(/^“soon” is not understood/);
    expect(parseLength('0', rate, limits)).toBe('At least 1 f, 0.03 s.');
    expect(parseLength('20000', rate, limits)).toBe('At most 10000 f, 333.33 s.');
    expect(changedHalf('7', '240 f  8 s')).toBe('7');
  });
});
