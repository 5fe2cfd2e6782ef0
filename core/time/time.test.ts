import fc from 'fast-check';
import { percentText } from './entry';
import { STANDARD_RATES, rateText, rational, toNumber } from './rational';
import { formatTimecode, parseTimecode } from './timecode';
import { frame, roundHalfUp } from './units';

const ntsc = rational(30000, 1001);

describe('timecode', () => {
  it.each([
    [0, rational(25), '00:00:00:00'],
    [90000, rational(25), '01:00:00:00'],
    [1799, ntsc, '00:00:59;29'],
    [1800, ntsc, '00:01:00;02'],
    [17982, ntsc, '00:10:00;00'],
    [107892, ntsc, '01:00:00;00'],
    [3600, rational(60000, 1001), '00:01:00;04'],
    [47, rational(24000, 1001), '00:00:01:23'],
    [-12, rational(30), '-00:00:00:12'],
  ])('frame %i at a rate is %s', (n, rate, text) => expect(formatTimecode(frame(n), rate)).toBe(text));

  it('reads back what it writes, at every rate', () => {
    fc.assert(
      fc.property(fc.nat(5_000_000), fc.constantFrom(...STANDARD_RATES), (n, rate) => {
        expect(parseTimecode(formatTimecode(frame(n), rate), rate)).toBe(n);
      }),
    );
  });

  it('refuses frame numbers the rate does not have', () => {
    expect(parseTimecode('00:00:01:25', rational(25))).toBeUndefined();
    expect(parseTimecode('soon', rational(25))).toBeUndefined();
  });
});

describe('typed values', () => {
  it('writes percentages with as many decimals as they need', () => {
    expect([percentText(100), percentText(196.774), percentText(2.125)]).toEqual([
      '100 %',
      '196.8 %',
      '2.13 %',
    ]);
  });
});

describe('rates and rounding', () => {
  it('are lowest terms and say themselves', () => {
    expect(rational(60, 2)).toEqual({ num: 30, den: 1 });
    expect(STANDARD_RATES.map(rateText)).toEqual(
      expect.arrayContaining(['23.976', '25', '29.97', '59.94', '119.88', '120']),
    );
    expect(toNumber(ntsc)).toBeCloseTo(29.97, 2);
    expect(() => rational(0)).toThrow('not a positive fraction');
  });

  it('rounds halves up, through the noise of doubles', () => {
    expect([30.5, 30.499999999999996, 30.49, 0.5].map(roundHalfUp)).toEqual([31, 31, 30, 1]);
  });
});
