import { planesBytes } from '@skipback/core/pixels/planes';
import type { DrawJob } from './draw-job';
import { Drawer } from './drawer';
import type { PixelReply, PixelRequest } from './pixel-messages';
import { PixelPool, drawingThreads } from './pixel-pool';

const [width, height] = [34, 18];
const picture = (seed: number) =>
  Uint8Array.from({ length: planesBytes(width, height) }, (_, i) => 16 + ((i * seed) % 219));
const job = (seed: number, rest: Partial<DrawJob> = {}): DrawJob => ({
  sources: [picture(seed)],
  weights: undefined,
  layers: [],
  ...{ width, height, unit: 1, coarseness: 1, from: 'i420', into: 'rgba' },
  stack: [],
  ...rest,
});

/** A quarter of one picture and the rest of another. */
const mixed = (seed: number): Partial<DrawJob> => ({
  sources: [picture(seed + 5), picture(seed + 8)],
  weights: [8192, 24_576],
});

type Drawing = Extract<PixelRequest, { kind: 'draw' }>;

/** Workers that answer later, the later the fewer they were given before; `breaks` says whether one does instead. */
function fakeWorkers(breaks: (number: number, drawn: number, message: Drawing) => boolean = () => false) {
  const given: number[] = [];
  let made = 0;
  const newWorker = () => {
    const number = made++;
    const drawer = new Drawer();
    const listeners = new Map<string, (event: never) => void>();
    given.push(0);
    let [drawn, broken] = [0, false];
    return {
      postMessage: (message: PixelRequest) => {
        if (message.kind !== 'draw') return;
        given[number]!++;
        const delay = 5 - (message.id % 5);
        setTimeout(() => {
          if (broken) return;
          broken = breaks(number, drawn, message);
          if (broken) return listeners.get('error')?.({} as never);
          drawn++;
          const data: PixelReply = { id: message.id, drawn: drawer.draw(message.job, message.bytes) };
          listeners.get('message')?.({ data } as never);
        }, delay);
      },
      terminate: () => undefined,
      addEventListener: (kind: string, listener: (event: never) => void) => listeners.set(kind, listener),
    };
  };
  return { newWorker: newWorker as never, given };
}

describe('drawing threads', () => {
  it('are one less than the cores, and at least one', () => {
    expect([undefined, 1, 2, 8].map((cores) => drawingThreads(cores))).toEqual([1, 1, 1, 7]);
  });

  it('draw the same pictures on several threads as on one, evenly spread', async () => {
    const alone = new PixelPool(1);
    const { newWorker, given } = fakeWorkers();
    const several = new PixelPool(3, newWorker);
    const jobs = Array.from({ length: 12 }, (_, i) =>
      job(i + 3, i % 3 === 0 ? { into: 'i420', ...mixed(i) } : { coarseness: 1 + (i % 3) }),
    );
    const [a, b] = await Promise.all(
      [alone, several].map((pool) => Promise.all(jobs.map((j) => pool.draw(j)))),
    );
    expect(b!.map((p) => [...p.bytes])).toEqual(a!.map((p) => [...p.bytes]));
    expect(b!.map((p) => [p.width, p.height])).toEqual(a!.map((p) => [p.width, p.height]));
    expect(given).toEqual([4, 4, 4]);
  });

  it('mean pictures in their own values, without a way through RGBA', async () => {
    const { bytes } = await new PixelPool(1).draw(job(1, { into: 'i420', ...mixed(4) }));
    const [a, b] = [picture(9), picture(12)];
    expect([...bytes]).toEqual([...a.map((v, i) => (v * 8192 + b[i]! * 24_576 + 16_384) >> 15)]);
  });

  it('show on the screen what the file holds: means, drawn on or not', async () => {
    const pool = new PixelPool(1);
    for (const stack of [[], [{ look: 'flash', drawing: { kind: 'invert', share: 1 }, share: 0.4 }]]) {
      const made = job(1, { ...mixed(4), stack });
      const { bytes } = await pool.draw({ ...made, into: 'i420', stack: [] });
      const shown = await pool.draw({ ...made, into: 'rgba' });
      const again = await pool.draw({ ...made, sources: [bytes.slice()], weights: undefined, into: 'rgba' });
      expect([...shown.bytes]).toEqual([...again.bytes]);
    }
  });

  it('a thread that is lost is replaced, and what it was given is drawn again', async () => {
    const { newWorker, given } = fakeWorkers((number, drawn) => number === 0 && drawn === 1);
    const pool = new PixelPool(2, newWorker);
    const jobs = [3, 4, 5, 6, 7, 8].map((seed) => job(seed));
    const drawn = await Promise.all(jobs.map((j) => pool.draw(j)));
    const alone = await Promise.all(jobs.map((j) => new PixelPool(1).draw(j)));
    expect(drawn.map((p) => [...p.bytes])).toEqual(alone.map((p) => [...p.bytes]));
    expect(given).toHaveLength(3);
    await pool.draw(job(9));
  });

  it('where no thread can be begun, pictures are drawn all the same', async () => {
    const { newWorker, given } = fakeWorkers(() => true);
    const pool = new PixelPool(3, newWorker);
    const drawn = await Promise.all([3, 4, 5, 6].map((seed) => pool.draw(job(seed))));
    expect(drawn).toHaveLength(4);
    await pool.draw(job(7));
    expect(given).toHaveLength(3);
  });

  it('a picture that ends every thread fails, and the next one is drawn', async () => {
    const { newWorker } = fakeWorkers((_, __, message) => message.job.unit === 7);
    const pool = new PixelPool(2, newWorker);
    await pool.draw(job(3));
    await pool.draw(job(4));
    await expect(pool.draw(job(5, { unit: 7 }))).rejects.toThrow('lost');
    await pool.draw(job(6));
  });

  it('ending it fails what is under way', async () => {
    const pool = new PixelPool(2, fakeWorkers().newWorker);
    const drawing = pool.draw(job(3));
    pool.close();
    await expect(drawing).rejects.toThrow('ended');
  });

  it('gives every buffer back into use, of the size that is asked for', async () => {
    const pool = new PixelPool(1);
    const first = await pool.draw(job(3));
    pool.giveBack(first.bytes);
    expect((await pool.draw(job(4))).bytes).toBe(first.bytes);
    pool.giveBack(first.bytes);
    expect((await pool.draw(job(4, { coarseness: 2 }))).bytes).toHaveLength(4 * 17 * 9);
  });
});
