import { Popover } from '@mui/material';
import type { ReactNode } from 'react';
import { colors } from '../theme';

/**
 * Where a sheet hangs from what opened it: under its right or its left end; or, where it would lie over the picture, at the
 * foot of the column about the piece, over its left end where there is none.
 */
const PLACES = {
  under: [
    { vertical: 'bottom', horizontal: 'right' },
    { vertical: 'top', horizontal: 'right' },
  ],
  underLeft: [
    { vertical: 'bottom', horizontal: 'left' },
    { vertical: 'top', horizontal: 'left' },
  ],
  atColumn: [
    { vertical: 'top', horizontal: 'left' },
    { vertical: 'bottom', horizontal: 'left' },
  ],
} as const;

/** The column about the selected piece. */
const COLUMN = '[aria-label="The selected piece"]';

/** Pixels from an element's lower edge to the window's, of which a little is left free. */
const roomUnder = (anchor: HTMLElement): number =>
  Math.max(160, window.innerHeight - anchor.getBoundingClientRect().bottom - 20);

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
  const column = place === 'atColumn' && anchor && document.querySelector(COLUMN)?.getBoundingClientRect();
  return (
    <Popover
      open={anchor !== null}
      anchorEl={anchor}
      {...(column && {
        anchorReference: 'anchorPosition',
        anchorPosition: { left: column.left + 4, top: column.bottom - 8 },
      })}
      onClose={onClose}
      anchorOrigin={anchorOrigin}
      transformOrigin={transformOrigin}
      slotProps={{
        paper: {
          role: 'dialog',
          'aria-label': name,
          ...{ 'data-sheet': '' },
          sx: {
            ...(width !== undefined && { p: 2, width, bgcolor: colors.raised }),
            // Under what opened it, and no higher: it scrolls before it lies over the picture.
            ...(place !== 'atColumn' && anchor && { maxHeight: `${roomUnder(anchor)}px` }),
          },
        },
      }}
    >
      {children}
    </Popover>
  );
}
