import { Box } from '@mui/material';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { Copy, SquareSplitHorizontal } from 'lucide-react';
import { useState } from 'react';
import { CommandButton } from '../commands/command-button';
import type { CommandId } from '../commands/commands';
import { useCommand } from '../commands/use-commands';
import { type MenuEntry, MoreMenu } from '../parts/more-menu';
import type { LoadedClip } from '../state/library';
import { LoopFinder } from './loop-finder';

interface Props {
  readonly piece: CompiledPiece;
  readonly clip: LoadedClip | undefined;
}

/** What can be done with the selected piece as a whole: the usual as buttons, the rest in a menu. */
export function PieceBar({ piece, clip }: Props) {
  const [button, setButton] = useState<HTMLButtonElement | null>(null);
  const [finds, setFinds] = useState(false);
  const items = [
    useEntry('earlier', 'Earlier in the result'),
    useEntry('later', 'Later in the result'),
    useEntry('wholeClip', 'Use the whole clip'),
    ['Find loops near the span', () => setFinds(true)] as const,
    useEntry('removePiece', 'Remove the piece'),
  ];
  return (
    <Box role="group" aria-label="Piece" sx={{ display: 'flex' }}>
      <CommandButton id="split" name="Split at the playhead" size="small">
        <SquareSplitHorizontal size={15} />
      </CommandButton>
      <CommandButton id="duplicate" size="small">
        <Copy size={15} />
      </CommandButton>
      <MoreMenu name="the piece" items={items} ref={setButton} />
      <LoopFinder piece={piece} clip={clip} anchor={finds ? button : null} onClose={() => setFinds(false)} />
    </Box>
  );
}

/** A command as a menu has it. */
function useEntry(id: CommandId, words: string): MenuEntry {
  const { run, why } = useCommand(id, words);
  return [words, run, why];
}
