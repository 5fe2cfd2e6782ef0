import { z } from 'zod';
import { RunningWorker } from './running-worker';

const Reply = z.union([z.number(), z.string()]);
type Reply = z.infer<typeof Reply>;

function begun() {
  const worker = Object.assign(new EventTarget(), {
    told: [] as string[],
    ended: false,
    postMessage: (word: string) => void worker.told.push(word),
    terminate: () => void (worker.ended = true),
    says: (data: unknown) => worker.dispatchEvent(Object.assign(new Event('message'), { data })),
  });
  const heard: Reply[] = [];
  const running = new RunningWorker<string, Reply>(
    {
      ...{ worker: worker as unknown as Worker, replies: Reply, begin: 'go', quietMs: 1000 },
      goesOn: (reply) => typeof reply === 'number',
      failed: (how) => how,
      stops: { withinMs: 200, reply: 'stopped' },
    },
    (reply) => heard.push(reply),
  );
  return { worker, heard, running };
}

beforeEach(() => void jest.useFakeTimers());
afterEach(() => void jest.useRealTimers());

describe('what a worker does by itself has one end, which is told', () => {
  it('its last reply', () => {
    const { worker, heard } = begun();
    worker.says(1);
    worker.says('done');
    worker.says('again');
    worker.dispatchEvent(new Event('error'));
    jest.advanceTimersByTime(5000);
    expect([heard, worker.told, worker.ended]).toEqual([[1, 'done'], ['go'], true]);
  });

  it('its death, or words that nobody understands', () => {
    const one = begun();
    one.worker.dispatchEvent(new Event('error'));
    expect(one.heard).toEqual(['died']);
    const other = begun();
    jest.spyOn(console, 'error').mockImplementation(() => undefined);
    other.worker.says({ what: 'is this' });
    expect([other.heard, other.worker.ended]).toEqual([['died'], true]);
  });

  it('silence: as long as it says something it is waited for', () => {
    const { worker, heard } = begun();
    for (let i = 0; i < 5; i++) {
      jest.advanceTimersByTime(900);
      worker.says(i);
    }
    expect(heard).toHaveLength(5);
    jest.advanceTimersByTime(1100);
    expect([heard.at(-1), worker.ended]).toEqual(['hung', true]);
  });

  it('being stopped, heard or not', () => {
    const one = begun();
    one.running.stop('stop');
    one.worker.says('done before that');
    jest.advanceTimersByTime(500);
    expect([one.heard, one.worker.told]).toEqual([['done before that'], ['go', 'stop']]);
    const other = begun();
    other.running.stop('stop');
    jest.advanceTimersByTime(150);
    expect(other.heard).toEqual([]);
    jest.advanceTimersByTime(100);
    expect([other.heard, other.worker.ended]).toEqual([['stopped'], true]);
  });
});
