import fc from 'fast-check';
import { withEdge } from './ordered';

it('the other edge gives way, and that is told', () => {
  expect(withEdge({ from: 10, to: 20 }, 'from', 15)).toEqual({ from: 15, to: 20, gaveWay: false });
  expect(withEdge({ from: 10, to: 20 }, 'from', 30)).toEqual({ from: 30, to: 31, gaveWay: true });
  expect(withEdge({ from: 10, to: 20 }, 'to', 5)).toEqual({ from: 4, to: 5, gaveWay: true });
  expect(withEdge({ from: 10, to: 20 }, 'from', 99, 40)).toEqual({ from: 39, to: 40, gaveWay: true });
});

it('is a stretch within its total, whatever is asked for', () => {
  const n = fc.integer({ min: -50, max: 200 });
  fc.assert(
    fc.property(
      n,
      fc.constantFrom('from' as const, 'to' as const),
      fc.integer({ min: 1, max: 100 }),
      (at, edge, total) => {
        const { from, to } = withEdge({ from: 0, to: total }, edge, at, total);
        expect(from >= 0 && to <= total && to > from).toBe(true);
      },
    ),
  );
});
