import { Box, ButtonBase } from '@mui/material';
import { addStep } from '@skipback/core/project/actions';
import type { AnyMove } from '@skipback/core/moves/move';
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

/** The moves as cards: resting on one shows in the picture what it would do, pressing it adds it to the chain. */
export function MoveCards({ piece }: { readonly piece: CompiledPiece | undefined }) {
  // The cards stay as they are while the piece is edited.
  const latest = useLatest(piece);
  const add = (move: AnyMove) => {
    const piece = latest.current;
    if (!piece) return;
    const id = freshId();
    const values = { ...move.suggest?.(piece.path, { table: piece.table, music: piece.music }) };
    act(`add ${move.name}`, (p) => addStep(p, piece.piece.id, { id, move: move.id, values }));
    select({ stepId: id });
  };
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const tryOut = (move: AnyMove, delay: number) => {
    clearTimeout(timer.current);
    const piece = latest.current;
    if (!piece) return;
    timer.current = setTimeout(() => {
      const context = { table: piece.table, music: piece.music };
      const values = { ...move.defaults, ...move.suggest?.(piece.path, context) };
      transport.audition(resultOfPiece(piece, move.apply(piece.path, values, context).path), move.name);
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
