import { Box, Button } from '@mui/material';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { removePiece, setSpan } from '@skipback/core/project/actions';
import { frameCount } from '@skipback/core/clip/frame-table';
import { parseFrames } from '@skipback/core/time/entry';
import type { Rational } from '@skipback/core/time/rational';
import { ValueField } from '../parts/value-field';
import { usePlayback } from '../state/playback';
import { act } from '../state/project-store';
import { transport } from '../state/transport';
import { colors, mono } from '../theme';
import { StepCard } from './step-card';

interface Props {
  readonly compiled: CompiledPiece | undefined;
  readonly rate: Rational;
}

/** The selected piece: its span as numbers, and its moves in order. */
export function Chain({ compiled, rate }: Props) {
  const stepId = usePlayback((s) => s.stepId);
  if (!compiled)
    return (
      <Box sx={{ color: colors.quiet, p: 1 }}>
        No piece yet. Import a clip, find the moment, and set a span with I and O.
      </Box>
    );
  const { piece, clip, table } = compiled;
  const count = frameCount(table);
  const clipRate = table.kind === 'constant' ? table.rate : rate;
  const set = (edge: 'in' | 'out' | 'length') => (typed: string) => {
    const n = parseFrames(typed, clipRate);
    if (n === undefined) return false;
    const span =
      edge === 'in'
        ? { ...piece.span, in: n }
        : { in: piece.span.in, out: edge === 'out' ? n : piece.span.in + n };
    if (span.out <= span.in || span.out > count) return false;
    act('set the span', (p) => setSpan(p, piece.id, span, count));
    transport.seekSource(clip.id, edge === 'in' ? span.in : span.out - 1);
    return true;
  };
  const nudge = (edge: 'in' | 'out') => (by: number) => {
    const span = { ...piece.span, [edge]: piece.span[edge] + by };
    if (span.out <= span.in || span.in < 0 || span.out > count) return;
    act('set the span', (p) => setSpan(p, piece.id, span, count));
    transport.seekSource(clip.id, edge === 'in' ? span.in : span.out - 1);
  };
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1, minHeight: 0 }}>
      <Box sx={{ px: 0.5 }}>
        <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
          <Box
            sx={{
              flex: 1,
              fontWeight: 600,
              overflow: 'hidden',
              textOverflow: 'ellipsis',
              whiteSpace: 'nowrap',
            }}
          >
            {clip.name}
          </Box>
          <Button
            size="small"
            color="inherit"
            sx={{ color: colors.quiet, minWidth: 0, py: 0 }}
            onClick={() => act('take the piece away', (p) => removePiece(p, piece.id))}
          >
            Take away
          </Button>
        </Box>
        <Box
          sx={{
            display: 'flex',
            alignItems: 'center',
            gap: 0.75,
            color: colors.quiet,
            fontFamily: mono,
            fontSize: 13,
          }}
        >
          <Box sx={{ fontFamily: 'inherit' }}>in</Box>
          <ValueField
            label="Span in"
            text={String(piece.span.in)}
            width={52}
            onEnter={set('in')}
            onStep={nudge('in')}
            hint="First frame of the span"
          />
          <Box>out</Box>
          <ValueField
            label="Span out"
            text={String(piece.span.out)}
            width={52}
            onEnter={set('out')}
            onStep={nudge('out')}
            hint="The frame after its last"
          />
          <Box sx={{ flex: 1 }} />
          <ValueField
            label="Span length"
            text={`${piece.span.out - piece.span.in} f`}
            width={58}
            onEnter={set('length')}
            onStep={nudge('out')}
            hint="Frames of the clip, seconds or timecode"
          />
        </Box>
      </Box>
      <Box
        sx={{ display: 'flex', flexDirection: 'column', gap: 0.75, overflowY: 'auto', minHeight: 0 }}
        role="group"
        aria-label="Chain"
      >
        {piece.chain.length === 0 && (
          <Box sx={{ color: colors.quiet, px: 0.5 }}>
            Nothing is done to it yet. Press a move on the left.
          </Box>
        )}
        {piece.chain.map((step, i) => (
          <StepCard
            key={step.id}
            pieceId={piece.id}
            step={step}
            notices={compiled.steps[i]?.notices ?? []}
            rate={rate}
            selected={step.id === stepId}
            first={i === 0}
            last={i === piece.chain.length - 1}
          />
        ))}
      </Box>
    </Box>
  );
}
