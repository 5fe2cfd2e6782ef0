import { readProject } from '@skipback/core/project/read-project';
import type { Project } from '@skipback/core/project/schema';
import { type RenderSettings, RenderSettingsSchema } from '@skipback/media/render/messages';
import type { RunningRender } from '@skipback/media/render/render-client';
import { type QueueRecord, database, watch } from '@skipback/media/storage/database';
import { keepQueuedFiles, madeFile, queuedFile } from '@skipback/media/storage/media-files';
import { create } from 'zustand';
import { download } from './download';
import { freshId } from './ids';

/** The row of files that are made one after the other while work goes on. */
interface Queue {
  readonly records: readonly QueueRecord[];
  /** The one that is being made, and how far it is. */
  readonly running:
    | { readonly id: string; readonly done: number; readonly total: number; readonly framesPerS: number }
    | undefined;
  /** Nothing new is begun. */
  readonly paused: boolean;
  /** Files that still waited when the page was closed: they go on when they are asked to. */
  readonly left: number;
}

export const useQueue = create<Queue>(() => ({ records: [], running: undefined, paused: false, left: 0 }));

/** One file that is to be made. */
export interface Ordered {
  readonly name: string;
  readonly project: Project;
  readonly settings: RenderSettings;
  readonly withSound: boolean;
}

let render: RunningRender | undefined;
/** How long a page that goes away may take to let go of it, milliseconds. */
const LETS_GO_MS = 3000;
/** Held by the page whose queue runs: of several open pages one works. */
const LOCK = 'skip-back-queue';

const read = () => database.queue.orderBy('place').toArray();

async function refresh(): Promise<void> {
  useQueue.setState({ records: await read() });
}

const change = async (id: string, to: Partial<QueueRecord>): Promise<void> => {
  await database.queue.update(id, to);
  await refresh();
};

/** Reads what is kept of an earlier visit. What was being made when the page went waits again, and is offered. */
export async function openQueue(): Promise<void> {
  try {
    // A page that is just going away has it a moment longer; one that works keeps it.
    const alone = await navigator.locks
      ?.request(LOCK, { signal: AbortSignal.timeout(LETS_GO_MS) }, async () => {
        await database.queue.filter((q) => q.state === 'rendering').modify({ state: 'waiting' });
        return true;
      })
      .catch(() => false);
    await refresh();
    // What other tabs put in the row, make and take away.
    watch(read, (records) => {
      useQueue.setState({ records });
      // Cancelled or removed in another tab.
      const { running } = useQueue.getState();
      const record = running && records.find((r) => r.id === running.id);
      if (running && (!record || record.state === 'cancelled')) render?.cancel();
    });
    const left = alone ? useQueue.getState().records.filter((r) => r.state === 'waiting').length : 0;
    useQueue.setState({ left, paused: left > 0 });
  } catch {
    // Storage is refused: there is no queue but of this visit.
  }
}

/** Puts files at the end of the row and begins, unless it rests. Throws where nothing can be kept. */
export async function enqueue(orders: readonly Ordered[]): Promise<void> {
  const last = (await database.queue.orderBy('place').last())?.place ?? 0;
  await database.queue.bulkAdd(
    orders.map(({ name, project, settings, withSound }, i) => ({
      ...{ id: freshId(), place: last + 1 + i, name, document: project, settings, withSound },
      state: 'waiting' as const,
    })),
  );
  await refresh();
  void work();
}

export function pauseQueue(paused: boolean): void {
  useQueue.setState({ paused, left: 0 });
  if (!paused) void work();
}

/** Moves one by a place, among those that wait. */
export async function moveQueued(id: string, by: 1 | -1): Promise<void> {
  const waiting = useQueue.getState().records.filter((r) => r.state === 'waiting');
  const at = waiting.findIndex((r) => r.id === id);
  const [one, other] = [waiting[at], waiting[at + by]];
  if (!one || !other) return;
  await database.queue.bulkUpdate([
    { key: one.id, changes: { place: other.place } },
    { key: other.id, changes: { place: one.place } },
  ]);
  await refresh();
}

/** Ends one that is being made, or takes one that waits out of the row. */
export async function cancelQueued(id: string): Promise<void> {
  if (useQueue.getState().running?.id === id) render?.cancel();
  else await change(id, { state: 'cancelled' });
}

/** Lets one wait again. */
export async function retryQueued(id: string): Promise<void> {
  await change(id, { state: 'waiting' });
  void work();
}

/** Takes some away, their files too. */
export async function removeQueued(ids: readonly string[]): Promise<void> {
  await database.queue.bulkDelete([...ids]);
  await refresh();
  await keepQueuedFiles(new Set(useQueue.getState().records.map((r) => r.id)));
}

/** Hands a made file to the downloads; false where it is not there any more. */
export async function saveQueued({ id, name }: QueueRecord): Promise<boolean> {
  const file = await madeFile(id);
  if (file) download(file, name);
  return file !== undefined;
}

/** Makes what waits, one after the other, in one page at a time: another page's turn comes when this one has done. */
async function work(): Promise<void> {
  await (navigator.locks ? navigator.locks.request(LOCK, workAlone) : workAlone());
}

async function workAlone(): Promise<void> {
  for (;;) {
    // Another page may have done some of it.
    await refresh();
    const { records, paused } = useQueue.getState();
    const next = records.find((r) => r.state === 'waiting');
    if (paused || !next) return;
    await change(next.id, { state: 'rendering' });
    const end = await make(next).catch((): Partial<QueueRecord> => ({
      state: 'failed',
      sentence: 'The browser would not keep the file: its storage is full or switched off.',
    }));
    render = undefined;
    useQueue.setState({ running: undefined });
    // What became of it elsewhere meanwhile stands.
    const now = await database.queue.get(next.id);
    await (now?.state === 'rendering' ? change(next.id, end) : refresh());
  }
}

async function make({ id, document, settings, withSound }: QueueRecord): Promise<Partial<QueueRecord>> {
  const [project, how] = [readProject(document), RenderSettingsSchema.safeParse(settings)];
  if (!project.ok) return { state: 'failed', sentence: project.sentence };
  if (!how.success) return { state: 'failed', sentence: 'Its settings make no file.' };
  const target = await queuedFile(id);
  useQueue.setState({ running: { id, done: 0, total: 0, framesPerS: 0 } });
  // What writes files comes when files are made.
  const { renderUnattended } = await import('../render/render-job');
  return new Promise((resolve) => {
    render = renderUnattended(project.project, how.data, withSound, target, (reply) => {
      if (reply.kind === 'progress') {
        const { done, total, framesPerS, picture } = reply;
        picture?.close();
        useQueue.setState({ running: { id, done, total, framesPerS } });
      } else if (reply.kind === 'done') resolve({ state: 'done', proof: reply.proof });
      else if (reply.kind === 'failed') resolve({ state: 'failed', sentence: reply.sentence });
      else if (reply.kind === 'cancelled') resolve({ state: 'cancelled' });
    });
  });
}
