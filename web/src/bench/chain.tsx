import { useFirst } from '../state/counting';
import { type ChainStep, moveById } from '@skipback/core/moves/registry';
import { withEdge } from '@skipback/core/edit/ordered';
import { useSaying } from '../notices';
import { loopsOf } from '@skipback/core/project/parts';
import { parseLength } from '@skipback/core/time/amount';
import { frame } from '@skipback/core/time/units';
import { Box } from '@mui/material';
import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import { setSpan, shiftStep } from '@skipback/core/project/actions';
import { frameCount } from '@skipback/core/clip/frame-table';
import type { Rational } from '@skipback/core/time/rational';
import { LookLists } from '../looks/look-lists';
import { SortedList, focusCard } from '../parts/sorted-list';
import { ValueField } from '../parts/value-field';
import type { LoadedClip } from '../state/library';
import { neighbour, select, useSelection } from '../state/selection';
import { act } from '../state/project-store';
import { transport } from '../state/transport';
import { colors, mono } from '../theme';
import { PieceBar } from './piece-bar';
import { ComesIn } from './comes-in';
import { ClipReading } from './clip-reading';
import { Held } from './held';
import { InBetween } from './in-between';
import { SmallCopyRow } from './small-copy';
import { StepCard } from './step-card';

interface Props {
  readonly project: CompiledProject;
  readonly compiled: CompiledPiece | undefined;
  readonly rate: Rational;
  /** The piece's clip with its media. */
  readonly loaded: LoadedClip | undefined;
}

/** The selected piece: its span as numbers, and its moves in order. */
export function Chain({ project, compiled, rate, loaded }: Props) {
  const stepId = useSelection((s) => s.stepId);
  const say = useSaying();
  const first = useFirst();
  if (!compiled)
    return (
      <Box sx={{ color: colors.quiet, p: 1 }}>
        {project.beyond.length > 0
          ? 'What there is would last longer than six hours, the most a result may. Undo, or read its clip at another rate.'
          : 'No piece yet. Import a clip, find the moment, and set a span with I and O.'}
      </Box>
    );
  const { piece, clip, table } = compiled;
  const count = frameCount(table);
  const clipRate = table.kind === 'constant' ? table.rate : rate;
  const set = (edge: 'in' | 'out' | 'length') => (typed: string) => {
    // A number is a frame as it is called; a time is a time.
    const called = edge !== 'length' && /^\s*\d+\s*(f|frames?)?\s*$/i.test(typed) ? first : 0;
    const least = (edge === 'in' ? 0 : 1) + called;
    const n = parseLength(typed, clipRate, { least, most: count + called });
    if (typeof n === 'string') return n;
    const at = edge === 'length' ? piece.span.in + n : n - called;
    if (at > count) return `The clip ends at frame ${count + first}.`;
    const { from, to, gaveWay } = withEdge(
      { from: piece.span.in, to: piece.span.out },
      edge === 'in' ? 'from' : 'to',
      at,
      count,
    );
    act('set the span', (p) => setSpan(p, piece.id, { in: from, out: to }, count));
    transport.seekSource(clip.id, frame(edge === 'in' ? from : to - 1));
    if (gaveWay)
      say(
        `The span’s ${edge === 'in' ? 'end' : 'beginning'} gave way: it is frame ${from + first} to ${to + first} now.`,
      );
    return true;
  };
  const steps = piece.chain.map((step) => step.id);
  const startFrame = project.pieces.find((p) => p.compiled === compiled)?.startFrame ?? 0;
  const otherPieces = project.pieces.flatMap((p, i) =>
    p.compiled.piece.id === piece.id
      ? []
      : [{ id: p.compiled.piece.id, words: `piece ${i + 1}, ${p.compiled.clip.name}` }],
  );
  const nudge = (edge: 'in' | 'out') => (by: number) => {
    const span = { ...piece.span, [edge]: piece.span[edge] + by };
    if (span.out <= span.in || span.in < 0 || span.out > count) return;
    act('set the span', (p) => setSpan(p, piece.id, span, count));
    transport.seekSource(clip.id, frame(edge === 'in' ? span.in : span.out - 1));
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
          <PieceBar piece={compiled} clip={loaded} />
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
            text={String(piece.span.in + first)}
            width={52}
            onEnter={set('in')}
            onStep={nudge('in')}
            hint="First frame of the span"
          />
          <Box>out</Box>
          <ValueField
            label="Span out"
            text={String(piece.span.out + first)}
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
        <Box sx={{ color: colors.quiet, fontSize: 13 }}>
          <ClipReading clip={clip} />
          {loaded && <SmallCopyRow loaded={loaded} span={piece.span} />}
          <InBetween compiled={compiled} startFrame={startFrame} loops={loopsOf(project)} />
          <Held compiled={compiled} />
          <ComesIn project={project} compiled={compiled} rate={rate} />
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
        <SortedList
          ids={steps}
          nameOf={(id) => nameOfStep(piece.chain.find((step) => step.id === id))}
          onShift={(id, by) => act('reorder the chain', (p) => shiftStep(p, piece.id, id, by))}
        >
          {piece.chain.map((step, i) => (
            <StepCard
              key={step.id}
              pieceId={piece.id}
              step={step}
              // What is mixed does not repeat.
              notices={(compiled.steps[i]?.notices ?? []).filter(
                (n) => n.code !== 'repeats' || piece.between === 'repeat',
              )}
              applied={compiled.steps[i]}
              piece={compiled}
              startFrame={startFrame}
              rate={rate}
              selected={step.id === stepId}
              otherPieces={otherPieces}
              onGone={() => {
                const next = neighbour(steps, step.id);
                select({ stepId: next });
                focusCard(next);
              }}
            />
          ))}
        </SortedList>
        <LookLists project={project} piece={compiled} rate={rate} />
      </Box>
    </Box>
  );
}

const nameOfStep = (step: ChainStep | undefined): string => (step && moveById(step.move)?.name) ?? 'a move';
