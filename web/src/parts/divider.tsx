import { Box } from '@mui/material';
import { useDrag } from '@use-gesture/react';
import { colors } from '../theme';

/** Pixels an arrow key goes, and with Shift. */
const STEP = 8;

/** A line between two parts that is dragged, pressed twice for the usual place, moved by arrows. */
export function Divider({
  label,
  upright,
  value,
  least,
  most,
  from = 'left',
  onMove,
  onUsual,
}: {
  readonly label: string;
  /** Whether it stands, between left and right, or lies between above and below. */
  readonly upright: boolean;
  /** Where it is, and how far it goes, pixels. */
  readonly value: number;
  readonly least: number;
  readonly most: number;
  /** From which side of its part it is counted; where from the right, it lies at its left edge. */
  readonly from?: 'left' | 'right';
  readonly onMove: (value: number) => void;
  readonly onUsual: () => void;
}) {
  const way = from === 'right' ? -1 : 1;
  const bind = useDrag(
    ({ movement: [x, y], first, memo = value, event }) => {
      if (first) event.stopPropagation();
      else onMove((memo as number) + way * (upright ? x : y));
      return memo as number;
    },
    { pointer: { keys: false } },
  );
  const keys = upright
    ? { ArrowLeft: -STEP, ArrowRight: STEP, Home: -1e5, End: 1e5 }
    : { ArrowUp: -STEP, ArrowDown: STEP, Home: -1e5, End: 1e5 };
  return (
    <Box
      {...bind()}
      role="separator"
      aria-label={label}
      aria-orientation={upright ? 'vertical' : 'horizontal'}
      aria-valuenow={Math.round(value)}
      aria-valuemin={Math.round(least)}
      aria-valuemax={Math.round(most)}
      tabIndex={0}
      title={`${label}: drag; double-click for the usual place`}
      onDoubleClick={onUsual}
      onKeyDown={(event) => {
        const by = keys[event.key as keyof typeof keys];
        if (by === undefined) return;
        event.preventDefault();
        event.stopPropagation();
        onMove(value + way * by * (event.shiftKey ? 5 : 1));
      }}
      sx={{
        position: 'absolute',
        zIndex: 2,
        touchAction: 'none',
        cursor: upright ? 'col-resize' : 'row-resize',
        ...(upright
          ? { top: 0, bottom: 0, width: 9, transform: 'translateX(-50%)' }
          : { left: 0, right: 0, height: 9, transform: 'translateY(-50%)' }),
        '&::after': {
          content: '""',
          position: 'absolute',
          bgcolor: colors.line,
          ...(upright
            ? { top: 0, bottom: 0, left: 4, width: '1px' }
            : { left: 0, right: 0, top: 4, height: '1px' }),
        },
        '&:hover::after, &:focus-visible::after': { bgcolor: colors.quiet },
      }}
      style={upright ? { left: from === 'right' ? 0 : value } : { top: value }}
    />
  );
}
