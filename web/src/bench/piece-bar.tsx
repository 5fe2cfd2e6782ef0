import { Box, IconButton, Tooltip } from '@mui/material';
import { removePiece } from '@skipback/core/project/actions';
import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import { duplicatePiece, shiftPiece, splitPiece } from '@skipback/core/project/piece-actions';
import { ArrowLeft, ArrowRight, Copy, SquareSplitHorizontal, Trash2 } from 'lucide-react';
import { useSnackbar } from 'notistack';
import type { ReactNode } from 'react';
import type { LoadedClip } from '../state/library';
import { freshId } from '../state/ids';
import { usePlaying } from '../state/playing';
import { select } from '../state/selection';
import { act } from '../state/project-store';
import { LoopFinder } from './loop-finder';

interface Props {
  readonly compiled: CompiledProject;
  readonly piece: CompiledPiece;
  readonly clip: LoadedClip | undefined;
}

/** What can be done with the selected piece as a whole: its place in the row, copies, cutting it in two. */
export function PieceBar({ compiled, piece, clip }: Props) {
  const { enqueueSnackbar } = useSnackbar();
  const place = compiled.pieces.findIndex((p) => p.compiled === piece);
  const startFrame = compiled.pieces[place]?.startFrame ?? 0;
  const { id } = piece.piece;
  const split = () => {
    const { showing, position } = usePlaying.getState();
    const at = position - startFrame;
    if (showing === 'source' || at <= 0 || at >= piece.shown.length)
      return void enqueueSnackbar('Put the playhead inside the piece, on the result strip, then split.');
    act('split the piece', (p) => splitPiece(p, id, at, piece.shown.length, freshId));
  };
  return (
    <Box role="group" aria-label="Piece" sx={{ display: 'flex' }}>
      <Tool
        words="Earlier in the result"
        disabled={place <= 0}
        onPress={() => act('move the piece earlier', (p) => shiftPiece(p, id, -1))}
      >
        <ArrowLeft size={15} />
      </Tool>
      <Tool
        words="Later in the result"
        disabled={place >= compiled.pieces.length - 1}
        onPress={() => act('move the piece later', (p) => shiftPiece(p, id, 1))}
      >
        <ArrowRight size={15} />
      </Tool>
      <LoopFinder piece={piece} clip={clip} />
      <Tool words="Split at the playhead" onPress={split}>
        <SquareSplitHorizontal size={15} />
      </Tool>
      <Tool
        words="Duplicate the piece"
        onPress={() => act('duplicate the piece', (p) => duplicatePiece(p, id, freshId))}
      >
        <Copy size={15} />
      </Tool>
      <Tool
        words="Take the piece away"
        onPress={() => {
          act('take the piece away', (p) => removePiece(p, id));
          select({ pieceId: null });
        }}
      >
        <Trash2 size={15} />
      </Tool>
    </Box>
  );
}

function Tool({
  words,
  disabled = false,
  onPress,
  children,
}: {
  words: string;
  disabled?: boolean;
  onPress: () => void;
  children: ReactNode;
}) {
  return (
    <Tooltip title={words}>
      <span>
        <IconButton size="small" aria-label={words} disabled={disabled} onClick={onPress}>
          {children}
        </IconButton>
      </span>
    </Tooltip>
  );
}
