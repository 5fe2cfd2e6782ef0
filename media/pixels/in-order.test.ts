import { inOrder } from './in-order';

async function* upTo(n: number) {
  for (let i = 0; i < n; i++) yield await Promise.resolve(i);
}

/** Work that ends in another order than it began in, and counts how much is under way. */
function unevenWork(fails = -1) {
  const state = { running: 0, most: 0, closed: [] as number[] };
  const work = async (item: number) => {
    state.most = Math.max(state.most, ++state.running);
    await new Promise((done) => setTimeout(done, (item * 7) % 5));
    state.running--;
    if (item === fails) throw new Error('no');
    return item;
  };
  return { state, work, close: (made: number) => state.closed.push(made) };
}

describe('work in order', () => {
  it('gives everything in its order, with as much at once as asked', async () => {
    for (const depth of [1, 3, 8, 50]) {
      const { state, work, close } = unevenWork();
      const got: number[] = [];
      for await (const made of inOrder(upTo(20), depth, work, close)) got.push(made);
      expect(got).toEqual(Array.from({ length: 20 }, (_, i) => i));
      expect(state.most).toBe(Math.min(depth, 20));
      expect(state.closed).toEqual([]);
    }
  });

  it('closes what was made and not taken', async () => {
    const { state, work, close } = unevenWork();
    for await (const made of inOrder(upTo(20), 4, work, close)) if (made === 5) break;
    expect(state.closed).toEqual([6, 7, 8]);
    expect(state.running).toBe(0);
  });

  it('throws where something fails, in its turn, and closes the rest', async () => {
    const { state, work, close } = unevenWork(6);
    const got: number[] = [];
    const all = async () => {
      for await (const made of inOrder(upTo(20), 4, work, close)) got.push(made);
    };
    await expect(all()).rejects.toThrow('no');
    expect(got).toEqual([0, 1, 2, 3, 4, 5]);
    expect(state.closed).toEqual([7, 8, 9]);
  });
});
