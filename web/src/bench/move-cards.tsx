import { Box, ButtonBase } from '@mui/material';
import { addStep } from '@skipback/core/project/actions';
import type { AnyMove } from '@skipback/core/moves/move';
import { applyChain } from '@skipback/core/moves/chain';
import { MOVES } from '@skipback/core/moves/registry';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { useEffect, useRef } from 'react';
import { MoveShape } from '../parts/move-shape';
import { useLatest } from '../parts/use-latest';
import { resultOfPiece } from '../state/compiled';
import { freshId } from '../state/ids';
import { select } from '../state/selection';
import { act } from '../state/project-store';
import { transport } from '../state/transport';
import { colors } from '../theme';
import { beginsAt } from '../state/begins';

const contextOf = ({ piece, startFrame }: { piece: CompiledPiece; startFrame: number }) => ({
  ...{ table: piece.table, music: piece.music, marks: piece.clip.marks },
  begins: beginsAt(piece, startFrame),
});

/** The moves as cards: resting on one shows in the picture what it would do, pressing it adds it to the chain. */
export function MoveCards({
  piece,
  startFrame,
}: {
  readonly piece: CompiledPiece | undefined;
  /** Result frame at which the piece begins. */
  readonly startFrame: number;
}) {
  // The cards stay as they are while the piece is edited.
  const latest = useLatest(piece && { piece, startFrame });
  const add = (move: AnyMove) => {
    if (!latest.current) return;
    const { piece } = latest.current;
    const id = freshId();
    const values = { ...move.suggest?.(piece.path, contextOf(latest.current)) };
    act(`add ${move.name}`, (p) => addStep(p, piece.piece.id, { id, move: move.id, values }));
    select({ stepId: id });
  };
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const tryOut = (move: AnyMove, delay: number) => {
    clearTimeout(timer.current);
    if (!latest.current) return;
    const { piece } = latest.current;
    const context = contextOf(latest.current);
    timer.current = setTimeout(() => {
      const values = { ...move.defaults, ...move.suggest?.(piece.path, context) };
      const link = { id: 'tried', move: move.id, on: true, values };
      transport.audition(resultOfPiece(piece, applyChain(piece.path, [link], context).path), move.name);
    }, delay);
  };
  const stop = () => {
    clearTimeout(timer.current);
    transport.endAudition();
  };
  useEffect(() => () => clearTimeout(timer.current), []);
  return (
    <Box
      role="group"
      aria-label="Moves"
      sx={{ display: 'grid', gridTemplateColumns: 'repeat(3, 1fr)', gap: 0.5 }}
    >
      {MOVES.map((move) => (
        <ButtonBase
          key={move.id}
          disabled={!piece}
          aria-label={`Add ${move.name}. ${move.summary}`}
          title={move.summary}
          onPointerEnter={() => tryOut(move, 350)}
          onPointerLeave={stop}
          onFocus={(event) => event.currentTarget.matches(':focus-visible') && tryOut(move, 700)}
          onBlur={stop}
          onClick={() => {
            clearTimeout(timer.current);
            add(move);
          }}
          sx={{
            display: 'flex',
            flexDirection: 'column',
            alignItems: 'flex-start',
            gap: 0,
            px: 0.75,
            py: 0.2,
            borderRadius: 2,
            bgcolor: colors.panel,
            fontSize: 12.5,
            lineHeight: 1.25,
            fontWeight: 500,
            '&:hover': { bgcolor: colors.raised },
            '&.Mui-disabled': { opacity: 0.45 },
          }}
        >
          <MoveShape shape={move.shape} width={56} height={15} />
          {move.name}
        </ButtonBase>
      ))}
    </Box>
  );
}
