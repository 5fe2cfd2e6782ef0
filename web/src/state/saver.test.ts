import { newProject } from '@skipback/core/project/new-project';
import type { Project } from '@skipback/core/project/schema';
import type { Written } from '@skipback/media/storage/project-records';
import { type SaveState, Saver, type SaverPorts } from './saver';

/** A place to save to whose clock and database are in the test's hands. */
function bench(revision = 3) {
  let time = 0;
  const timers: { at: number; work: () => void }[] = [];
  const said: SaveState[] = [];
  const written: { name: string; revision: number }[] = [];
  let noted: { name: string; revision: number } | undefined;
  let answer: () => Promise<Written> = () => Promise.resolve('written');
  const ports: SaverPorts = {
    async write(project, n) {
      const result = await answer();
      if (result === 'written') written.push({ name: project.name, revision: n });
      return result;
    },
    note(project, n) {
      noted = { name: project.name, revision: n };
      return true;
    },
    forget(_, n) {
      if (noted && noted.revision <= n) noted = undefined;
    },
    now: () => time,
    after(ms, work) {
      const timer = { at: time + ms, work };
      timers.push(timer);
      return () => void (timer.at = Infinity);
    },
    tell: (state) => void said.push(state),
  };
  return {
    saver: new Saver(ports, revision),
    said,
    written,
    noted: () => noted,
    answers: (next: () => Promise<Written>) => (answer = next),
    async pass(ms: number) {
      time += ms;
      for (const t of timers.filter((timer) => timer.at <= time)) {
        t.at = Infinity;
        t.work();
      }
      await new Promise((resolve) => setImmediate(resolve));
    },
  };
}
const called = (name: string): Project => ({ ...newProject('p', 'x', 0), name });

it('writes soon after the first of many changes, however quickly the others follow', async () => {
  const b = bench();
  for (let i = 0; i < 10; i++) {
    b.saver.change(called(`n${i}`));
    await b.pass(50);
  }
  expect(b.written.length).toBeGreaterThan(0);
  await b.pass(300);
  expect(b.written.at(-1)!.name).toBe('n9');
  expect(b.said.at(-1)).toBe('saved');
  expect(b.noted()).toBeUndefined();
});

it('has every change of more than a quarter of a second ago noted, though the database never answers', async () => {
  const b = bench();
  b.answers(() => new Promise(() => undefined));
  for (let i = 0; i < 30; i++) {
    b.saver.change(called(`n${i}`));
    expect(Number(b.noted()!.name.slice(1))).toBeGreaterThan(i - 6);
    await b.pass(50);
  }
});

it('left at once, the last change is noted before the page is gone', () => {
  const b = bench();
  b.answers(() => new Promise(() => undefined));
  b.saver.change(called('first'));
  b.saver.change(called('last'));
  b.saver.leave();
  expect(b.noted()).toEqual({ name: 'last', revision: 4 });
});

it('counts revisions up, one write after the other', async () => {
  const b = bench(7);
  b.saver.change(called('a'));
  void b.saver.flush();
  b.saver.change(called('b'));
  await b.saver.flush();
  expect(b.written).toEqual([
    { name: 'a', revision: 8 },
    { name: 'b', revision: 9 },
  ]);
});

it('overtaken, says so and writes no more', async () => {
  const b = bench();
  b.answers(() => Promise.resolve('overtaken'));
  b.saver.change(called('old'));
  await b.saver.flush();
  b.answers(() => Promise.resolve('written'));
  b.saver.change(called('older'));
  await b.saver.flush();
  expect(b.said.at(-1)).toBe('overtaken');
  expect(b.written).toEqual([]);
});

it('refused for want of room, keeps the change and writes it when it can', async () => {
  const b = bench();
  b.answers(() => Promise.reject(new DOMException('full', 'QuotaExceededError')));
  b.saver.change(called('much'));
  await b.saver.flush();
  expect(b.said.at(-1)).toBe('refused');
  expect(b.noted()!.name).toBe('much');
  b.answers(() => Promise.resolve('written'));
  await b.saver.flush();
  expect(b.written.at(-1)!.name).toBe('much');
  expect(b.said.at(-1)).toBe('saved');
});
