import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { Name } from '../parts/name';
import { colors } from '../theme';

/** Some of what can be done with a song, under a heading. */
export function Card({ title, children }: { readonly title: string; readonly children: ReactNode }) {
  return (
    <Box
      role="group"
      aria-label={title}
      sx={{ bgcolor: colors.panel, borderRadius: 2, p: 1.5, flex: 'none' }}
    >
      <Box sx={{ fontWeight: 600, mb: 0.75 }}>
        <Name of={title} />
      </Box>
      {children}
    </Box>
  );
}
