import { firstNow } from '../../state/counting';
import { frame } from '@skipback/core/time/units';
import { Box } from '@mui/material';
import { type SnapTarget, snap } from '@skipback/core/edit/snap';
import { setSpan } from '@skipback/core/project/actions';
import type { Span } from '@skipback/core/project/schema';
import { type KeyboardEvent, useState } from 'react';
import { usePlaying } from '../../state/playing';
import { act } from '../../state/project-store';
import { transport } from '../../state/transport';
import { colors } from '../../theme';
import { LiveLabel } from '../live-label';
import type { Scale } from '../scales';
import type { WeaveLayout } from '../scene';
import { useEditDrag } from '../use-edit-drag';
import { type WeaveModel, shownAt } from '../weave-model';

interface Props {
  readonly model: WeaveModel;
  readonly pieceId: string;
  readonly span: Span;
  readonly sourceX: Scale;
  readonly layout: WeaveLayout;
}

type Edge = 'in' | 'out' | 'both';

/** Pixels within which an edge is drawn to something. */
const REACH = 7;

/** The span's frame on the source strip: drag an edge, or its top to move it whole; arrows do the same. */
export function SpanHandles({ model, pieceId, span, sourceX, layout }: Props) {
  const { clipFrames, clip, compiled } = model;
  const clipId = clip!.clip.id;
  const [live, setLive] = useState<{ x: number; text: string; words: string | undefined }>();

  const moved = (edge: Edge, by: number, from: Span): Span => {
    if (edge === 'in') return { in: Math.min(from.out - 1, Math.max(0, from.in + by)), out: from.out };
    if (edge === 'out')
      return { in: from.in, out: Math.max(from.in + 1, Math.min(clipFrames, from.out + by)) };
    const low = Math.max(0, Math.min(clipFrames - (from.out - from.in), from.in + by));
    return { in: low, out: low + from.out - from.in };
  };
  const change = (edge: Edge, by: number, from: Span): Span => {
    const next = moved(edge, by, from);
    act('move the span', (p) => setSpan(p, pieceId, next, clipFrames));
    transport.seekSource(clipId, frame(edge === 'out' ? next.out - 1 : next.in));
    return next;
  };
  /** What an edge may snap to: marks, the frame under the playhead, the edges of other spans of this clip. */
  const targets = (): SnapTarget[] => {
    const shown = shownAt(model, usePlaying.getState().position);
    return [
      ...clip!.clip.marks.map((m) => ({ value: m.frame, words: `mark ${m.name}` })),
      ...(shown === undefined ? [] : [{ value: shown, words: 'playhead' }]),
      ...compiled.pieces.flatMap(({ compiled: p }) =>
        p.clip.id === clipId && p.piece.id !== pieceId
          ? [p.piece.span.in, p.piece.span.out].map((value) => ({ value, words: 'another span' }))
          : [],
      ),
    ];
  };
  const drag = useEditDrag<Edge, { edge: Edge; from: Span; targets: SnapTarget[]; perFrame: number }>({
    begin: (edge) => ({ edge, from: span, targets: targets(), perFrame: sourceX(1) - sourceX(0) }),
    move: ({ edge, from, targets: to, perFrame }, { dx, free }) => {
      const start = edge === 'out' ? from.out : from.in;
      const { value, words } = snap(start + dx / perFrame, free ? [] : to, REACH / perFrame);
      const next = change(edge, Math.round(value) - start, from);
      const frame = edge === 'out' ? next.out : next.in;
      setLive({ x: sourceX(frame), text: `${frame + firstNow()}, ${next.out - next.in} f`, words });
    },
    end: () => {
      setLive(undefined);
      transport.seekResult(frame(model.pieceStart));
    },
  });
  const onKey = (edge: Edge) => (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1, PageDown: -10, PageUp: 10 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    change(edge, by * (event.shiftKey ? 10 : 1), span);
  };
  const left = sourceX(span.in);
  const right = sourceX(span.out);
  const top = layout.rulerBottom;
  const height = layout.sourceBottom - top;
  const edgeProps = (edge: 'in' | 'out') => ({
    ...drag(edge),
    role: 'slider',
    tabIndex: 0,
    'aria-label': edge === 'in' ? 'Span in, frame' : 'Span out, frame',
    'aria-valuemin': 0,
    'aria-valuemax': clipFrames,
    'aria-valuenow': span[edge],
    onKeyDown: onKey(edge),
  });
  const edgePlace = { touchAction: 'none', top: top - 2, height: height + 4 } as const;
  const handle = {
    position: 'absolute',
    width: 18,
    cursor: 'ew-resize',
    '&::after': {
      content: '""',
      position: 'absolute',
      left: 6,
      top: 'calc(50% - 13px)',
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
        style={{ left, top: top - 1, width: Math.max(2, right - left), height: height + 2 }}
        sx={{
          position: 'absolute',
          border: `2px solid ${colors.ink}`,
          borderRadius: 1,
          pointerEvents: 'none',
          boxSizing: 'border-box',
        }}
      />
      <Box
        {...drag('both')}
        role="slider"
        tabIndex={0}
        aria-label="Move the whole span, first frame"
        aria-valuemin={0}
        aria-valuemax={clipFrames - (span.out - span.in)}
        aria-valuenow={span.in}
        onKeyDown={onKey('both')}
        style={{
          touchAction: 'none',
          left: left + 9,
          width: Math.max(8, right - left - 18),
          top: top - 7,
        }}
        sx={{
          position: 'absolute',
          height: 13,
          cursor: 'grab',
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
      <Box {...edgeProps('in')} style={{ ...edgePlace, left: left - 9 }} sx={handle} />
      <Box {...edgeProps('out')} style={{ ...edgePlace, left: right - 9 }} sx={handle} />
      {live && (
        <LiveLabel
          x={live.x}
          y={layout.sourceBottom + 6}
          text={live.text}
          words={live.words}
          width={layout.width}
        />
      )}
    </>
  );
}
