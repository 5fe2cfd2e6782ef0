import { Box } from '@mui/material';
import { useDrag } from '@use-gesture/react';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { setSpan } from '@skipback/core/project/actions';
import type { Span } from '@skipback/core/project/schema';
import { act, beginGesture, endGesture } from '../state/project-store';
import { transport } from '../state/transport';
import { colors } from '../theme';
import type { WeaveLayout } from './draw-weave';
import type { Scale } from './scales';

interface Props {
  readonly pieceId: string;
  readonly clipId: string;
  readonly span: Span;
  readonly clipFrames: number;
  readonly sourceX: Scale;
  readonly layout: WeaveLayout;
}

type Edge = 'in' | 'out' | 'both';

/** The span's frame on the source strip: drag an edge, or its top to move it whole; arrows do the same. */
export function SpanHandles({ pieceId, clipId, span, clipFrames, sourceX, layout }: Props) {
  const start = useRef(span);
  const change = (edge: Edge, by: number, from: Span, words: string) => {
    const inBy = edge === 'out' ? 0 : by;
    const outBy = edge === 'in' ? 0 : by;
    const length = from.out - from.in;
    const low = edge === 'both' ? Math.max(0, Math.min(clipFrames - length, from.in + by)) : from.in + inBy;
    const next =
      edge === 'both'
        ? { in: low, out: low + length }
        : {
            in: Math.min(from.out - 1, Math.max(0, low)),
            out: Math.max(from.in + 1, Math.min(clipFrames, from.out + outBy)),
          };
    act(words, (p) => setSpan(p, pieceId, next, clipFrames));
    transport.seekSource(clipId, edge === 'out' ? next.out - 1 : next.in);
  };
  const drag = useDrag(
    ({ args: [edge], first, last, movement: [mx] }) => {
      if (first) {
        start.current = span;
        beginGesture();
      }
      const by = Math.round(sourceX.invert(mx) - sourceX.invert(0));
      change(edge as Edge, by, start.current, 'move the span');
      if (last) {
        endGesture();
        transport.seekResult(0);
      }
    },
    { pointer: { keys: false } },
  );
  /** Keeps the press from reaching the strip behind. */
  const bind = (edge: Edge) => {
    const handlers = drag(edge) as { onPointerDown: (event: PointerEvent) => void };
    return {
      ...handlers,
      onPointerDown: (event: PointerEvent) => {
        event.stopPropagation();
        handlers.onPointerDown(event);
      },
    };
  };
  const onKey = (edge: Edge) => (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -10, PageUp: 10 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    change(edge, by * (event.shiftKey ? 10 : 1), span, 'move the span');
  };
  const left = sourceX(span.in);
  const right = sourceX(span.out);
  const top = layout.rulerBottom;
  const height = layout.sourceBottom - top;
  const edgeProps = (edge: 'in' | 'out') => ({
    ...bind(edge),
    role: 'slider',
    tabIndex: 0,
    'aria-label': edge === 'in' ? 'Span in, frame' : 'Span out, frame',
    'aria-valuemin': 0,
    'aria-valuemax': clipFrames,
    'aria-valuenow': span[edge],
    onKeyDown: onKey(edge),
  });
  const handle = {
    position: 'absolute',
    top: top - 2,
    width: 18,
    height: height + 4,
    cursor: 'ew-resize',
    touchAction: 'none',
    '&::after': {
      content: '""',
      position: 'absolute',
      left: 6,
      top: (height - 26) / 2 + 2,
      width: 6,
      height: 26,
      borderRadius: 3,
      bgcolor: colors.ink,
    },
    '&:hover::after': { bgcolor: '#ffffff' },
  } as const;
  return (
    <>
      <Box
        sx={{
          position: 'absolute',
          left,
          top: top - 1,
          width: Math.max(2, right - left),
          height: height + 2,
          border: `2px solid ${colors.ink}`,
          borderRadius: 1,
          pointerEvents: 'none',
          boxSizing: 'border-box',
        }}
      />
      <Box
        {...bind('both')}
        role="slider"
        tabIndex={0}
        aria-label="Move the whole span, first frame"
        aria-valuemin={0}
        aria-valuemax={clipFrames - (span.out - span.in)}
        aria-valuenow={span.in}
        onKeyDown={onKey('both')}
        sx={{
          position: 'absolute',
          left: left + 9,
          width: Math.max(8, right - left - 18),
          top: top - 7,
          height: 13,
          cursor: 'grab',
          touchAction: 'none',
          '&::after': {
            content: '""',
            position: 'absolute',
            left: '50%',
            top: 2,
            width: 34,
            height: 5,
            ml: '-17px',
            borderRadius: 3,
            bgcolor: colors.ink,
          },
        }}
      />
      <Box {...edgeProps('in')} sx={{ ...handle, left: left - 9 }} />
      <Box {...edgeProps('out')} sx={{ ...handle, left: right - 9 }} />
    </>
  );
}
