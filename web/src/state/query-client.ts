import { QueryClient } from '@tanstack/react-query';

/** What was read of the library, the analyses and the server: kept until it is said to have changed. */
export const queryClient = new QueryClient({
  defaultOptions: {
    queries: { staleTime: Infinity, retry: false, refetchOnWindowFocus: false, networkMode: 'always' },
  },
});
