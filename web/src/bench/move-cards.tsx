import { Box, ButtonBase } from '@mui/material';
import { addStep } from '@skipback/core/project/actions';
import { type AnyMove, MOVES } from '@skipback/core/moves/registry';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { MoveShape } from '../parts/move-shape';
import { freshId } from '../state/ids';
import { setPlayback } from '../state/playback';
import { act } from '../state/project-store';
import { colors } from '../theme';

/** The moves as cards; pressing one adds it to the chain of the selected piece. */
export function MoveCards({ piece }: { readonly piece: CompiledPiece | undefined }) {
  const add = (move: AnyMove) => {
    if (!piece) return;
    const id = freshId();
    const values = { ...move.suggest?.(piece.path, { table: piece.table }) };
    act(`add ${move.name}`, (p) => addStep(p, piece.piece.id, { id, move: move.id, values }));
    setPlayback({ stepId: id });
  };
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
          onClick={() => add(move)}
          sx={{
            display: 'flex',
            flexDirection: 'column',
            alignItems: 'flex-start',
            gap: 0,
            px: 0.75,
            py: 0.4,
            borderRadius: 2,
            bgcolor: colors.panel,
            fontSize: 12.5,
            lineHeight: 1.3,
            fontWeight: 500,
            '&:hover': { bgcolor: colors.raised },
            '&.Mui-disabled': { opacity: 0.45 },
          }}
        >
          <MoveShape shape={move.shape} width={56} height={18} />
          {move.name}
        </ButtonBase>
      ))}
    </Box>
  );
}
