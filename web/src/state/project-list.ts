import { type ProjectRecord, database } from '@skipback/media/storage/database';
import { useQuery } from '@tanstack/react-query';

/** All projects, the last saved first. */
export const shelfQuery = {
  queryKey: ['shelf'],
  queryFn: async (): Promise<ProjectRecord[]> =>
    (await database.projects.orderBy('savedAt').toArray()).reverse(),
};

/** All projects by name, for going to another one. */
export function useProjectList(): readonly { readonly id: string; readonly name: string }[] {
  const { data } = useQuery({ ...shelfQuery, select: named });
  return data ?? NONE;
}

const NONE: readonly never[] = [];
const named = (records: readonly ProjectRecord[]) => records.map(({ id, name }) => ({ id, name }));
