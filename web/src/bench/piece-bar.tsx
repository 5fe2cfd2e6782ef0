import { Box } from '@mui/material';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { ArrowLeft, ArrowRight, Copy, MoveHorizontal, SquareSplitHorizontal, Trash2 } from 'lucide-react';
import { CommandButton } from '../commands/command-button';
import type { LoadedClip } from '../state/library';
import { LoopFinder } from './loop-finder';

interface Props {
  readonly piece: CompiledPiece;
  readonly clip: LoadedClip | undefined;
}

/** What can be done with the selected piece as a whole. */
export function PieceBar({ piece, clip }: Props) {
  return (
    <Box role="group" aria-label="Piece" sx={{ display: 'flex' }}>
      <CommandButton id="earlier" name="Earlier in the result" size="small">
        <ArrowLeft size={15} />
      </CommandButton>
      <CommandButton id="later" name="Later in the result" size="small">
        <ArrowRight size={15} />
      </CommandButton>
      <CommandButton id="wholeClip" size="small">
        <MoveHorizontal size={15} />
      </CommandButton>
      <LoopFinder piece={piece} clip={clip} />
      <CommandButton id="split" name="Split at the playhead" size="small">
        <SquareSplitHorizontal size={15} />
      </CommandButton>
      <CommandButton id="duplicate" size="small">
        <Copy size={15} />
      </CommandButton>
      <CommandButton id="removePiece" size="small">
        <Trash2 size={15} />
      </CommandButton>
    </Box>
  );
}
