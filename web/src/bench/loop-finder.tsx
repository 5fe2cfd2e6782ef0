import { Sheet } from '../parts/sheet';
import { Box, ButtonBase, CircularProgress } from '@mui/material';
import type { LoopProposal } from '@skipback/core/checks/likeness';
import { frameCount, meanRateHz } from '@skipback/core/clip/frame-table';
import { setSpan } from '@skipback/core/project/actions';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { spanPath } from '@skipback/core/path/path';
import { importClient } from '@skipback/media/import/import-client';
import { useQuery } from '@tanstack/react-query';
import { resultOfPiece } from '../state/compiled';
import type { LoadedClip } from '../state/library';
import { act } from '../state/project-store';
import { transport } from '../state/transport';
import { colors, mono } from '../theme';

/** Most frames compared at once: every pair of them is. */
const REACH = 400;
const PROPOSALS = 6;

interface Props {
  readonly piece: CompiledPiece;
  readonly clip: LoadedClip | undefined;
  /** What it hangs from while it is open. */
  readonly anchor: HTMLElement | null;
  onClose(): void;
}

/** Proposes spans near this one whose ends match, to loop forward without a visible join. */
export function LoopFinder({ piece, clip, anchor, onClose }: Props) {
  const count = frameCount(piece.table);
  const { span } = piece.piece;
  const reach = Math.max(0, REACH - (span.out - span.in)) / 2;
  const first = Math.max(0, Math.round(span.in - reach));
  const end = Math.min(count, first + REACH);
  const least = Math.max(4, Math.round(meanRateHz(piece.table) / 2));
  const { data, isFetching, isError } = useQuery({
    queryKey: ['loops', clip?.record.id, first, end],
    enabled: anchor !== null && clip !== undefined,
    queryFn: () => importClient.loops(clip!.source, { first, end, least, most: PROPOSALS }),
  });
  const preview = (loop: LoopProposal) =>
    transport.audition(
      resultOfPiece(piece, spanPath(piece.table, loop.in, loop.out, piece.path.rate)),
      `Frames ${loop.in} to ${loop.out}`,
    );
  const take = (loop: LoopProposal) => {
    act('take a found loop', (p) => setSpan(p, piece.piece.id, { in: loop.in, out: loop.out }, count));
    transport.play(1);
  };
  return (
    <Sheet anchor={anchor} name="Found loops" place="under" onClose={onClose}>
      <Box role="group" aria-label="Found loops" sx={{ p: 1.5, width: 330 }}>
        <Box sx={{ color: colors.quiet, mb: 1 }}>
          Spans whose end leads back to their beginning. A match of 1 is invisible: one usual step of the
          picture.
        </Box>
        {isFetching && (
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            <CircularProgress size={14} aria-label="Comparing" /> Comparing {end - first} frames
          </Box>
        )}
        {isError && <Box role="alert">The frames could not be compared.</Box>}
        {data?.length === 0 && <Box>The clip is too short for a loop of half a second.</Box>}
        {data?.map((loop) => (
          <ButtonBase
            key={`${loop.in}-${loop.out}`}
            onClick={() => take(loop)}
            onPointerEnter={() => preview(loop)}
            onPointerLeave={() => transport.endAudition()}
            onFocus={(event) => event.currentTarget.matches(':focus-visible') && preview(loop)}
            onBlur={() => transport.endAudition()}
            sx={{
              display: 'flex',
              width: '100%',
              gap: 2,
              px: 1,
              py: 0.6,
              borderRadius: 1,
              fontFamily: mono,
              fontSize: 13,
              '&:hover': { bgcolor: colors.raised },
            }}
          >
            <span>
              {loop.in} to {loop.out}
            </span>
            <Box sx={{ flex: 1, textAlign: 'left', color: colors.quiet }}>{loop.out - loop.in} f</Box>
            <Box sx={{ color: loop.seam < 2 ? colors.good : colors.attention }}>
              match {loop.seam.toFixed(1)}
            </Box>
          </ButtonBase>
        ))}
      </Box>
    </Sheet>
  );
}
