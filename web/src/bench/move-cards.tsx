import { Box, ButtonBase } from '@mui/material';
import { type AnyMove, MOVE_GROUPS, type MoveGroup } from '@skipback/core/moves/move';
import { applyChain } from '@skipback/core/moves/chain';
import { MOVES } from '@skipback/core/moves/registry';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { useEffect, useRef } from 'react';
import { MoveShape } from '../parts/move-shape';
import { useLatest } from '../parts/use-latest';
import { resultOfPiece } from '../state/compiled';
import { transport } from '../state/transport';
import { colors } from '../theme';
import { addMove, contextOf } from './add-move';

const GROUPS = Object.entries(MOVE_GROUPS) as [MoveGroup, string][];

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
  const add = (move: AnyMove) => latest.current && addMove(move, latest.current);
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
    <Box role="group" aria-label="Moves" sx={{ display: 'flex', flexDirection: 'column', gap: 0.375 }}>
      {GROUPS.map(([group, words]) => (
        <Box
          key={group}
          role="group"
          aria-label={words}
          sx={{ display: 'grid', gridTemplateColumns: '50px repeat(4, minmax(0, 1fr))', gap: 0.375 }}
        >
          <Box sx={{ fontSize: 11, lineHeight: 1.2, color: colors.quiet, alignSelf: 'center' }}>{words}</Box>
          {MOVES.filter((move) => move.group === group).map((move) => (
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
                px: 0.375,
                py: 0.375,
                borderRadius: 1.5,
                bgcolor: colors.panel,
                fontSize: 11,
                lineHeight: 1.25,
                fontWeight: 500,
                letterSpacing: '-0.02em',
                '&:hover': { bgcolor: colors.raised },
                '&.Mui-disabled': { opacity: 0.45 },
              }}
            >
              <MoveShape shape={move.shape} width={44} height={15} />
              {move.name}
            </ButtonBase>
          ))}
        </Box>
      ))}
    </Box>
  );
}
