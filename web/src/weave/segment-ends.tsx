import { Box } from '@mui/material';
import { stretchSegment } from '@skipback/core/project/piece-actions';
import { percentText } from '@skipback/core/time/entry';
import { useDrag } from '@use-gesture/react';
import { type PointerEvent, useRef, useState } from 'react';
import { freshId } from '../state/ids';
import { act, beginGesture, endGesture } from '../state/project-store';
import { colors, mono } from '../theme';
import type { WeaveLayout } from './draw-weave';
import type { Ribbon } from './ribbons';
import type { Scale } from './scales';

interface Props {
  /** Segments of the selected piece. */
  readonly ribbons: readonly Ribbon[];
  readonly resultX: Scale;
  readonly layout: WeaveLayout;
}

/** More segments than this are too narrow to take hold of. */
const MOST = 60;

/** The ends of the selected piece's segments on the result strip: drag one to make its segment longer or shorter; its speed follows. */
export function SegmentEnds({ ribbons, resultX, layout }: Props) {
  const grabbed = useRef({ pieceId: '', from: 0, to: 0, frames: 0, speed: 0, perFrame: 1 });
  const [live, setLive] = useState<{ x: number; text: string }>();
  const pieceStart = ribbons[0]?.resultFrom ?? 0;
  const drag = useDrag(
    ({ args: [ribbon], first, last, movement: [mx] }) => {
      const g = grabbed.current;
      if (first) {
        const r = ribbon as Ribbon;
        const from = r.resultFrom - pieceStart;
        const frames = r.resultTo - r.resultFrom;
        grabbed.current = {
          pieceId: r.pieceId,
          from,
          to: from + frames,
          frames,
          speed: Math.abs(r.speed),
          perFrame: resultX(1) - resultX(0),
        };
        return beginGesture();
      }
      const length = Math.max(1, g.frames + Math.round(mx / g.perFrame));
      if (g.from + length !== g.to) {
        act('stretch a segment', (p) =>
          stretchSegment(p, g.pieceId, { from: g.from, to: g.to }, length, freshId),
        );
        g.to = g.from + length;
        const speed = g.speed > 0 ? `, ${percentText((100 * g.speed * g.frames) / length)}` : '';
        setLive({ x: resultX(pieceStart + g.to), text: `${length} f${speed}` });
      }
      if (last) {
        endGesture();
        setLive(undefined);
      }
    },
    { pointer: { keys: false } },
  );
  if (ribbons.length > MOST) return null;
  return (
    <>
      {ribbons.map((r, i) => {
        if (resultX(r.resultTo) - resultX(r.resultFrom) < 14) return null;
        const handlers = drag(r) as { onPointerDown: (event: PointerEvent) => void };
        return (
          <Box
            key={i}
            {...handlers}
            data-testid="segment-end"
            title="Drag to make this segment longer or shorter"
            onPointerDown={(event) => {
              event.stopPropagation();
              handlers.onPointerDown(event);
            }}
            sx={{
              position: 'absolute',
              left: resultX(r.resultTo) - 6,
              top: layout.resultTop,
              width: 9,
              height: layout.resultBottom - layout.resultTop,
              cursor: 'ew-resize',
              touchAction: 'none',
              '&:hover': { bgcolor: `${colors.ink}66` },
            }}
          />
        );
      })}
      {live && (
        <Box
          sx={{
            position: 'absolute',
            left: Math.max(0, live.x - 110),
            top: layout.resultTop - 30,
            px: 1,
            py: 0.25,
            borderRadius: 1,
            bgcolor: colors.ink,
            color: colors.ground,
            fontFamily: mono,
            fontSize: 12.5,
            pointerEvents: 'none',
          }}
        >
          {live.text}
        </Box>
      )}
    </>
  );
}
