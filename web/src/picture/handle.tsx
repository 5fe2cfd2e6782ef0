import { Box } from '@mui/material';
import type { KeyboardEvent } from 'react';
import { colors } from '../theme';

/** Pixels of the screen that a handle takes; it is pressed within twice that. */
const SIZE = 12;

interface Props {
  /** Parts of the picture, 0 to 1. */
  readonly x: number;
  readonly y: number;
  readonly label: string;
  readonly shape?: 'round' | 'square' | 'cross';
  readonly faint?: boolean;
  readonly selected?: boolean;
  readonly hands: object;
  /** Arrows: by so many pixels of the screen, ten with Shift. */
  readonly onNudge: (dx: number, dy: number) => void;
  readonly onKey?: (event: KeyboardEvent) => void;
}

const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Something to take hold of on the picture: dragged, or moved by arrows when it has the focus. */
export function Handle({ x, y, label, shape = 'round', faint, selected, hands, onNudge, onKey }: Props) {
  return (
    <Box
      component="button"
      aria-label={label}
      title={label.includes('arrows') ? label : `${label}: drag, or arrows; with Shift by ten`}
      {...hands}
      onKeyDown={(event: KeyboardEvent) => {
        const by = ARROWS[event.key];
        if (by) {
          event.preventDefault();
          event.stopPropagation();
          const far = event.shiftKey ? 10 : 1;
          return onNudge(by[0] * far, by[1] * far);
        }
        onKey?.(event);
      }}
      style={{ touchAction: 'none', left: `${x * 100}%`, top: `${y * 100}%` }}
      sx={{
        position: 'absolute',
        width: 2 * SIZE,
        height: 2 * SIZE,
        ml: `${-SIZE}px`,
        mt: `${-SIZE}px`,
        p: 0,
        border: 0,
        bgcolor: 'transparent',
        cursor: 'grab',
        pointerEvents: 'auto',
        '&::before': {
          content: '""',
          position: 'absolute',
          inset: `${SIZE / 2}px`,
          borderRadius: shape === 'square' ? '2px' : '50%',
          border: `2px solid ${selected ? colors.forward : colors.ink}`,
          bgcolor: shape === 'cross' ? 'transparent' : 'rgba(18,18,18,0.7)',
          boxShadow: '0 0 0 1.5px rgba(18,18,18,0.85)',
          opacity: faint ? 0.5 : 1,
        },
        '&:focus-visible': { outline: 'none' },
        '&:focus-visible::before': {
          borderColor: colors.forward,
          outline: `2px solid ${colors.ink}`,
          outlineOffset: 2,
        },
        ...(shape === 'cross' && {
          '&::after': {
            content: '""',
            position: 'absolute',
            left: SIZE - 1.5,
            top: SIZE - 1.5,
            width: 3,
            height: 3,
            borderRadius: '50%',
            bgcolor: colors.ink,
            boxShadow: '0 0 0 1px rgba(18,18,18,0.85)',
          },
        }),
      }}
    />
  );
}

/** A part of the picture, for a handle of something that reaches beyond it: it waits at the edge. */
export const atEdge = (part: number): number => Math.min(1, Math.max(0, part));

/** A line over the picture that is seen on light and dark. */
export function Outline({
  d,
  dashed = false,
  color = colors.ink,
}: {
  d: string;
  dashed?: boolean;
  color?: string;
}) {
  return (
    <>
      <path
        d={d}
        fill="none"
        stroke="rgba(18,18,18,0.75)"
        strokeWidth={3.5}
        vectorEffect="non-scaling-stroke"
      />
      <path
        d={d}
        fill="none"
        stroke={color}
        strokeWidth={1.5}
        strokeDasharray={dashed ? '5 4' : undefined}
        vectorEffect="non-scaling-stroke"
      />
    </>
  );
}
