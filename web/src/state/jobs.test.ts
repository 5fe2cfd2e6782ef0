import { info } from '@skipback/core/notice';
import { Stopped, beginJob, dismissJob, underWay, useJobs } from './jobs';

const jobs = () => useJobs.getState().jobs;
const begin = (name: string) => beginJob({ projectId: 'p', kind: 'file', name, words: `Reading ${name}` });

beforeEach(() => useJobs.setState({ jobs: [] }));

it('is under way until it ends; what is said stays until it was read', () => {
  const one = begin('tea');
  begin('tram');
  one.tell({ share: 0.5 });
  expect(underWay(jobs()).map((j) => [j.name, j.share])).toEqual([
    ['tea', 0.5],
    ['tram', undefined],
  ]);
  one.end(info('said', 'It is short.'));
  expect(underWay(jobs()).map((j) => j.name)).toEqual(['tram']);
  expect(jobs()[0]).toMatchObject({ name: 'tea', notice: { text: 'It is short.' }, stop: undefined });
  dismissJob(jobs()[0]!.id);
  expect(jobs().map((j) => j.name)).toEqual(['tram']);
});

it('stopped, it goes at once, and no part of it comes any more', async () => {
  const job = begin('tea');
  const never = job.part(new Promise(() => undefined));
  jobs()[0]!.stop!();
  expect(jobs()).toEqual([]);
  await expect(never).rejects.toBeInstanceOf(Stopped);
  await expect(job.part(Promise.resolve(1))).rejects.toBeInstanceOf(Stopped);
  expect(job.signal.aborted).toBe(true);
});
