import { planCost } from '@skipback/core/plan/decode-plan';
import { playOrder, stillOrder } from './play-order';

describe('play orders', () => {
  it.each([
    [{ from: 3, step: 1, first: 0, end: 6 }, [0, 1, 2, 3, 4, 5], 3],
    [{ from: 3, step: -1, first: 0, end: 6 }, [5, 4, 3, 2, 1, 0], 2],
    [{ from: 4, step: 2, first: 0, end: 6 }, [0, 2, 4], 2],
    [{ from: 99, step: 1, first: 2, end: 5 }, [2, 3, 4], 2],
    [{ from: 0, step: -4, first: 0, end: 6 }, [5, 1], 1],
    [{ from: 0, step: 1, first: 0, end: 1 }, [0], 0],
  ])('%o', ({ from, step, first, end }, positions, start) => {
    const order = playOrder(from, step, first, end);
    expect([...order.positions]).toEqual(positions);
    expect(order.start).toBe(start);
  });

  it('a still one has its neighbours near it, inside the clip', () => {
    expect([...stillOrder(2, 0, 4, 3)]).toEqual([2, 3, 4, 1, 0]);
    expect([...stillOrder(0, 0, 0, 5)]).toEqual([0]);
  });

  it('gives all that lies around a still in one run of decoding', () => {
    const wanted = stillOrder(100, 0, 299, 24);
    const request = { wanted, loops: false, start: 0, keys: [0], capacity: 60, held: [] };
    expect(planCost(request, wanted.length)).toMatchObject({ decoded: 125, runs: 1 });
  });
});
