import { Box } from '@mui/material';
import type { PointerEventHandler } from 'react';
import { colors } from '../theme';

interface Props {
  /** Degrees. */
  readonly angle: number;
  readonly frames: number;
  readonly title: string;
  readonly hands: Readonly<
    Record<'onPointerDown' | 'onPointerMove' | 'onPointerUp' | 'onPointerCancel', PointerEventHandler>
  >;
}

/** The jog wheel that ships with it: for the pointer, and turned by the arrows. */
export function Wheel({ angle, frames, title, hands }: Props) {
  return (
    <Box
      role="slider"
      tabIndex={0}
      aria-label="Wheel: drag sideways, or hold the arrows"
      aria-valuenow={frames}
      title={title}
      {...hands}
      sx={{
        width: 76,
        height: 76,
        borderRadius: '50%',
        bgcolor: colors.raised,
        cursor: 'grab',
        touchAction: 'none',
        position: 'relative',
        flex: 'none',
        '&:active': { cursor: 'grabbing' },
      }}
    >
      <svg
        width="76"
        height="76"
        viewBox="-38 -38 76 76"
        aria-hidden="true"
        style={{ transform: `rotate(${angle}deg)` }}
      >
        <circle r="35" fill="none" stroke={colors.line} strokeWidth="2" />
        <circle r="10" fill={colors.ground} />
        {[0, 60, 120, 180, 240, 300].map((a) => (
          <line
            key={a}
            x1="0"
            y1="-14"
            x2="0"
            y2="-33"
            stroke={a === 0 ? colors.ink : colors.faint}
            strokeWidth={a === 0 ? 4 : 1.5}
            transform={`rotate(${a})`}
          />
        ))}
      </svg>
    </Box>
  );
}
