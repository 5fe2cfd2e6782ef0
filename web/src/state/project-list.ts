import { type ProjectRecord, database } from '@skipback/media/storage/database';
import { useLive } from './live';
import { queryClient } from './query-client';

const shelfQuery = {
  queryKey: ['shelf'],
  queryFn: async (): Promise<ProjectRecord[]> =>
    (await database.projects.orderBy('savedAt').toArray()).reverse(),
};

/** All projects, the last saved first, as this tab and others keep them. */
export const useProjectRecords = () => useLive(shelfQuery);

/** All projects as they were last read, by name: for going to another one. */
export const projectNames = (): readonly { readonly id: string; readonly name: string }[] =>
  (queryClient.getQueryData<ProjectRecord[]>(shelfQuery.queryKey) ?? []).map(({ id, name }) => ({
    id,
    name,
  }));
