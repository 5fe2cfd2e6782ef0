import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { colors } from '../theme';

/** A label and its value on one line. */
export function Row({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', minHeight: 34 }}>
      <Box sx={{ color: colors.quiet }}>{label}</Box>
      {children}
    </Box>
  );
}
