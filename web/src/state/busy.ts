import { underWay, useJobs } from './jobs';
import { useQueue } from './queue';
import { useRendering, wouldBeLost } from './rendering';

/** What would be lost or cut short if this page went now, in words; undefined where nothing would. */
export function busyWith(): string | undefined {
  const rendering = useRendering.getState();
  if (rendering.state.kind === 'running') return 'a file is being rendered';
  if (wouldBeLost(rendering)) return 'a finished file is not saved yet';
  if (useQueue.getState().running) return 'the queue is rendering';
  const [job] = underWay(useJobs.getState().jobs);
  return job && `${job.name} is being read`;
}

/** Settles when this page has nothing under way any more. */
export function whenFree(): Promise<void> {
  return new Promise((resolve) => {
    const stores = [useRendering, useQueue, useJobs] as const;
    const ends: (() => void)[] = [];
    const look = () => {
      if (busyWith() !== undefined) return;
      ends.forEach((end) => end());
      resolve();
    };
    ends.push(...stores.map((store) => store.subscribe(look)));
    look();
  });
}
