import type { ProjectRecord } from '@skipback/media/storage/database';
import { database } from '@skipback/media/storage/database';
import { mediaOfRecord } from '@skipback/media/storage/project-records';
import { keptSizes } from '@skipback/media/storage/media-files';
import { create } from 'zustand';
import { queryClient } from './query-client';
import { whileNobodyHas } from './tab-locks';

/** What one project uses. */
export interface ProjectSpace {
  readonly id: string;
  readonly name: string;
  /** Bytes of files that no other project reads. */
  readonly ownBytes: number;
  /** Bytes of files that others read too. */
  readonly sharedBytes: number;
}

/** Who uses how much, the largest first; `unusedBytes` are of files that no project reads. */
export function spaceOf(
  projects: readonly { readonly id: string; readonly name: string; readonly media: readonly string[] }[],
  sizes: ReadonlyMap<string, number>,
): { readonly projects: readonly ProjectSpace[]; readonly unusedBytes: number } {
  const readers = new Map<string, number>();
  for (const { media } of projects) for (const id of media) readers.set(id, (readers.get(id) ?? 0) + 1);
  const sum = (ids: readonly string[]) => ids.reduce((bytes, id) => bytes + (sizes.get(id) ?? 0), 0);
  return {
    projects: projects
      .map(({ id, name, media }) => ({
        ...{ id, name },
        ownBytes: sum(media.filter((m) => readers.get(m) === 1)),
        sharedBytes: sum(media.filter((m) => readers.get(m)! > 1)),
      }))
      .sort((a, b) => b.ownBytes - a.ownBytes || b.sharedBytes - a.sharedBytes),
    unusedBytes: sum([...sizes.keys()].filter((id) => !readers.has(id))),
  };
}

/** What is kept here. */
export interface Space {
  readonly projects: readonly ProjectSpace[];
  readonly unusedBytes: number;
  readonly motionBytes: number;
  readonly copiesBytes: number;
  readonly queuedBytes: number;
  /** All that this origin keeps, and may keep; undefined where the browser does not say. */
  readonly usedBytes: number | undefined;
  readonly mostBytes: number | undefined;
  /** Whether the browser keeps it until the user takes it away. */
  readonly forGood: boolean;
}

const total = (sizes: ReadonlyMap<string, number>): number => [...sizes.values()].reduce((a, b) => a + b, 0);

export const spaceQuery = {
  queryKey: ['space'],
  staleTime: 0,
  queryFn: async (): Promise<Space> => {
    const records = await database.projects.toArray();
    const projects = records.map((r) => ({ id: r.id, name: r.name, media: mediaOfRecord(r) }));
    const estimate = await navigator.storage?.estimate?.().catch(() => undefined);
    return {
      ...spaceOf(projects, await keptSizes('media')),
      motionBytes: total(await keptSizes('motion')),
      copiesBytes: total(await keptSizes('copies')),
      queuedBytes: total(await keptSizes('queued')),
      usedBytes: estimate?.usage,
      mostBytes: estimate?.quota,
      forGood: (await navigator.storage?.persisted?.().catch(() => false)) ?? false,
    };
  },
};

/** Projects taken off the shelf since this page was opened: they can be put back until it closes. */
export const useTaken = create<{ readonly records: readonly ProjectRecord[] }>(() => ({ records: [] }));

const changed = () => void queryClient.invalidateQueries({ queryKey: spaceQuery.queryKey });

/** Takes a project off the shelf; false where another tab works on it. Its media stay until no page is open. */
export async function takeProject(id: string): Promise<boolean> {
  const record = await database.projects.get(id);
  if (!record) return true;
  const free = await whileNobodyHas(id, () => database.projects.delete(id));
  if (free) useTaken.setState(({ records }) => ({ records: [...records, record] }));
  changed();
  return free;
}

export async function putBack(id: string): Promise<void> {
  const record = useTaken.getState().records.find((r) => r.id === id);
  if (!record) return;
  await database.projects.put(record);
  useTaken.setState(({ records }) => ({ records: records.filter((r) => r.id !== id) }));
  changed();
}
