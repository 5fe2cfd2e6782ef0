import { Box } from '@mui/material';
import { shiftStep } from '@skipback/core/project/actions';
import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import { type ChainStep, moveById } from '@skipback/core/moves/registry';
import type { Rational } from '@skipback/core/time/rational';
import { LookLists } from '../looks/look-lists';
import { SortedList, focusCard } from '../parts/sorted-list';
import { act } from '../state/project-store';
import { neighbour, select, useSelection } from '../state/selection';
import { colors } from '../theme';
import { StepCard } from './step-card';

interface Props {
  readonly project: CompiledProject;
  readonly compiled: CompiledPiece;
  readonly rate: Rational;
}

/** What is done to the selected piece: its moves in order, its looks, those of the whole result. */
export function Chain({ project, compiled, rate }: Props) {
  const stepId = useSelection((s) => s.stepId);
  const { piece } = compiled;
  const steps = piece.chain.map((step) => step.id);
  const startFrame = project.pieces.find((p) => p.compiled === compiled)?.startFrame ?? 0;
  const otherPieces = project.pieces.flatMap((p, i) =>
    p.compiled.piece.id === piece.id
      ? []
      : [{ id: p.compiled.piece.id, words: `piece ${i + 1}, ${p.compiled.clip.name}` }],
  );
  return (
    <Box
      role="group"
      aria-label="Chain"
      sx={{
        display: 'flex',
        flexDirection: 'column',
        gap: 0.625,
        flex: '1 1 220px',
        minHeight: 220,
        overflowY: 'auto',
        scrollbarWidth: 'thin',
      }}
    >
      {piece.chain.length > 0 && <Box sx={{ color: colors.quiet, fontSize: 12.5 }}>Moves</Box>}
      {piece.chain.length === 0 && (
        <Box sx={{ color: colors.quiet }}>Nothing is done to it yet. Choose a move.</Box>
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
  );
}

const nameOfStep = (step: ChainStep | undefined): string => (step && moveById(step.move)?.name) ?? 'a move';
