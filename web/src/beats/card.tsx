import { Box, Button } from '@mui/material';
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

/** A small button of a card. */
export function Small({
  onPress,
  children,
  disabled = false,
}: {
  readonly onPress: () => void;
  readonly children: ReactNode;
  readonly disabled?: boolean;
}) {
  return (
    <Button
      size="small"
      color="inherit"
      variant="outlined"
      disabled={disabled}
      sx={{ minWidth: 0, py: 0, px: 1, borderColor: colors.line }}
      onClick={onPress}
    >
      {children}
    </Button>
  );
}
