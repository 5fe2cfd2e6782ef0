import { z } from 'zod';
import { WorkerClient } from './worker-client';

type Ask = { readonly id: number; readonly kind: 'ask'; readonly what: string };
type Answer =
  | { readonly id: number; readonly kind: 'answer'; readonly text: string }
  | { readonly id: number; readonly kind: 'progress'; readonly share: number }
  | { readonly id: number; readonly kind: 'failed'; readonly sentence: string };

const Answers: z.ZodType<Answer> = z.discriminatedUnion('kind', [
  z.object({ id: z.int(), kind: z.literal('answer'), text: z.string() }),
  z.object({ id: z.int(), kind: z.literal('progress'), share: z.number() }),
  z.object({ id: z.int(), kind: z.literal('failed'), sentence: z.string() }),
]);

/** A worker whose answers are in the test's hands. */
class Puppet {
  readonly asked: Ask[] = [];
  terminated = false;
  private readonly hears = new Map<string, (event: never) => void>();
  addEventListener(kind: string, hear: (event: never) => void): void {
    this.hears.set(kind, hear);
  }
  postMessage(request: Ask): void {
    this.asked.push(request);
  }
  terminate(): void {
    this.terminated = true;
  }
  say(data: Answer): void {
    this.hears.get('message')!({ data } as never);
  }
  die(): void {
    this.hears.get('error')!({} as never);
  }
}

const puppets: Puppet[] = [];
const clientOf = (quietMs?: number) =>
  new WorkerClient<Ask, Answer>(
    () => {
      const puppet = new Puppet();
      puppets.push(puppet);
      return puppet as unknown as Worker;
    },
    Answers,
    { died: 'it died', hung: 'it hung', ...(quietMs !== undefined && { quietMs }) },
  );

beforeEach(() => {
  puppets.length = 0;
  jest.useFakeTimers();
});
afterEach(() => jest.useRealTimers());

it('gives each question its answer', async () => {
  const client = clientOf();
  const [one, two] = [
    client.ask({ kind: 'ask', what: '1' }, 'answer'),
    client.ask({ kind: 'ask', what: '2' }, 'answer'),
  ];
  const [a, b] = puppets[0]!.asked as [Ask, Ask];
  puppets[0]!.say({ id: b.id, kind: 'answer', text: 'two' });
  puppets[0]!.say({ id: a.id, kind: 'answer', text: 'one' });
  expect((await one).text).toBe('one');
  expect((await two).text).toBe('two');
});

it('begins another worker when one died, and says so to whoever waited', async () => {
  const client = clientOf();
  const asking = client.ask({ kind: 'ask', what: '1' }, 'answer');
  puppets[0]!.die();
  await expect(asking).rejects.toThrow('it died');
  const again = client.ask({ kind: 'ask', what: '1' }, 'answer');
  puppets[1]!.say({ id: puppets[1]!.asked[0]!.id, kind: 'answer', text: 'here' });
  expect((await again).text).toBe('here');
});

it('takes no answer of another form, and begins another worker', async () => {
  const told = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  const client = clientOf();
  const asking = client.ask({ kind: 'ask', what: '1' }, 'answer');
  const [odd] = puppets as [Puppet];
  odd.say({ id: odd.asked[0]!.id, kind: 'answer', text: 12 as never });
  await expect(asking).rejects.toThrow('it died');
  expect(odd.terminated).toBe(true);
  expect(told).toHaveBeenCalled();
});

it('ends what is asked when told to, and answers what is asked after', async () => {
  const client = clientOf();
  const asking = client.ask({ kind: 'ask', what: '1' }, 'answer');
  client.stop('enough');
  await expect(asking).rejects.toThrow('enough');
  const again = client.ask({ kind: 'ask', what: '2' }, 'answer');
  puppets[1]!.say({ id: puppets[1]!.asked[0]!.id, kind: 'answer', text: 'here' });
  expect((await again).text).toBe('here');
});

it('gives up a worker that is quiet for too long, and not one that gets further', async () => {
  const client = clientOf(1000);
  const asking = client.ask({ kind: 'ask', what: 'endless' }, 'answer').catch((e: Error) => e.message);
  const [hung] = puppets as [Puppet];
  for (let i = 0; i < 5; i++) {
    jest.advanceTimersByTime(800);
    hung.say({ id: hung.asked[0]!.id, kind: 'progress', share: i / 5 });
  }
  expect(hung.terminated).toBe(false);
  jest.advanceTimersByTime(1001);
  expect(await asking).toBe('it hung');
  expect(hung.terminated).toBe(true);
  // What it says from its grave is not heard by those who ask the next one.
  const again = client.ask({ kind: 'ask', what: 'good' }, 'answer');
  hung.say({ id: puppets[1]!.asked[0]!.id, kind: 'answer', text: 'late' });
  puppets[1]!.say({ id: puppets[1]!.asked[0]!.id, kind: 'answer', text: 'good' });
  expect((await again).text).toBe('good');
  jest.advanceTimersByTime(5000);
  expect(puppets[1]!.terminated).toBe(false);
});
