import type { Facts } from './facts';
import { stretchesOf } from './scope';
import { HITS, scopeFor } from './starts';

const facts = (given: Partial<Facts>): Facts => ({
  ...{ frames: 100, rateHz: 30, speeds: Float64Array.from({ length: 100 }, () => 1), joins: [] },
  ...{ turns: [], marks: new Map(), music: undefined },
  ...given,
});

it('hits are marks where there is no song, turns where there are none, and long enough to fall away', () => {
  const marked = facts({
    turns: [50],
    marks: new Map([
      ['unused', []],
      ['catch', [30]],
    ]),
  });
  const scope = scopeFor(HITS, marked, 14)!;
  expect(scope.all[0]).toMatchObject({ kind: 'mark', name: 'catch', after: 14 });
  expect(stretchesOf(scope, marked)).toEqual([{ first: 30, end: 44 }]);
  const turning = facts({ turns: [50] });
  expect(stretchesOf(scopeFor(HITS, turning, 0)!, turning)).toEqual([{ first: 50, end: 56 }]);
});

it('where none of it is there, or all of it is, it begins everywhere', () => {
  expect(scopeFor(HITS, facts({}), 0)).toBeUndefined();
  const back = [{ kind: 'way', not: false, way: 'backward' }] as const;
  expect(scopeFor(back, facts({ speeds: Float64Array.from({ length: 100 }, () => -1) }), 0)).toBeUndefined();
});
