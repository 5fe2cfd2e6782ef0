import { Box, ButtonBase } from '@mui/material';
import { addStep } from '@skipback/core/project/actions';
import { MOVES } from '@skipback/core/moves/registry';
import { MoveShape } from '../parts/move-shape';
import { freshId } from '../state/ids';
import { setPlayback } from '../state/playback';
import { act } from '../state/project-store';
import { colors } from '../theme';

/** The moves as cards; pressing one adds it to the chain of the selected piece. */
export function MoveCards({ pieceId }: { readonly pieceId: string | null }) {
  return (
    <Box
      role="group"
      aria-label="Moves"
      sx={{ display: 'grid', gridTemplateColumns: 'repeat(2, 1fr)', gap: 1 }}
    >
      {MOVES.map((move) => (
        <ButtonBase
          key={move.id}
          disabled={pieceId === null}
          aria-label={`Add ${move.name}. ${move.summary}`}
          title={move.summary}
          onClick={() => {
            const id = freshId();
            act(`add ${move.name}`, (p) => addStep(p, pieceId!, { id, move: move.id }));
            setPlayback({ stepId: id });
          }}
          sx={{
            display: 'flex',
            flexDirection: 'column',
            alignItems: 'flex-start',
            gap: 0.5,
            p: 1,
            borderRadius: 2,
            bgcolor: colors.panel,
            fontSize: 13,
            fontWeight: 500,
            '&:hover': { bgcolor: colors.raised },
            '&.Mui-disabled': { opacity: 0.45 },
          }}
        >
          <MoveShape shape={move.shape} />
          {move.name}
        </ButtonBase>
      ))}
    </Box>
  );
}
