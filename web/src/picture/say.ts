import { useSnackbar } from 'notistack';
import { useMemo } from 'react';
import { TROUBLE } from '../notices';

/** Says something to the person at the screen. */
export type Say = (words: string, trouble?: boolean) => void;

export function useSay(): Say {
  const { enqueueSnackbar } = useSnackbar();
  return useMemo(
    () => (words, trouble) =>
      void enqueueSnackbar(words, trouble ? TROUBLE : { key: words, preventDuplicate: true }),
    [enqueueSnackbar],
  );
}
