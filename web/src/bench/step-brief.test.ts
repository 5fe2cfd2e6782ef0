import type { ChainStep } from '@skipback/core/moves/registry';
import { PLAIN_TELLING } from '@skipback/core/places/words';
import { stepBrief } from './step-brief';

const brief = (move: string, values: object, zone?: ChainStep['zone']) =>
  stepBrief({ id: 's', move, on: true, values: { ...values }, ...(zone && { zone }) }, PLAIN_TELLING);

it('a folded card tells what was changed, or what it begins with', () => {
  expect(brief('boomerang', { trips: 3, backPercent: 200 })).toBe('3 round trips, backward speed 200 %');
  expect(brief('boomerang', { trips: 1 })).toBe('1 round trip');
  expect(brief('speed', { percent: 70 })).toBe('70 %');
  expect(brief('hold', { at: 12, length: 31 })).toBe('12 f, 31 f');
  expect(brief('fit', { length: { beats: 8 } })).toContain('8 beats');
  expect(brief('stutter', {})).not.toBe('');
});

it('the part it is limited to comes first', () => {
  expect(brief('speed', { percent: 70 }, { from: 10, to: { end: 0 } })).toBe('10 f to end, 70 %');
});
