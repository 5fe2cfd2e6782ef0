import { watch } from '@skipback/media/storage/database';
import { type QueryKey, type UseQueryResult, useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { queryClient } from './query-client';

/** Something read of the database: under which key it is kept, and how it is read. */
interface Read<T> {
  readonly queryKey: QueryKey;
  readonly queryFn: () => Promise<T>;
}

/** What is read of the database, read again while it is looked at whenever this tab or another has changed it. */
export function useLive<T, S = T>(read: Read<T>, select?: (data: T) => S): UseQueryResult<S> {
  const { queryKey, queryFn } = read;
  useEffect(
    () => watch(queryFn, (data) => void queryClient.setQueryData(queryKey, data)),
    [queryKey, queryFn],
  );
  return useQuery({ queryKey, queryFn, staleTime: 0, ...(select && { select }) });
}
