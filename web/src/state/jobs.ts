import type { Notice } from '@skipback/core/notice';
import { create } from 'zustand';
import { freshId } from './ids';

/** Something that takes time, or what is to be said of it afterwards; it is of the project it was begun for. */
export interface Job {
  readonly id: string;
  readonly projectId: string | undefined;
  readonly kind: 'file' | 'song' | 'follow' | 'save';
  /** Of what: a file's name, a track's. */
  readonly name: string;
  /** What is being done. */
  readonly words: string;
  /** How far, 0 to 1, where that is known. */
  readonly share?: number | undefined;
  /** Whether one can work with it meanwhile: it is only kept. */
  readonly beside?: boolean;
  /** Ends it; what it would have brought does not come. Undefined once it cannot be stopped. */
  readonly stop?: (() => void) | undefined;
  /** What is to be said, once it is over; it stays until it was read. */
  readonly notice?: Notice | undefined;
}

export const useJobs = create<{ readonly jobs: readonly Job[] }>(() => ({ jobs: [] }));

const update = (change: (jobs: readonly Job[]) => readonly Job[]) =>
  useJobs.setState(({ jobs }) => ({ jobs: change(jobs) }));

/** Puts away what was said of a job. */
export const dismissJob = (id: string): void => update((jobs) => jobs.filter((j) => j.id !== id));

/** Those that are under way, not only said. */
export const underWay = (jobs: readonly Job[]): readonly Job[] => jobs.filter((j) => !j.notice);

/** A job that someone asked to end. */
export class Stopped extends Error {}

/** A job under way. */
export interface JobHand {
  readonly signal: AbortSignal;
  tell(change: Partial<Pick<Job, 'words' | 'share' | 'stop' | 'kind'>>): void;
  /** Waits for a part of it; throws `Stopped` as soon as it is stopped, whatever becomes of that part. */
  part<T>(work: Promise<T>): Promise<T>;
  /** It is over, and something is to be said of it or nothing. */
  end(notice?: Notice): void;
}

/** Begins a job for a project, whatever is open when it ends. */
export function beginJob(
  job: Pick<Job, 'projectId' | 'kind' | 'name' | 'words'> & Partial<Pick<Job, 'share' | 'beside'>>,
): JobHand {
  const id = freshId();
  const abort = new AbortController();
  const change = (to: Partial<Job>) => update((jobs) => jobs.map((j) => (j.id === id ? { ...j, ...to } : j)));
  update((jobs) => [...jobs, { ...job, id, ...(!job.beside && { stop: () => abort.abort() }) }]);
  const stopped = new Promise<never>((_, reject) => {
    abort.signal.addEventListener('abort', () => {
      dismissJob(id);
      reject(new Stopped());
    });
  });
  // Nobody has to wait for it.
  stopped.catch(() => undefined);
  return {
    signal: abort.signal,
    tell: change,
    part: (work) => Promise.race([stopped, work]),
    end: (notice) => (notice ? change({ notice, stop: undefined }) : dismissJob(id)),
  };
}

/** What jobs say once, in passing: that something landed in a project that is not open. */
export const useSaid = create<{ readonly words: string; readonly count: number }>(() => ({
  words: '',
  count: 0,
}));
export const say = (words: string): void => useSaid.setState(({ count }) => ({ words, count: count + 1 }));
