import { Box, IconButton } from '@mui/material';
import { addStep } from '@skipback/core/project/actions';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { moveById } from '@skipback/core/moves/registry';
import { pathFrames } from '@skipback/core/path/path';
import { X } from 'lucide-react';
import { openCard } from '../state/cards';
import { freshId } from '../state/ids';
import { setOpen, useOpen } from '../state/open';
import { useProjectStore } from '../state/project-store';
import { Small } from '../parts/small-button';
import { colors } from '../theme';
import { type Placed, actAndPlay, addMove } from './add-move';

/** The whole bars that are nearest to a piece's length, at least one. */
function nearestBars({ piece: { music, path } }: Placed): number {
  const { beats, beatsPerBar } = music!;
  const beatFrames = (beats.at(-1)! - beats[0]!) / (beats.length - 1);
  return Math.max(1, Math.round(pathFrames(path) / (beatFrames * beatsPerBar)));
}

/** What can listen to a song that has just come in: offered once, where work goes on. */
export function Listens({
  piece,
  startFrame,
}: {
  readonly piece: CompiledPiece;
  readonly startFrame: number;
}) {
  const song = useProjectStore((s) => s.project?.song);
  const listens = useOpen((s) => s.listens);
  const { music } = piece;
  if (!song || song.mediaId !== listens || !music) return null;
  const at: Placed = { piece, startFrame };
  const bars = nearestBars(at);
  const fitted = () => {
    const id = freshId();
    const values = { length: { beats: bars * music.beatsPerBar }, by: 'speed' };
    actAndPlay(at, `fit to ${bars} bar${bars === 1 ? '' : 's'}`, (p) =>
      addStep(p, piece.piece.id, { id, move: 'fit', values }),
    );
    openCard('move', id);
  };
  const [mark] = piece.clip.marks;
  return (
    <Box
      role="group"
      aria-label="What can listen to the song"
      sx={{
        ...{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 0.5, p: 1, borderRadius: 2 },
        ...{ bgcolor: colors.panel, boxShadow: `inset 3px 0 ${colors.good}` },
      }}
    >
      <Box sx={{ flex: '1 1 60%', fontSize: 13, overflowWrap: 'anywhere' }}>Beats found in {song.name}.</Box>
      <IconButton size="small" aria-label="Close the offer" onClick={() => setOpen({ listens: null })}>
        <X size={14} />
      </IconButton>
      <Small onPress={fitted}>{`Fit to ${bars} bar${bars === 1 ? '' : 's'}`}</Small>
      <Small onPress={() => addMove(moveById('surge')!, at)}>Surge on beats</Small>
      <Small onPress={() => addMove(moveById('land')!, at)}>
        {mark ? `Land ${mark.name || 'the mark'} on a beat` : 'Land on a beat'}
      </Small>
    </Box>
  );
}
