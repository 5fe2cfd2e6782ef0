import { Popover } from '@mui/material';
import type { ReactNode } from 'react';
import { colors } from '../theme';

/** A small sheet that hangs from what opened it. */
export function Sheet({
  anchor,
  width,
  onClose,
  children,
}: {
  readonly anchor: HTMLElement | null;
  readonly width: number;
  readonly onClose: () => void;
  readonly children: ReactNode;
}) {
  return (
    <Popover
      open={anchor !== null}
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
      transformOrigin={{ vertical: 'top', horizontal: 'right' }}
      slotProps={{ paper: { sx: { p: 2, width, bgcolor: colors.raised } } }}
    >
      {children}
    </Popover>
  );
}
