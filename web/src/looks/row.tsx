import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { colors } from '../theme';

/** A value of a look beside its name. */
export function Row({ label, children }: { readonly label: string; readonly children: ReactNode }) {
  return (
    <Box
      sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', gap: 1, minHeight: 27 }}
    >
      <Box sx={{ color: colors.quiet, whiteSpace: 'nowrap' }}>{label}</Box>
      {children}
    </Box>
  );
}
