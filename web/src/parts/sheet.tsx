import { Popover } from '@mui/material';
import type { ReactNode } from 'react';
import { colors } from '../theme';

/** Where a sheet hangs from what opened it: under its right end, over its right or over its left end. */
const PLACES = {
  under: [
    { vertical: 'bottom', horizontal: 'right' },
    { vertical: 'top', horizontal: 'right' },
  ],
  over: [
    { vertical: 'top', horizontal: 'right' },
    { vertical: 'bottom', horizontal: 'right' },
  ],
  overLeft: [
    { vertical: 'top', horizontal: 'left' },
    { vertical: 'bottom', horizontal: 'left' },
  ],
} as const;

/** A small sheet that hangs from what opened it: a dialog with a name, behind which undo and playing still work. */
export function Sheet({
  anchor,
  name,
  width,
  place = 'under',
  onClose,
  children,
}: {
  readonly anchor: HTMLElement | null;
  readonly name: string;
  /** Without one it is as wide as what is in it. */
  readonly width?: number;
  readonly place?: keyof typeof PLACES;
  readonly onClose: () => void;
  readonly children: ReactNode;
}) {
  const [anchorOrigin, transformOrigin] = PLACES[place];
  return (
    <Popover
      open={anchor !== null}
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={anchorOrigin}
      transformOrigin={transformOrigin}
      slotProps={{
        paper: {
          role: 'dialog',
          'aria-label': name,
          ...{ 'data-sheet': '' },
          sx: { ...(width !== undefined && { p: 2, width, bgcolor: colors.raised }) },
        },
      }}
    >
      {children}
    </Popover>
  );
}
