import { IconButton } from '@mui/material';
import { styled } from '@mui/material/styles';
import { MaterialDesignContent, type SnackbarKey, useSnackbar } from 'notistack';
import { X } from 'lucide-react';
import { useCallback, useEffect, useRef } from 'react';
import { useSaid } from './state/jobs';
import { colors } from './theme';

const attention = {
  backgroundColor: colors.raised,
  color: colors.ink,
  boxShadow: `inset 3px 0 ${colors.attention}, 0 4px 16px rgba(0,0,0,0.5)`,
  maxWidth: 560,
  '& svg': { color: colors.attention },
};

/** A notice in the product's colours: one that needs attention has an edge. */
export const Notice = styled(MaterialDesignContent)({
  '& #notistack-snackbar': { padding: '4px 0' },
  '&.notistack-MuiContent-default': { backgroundColor: colors.raised, color: colors.ink },
  '&.notistack-MuiContent-warning': attention,
  '&.notistack-MuiContent-error': attention,
});

/** How notices are shown of what went wrong, which stay until they were read, and of what may: long enough for two sentences. */
export const TROUBLE = { variant: 'error', persist: true } as const;
export const CAUTION = { variant: 'warning', autoHideDuration: 9000 } as const;

/** What a notice that stays is put away with. */
export function Read({ of }: { readonly of: SnackbarKey }) {
  const { closeSnackbar } = useSnackbar();
  return (
    <IconButton size="small" color="inherit" aria-label="Dismiss" onClick={() => closeSnackbar(of)}>
      <X size={14} />
    </IconButton>
  );
}

/** Says a line in place of the one said before it: a notice of the same key as one that is there would be lost. */
export function useSaying(): (words: string) => void {
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const last = useRef<SnackbarKey | undefined>(undefined);
  return useCallback(
    (words) => {
      if (last.current !== undefined) closeSnackbar(last.current);
      last.current = enqueueSnackbar(words);
    },
    [enqueueSnackbar, closeSnackbar],
  );
}

/** Says what jobs have to say in passing, wherever one is. */
export function Saying() {
  const { enqueueSnackbar } = useSnackbar();
  useEffect(
    () => useSaid.subscribe(({ words }) => void enqueueSnackbar(words, { autoHideDuration: 5000 })),
    [enqueueSnackbar],
  );
  return null;
}
