import { Box } from '@mui/material';
import type { ReactNode } from 'react';
import { colors } from '../theme';

/** Words that are cut with dots where there is no room for them. */
export const cutShort = {
  flex: 1,
  minWidth: 0,
  overflow: 'hidden',
  textOverflow: 'ellipsis',
  whiteSpace: 'nowrap',
} as const;

/** A word and what it stands for, on one line. */
export function Line({
  label,
  children,
  quiet = true,
  tall = false,
}: {
  readonly label: ReactNode;
  readonly children: ReactNode;
  readonly quiet?: boolean;
  /** Where there is room. */
  readonly tall?: boolean;
}) {
  return (
    <Box
      sx={{
        ...{ display: 'flex', alignItems: 'center', justifyContent: 'space-between', gap: 1 },
        minHeight: tall ? 34 : 28,
      }}
    >
      <Box sx={{ ...cutShort, flex: '1 0 auto', maxWidth: '72%', ...(quiet && { color: colors.quiet }) }}>
        {label}
      </Box>
      {children}
    </Box>
  );
}
