import { Box } from '@mui/material';
import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { useState } from 'react';
import { MoveCards } from '../bench/move-cards';
import { ChoiceRow } from '../parts/choice-row';
import { RecipeOffer, RecipeTools } from '../recipes/recipe-offer';
import type { ClipState, LoadedClip } from '../state/library';
import { setPlayback, usePlayback } from '../state/playback';
import { LookCards } from './look-cards';

interface Props {
  readonly project: Project;
  readonly compiled: CompiledProject;
  readonly piece: CompiledPiece | undefined;
  readonly clips: readonly ClipState[];
  /** The clip that is looked at. */
  readonly clip: LoadedClip | undefined;
}

/** What can be added: moves, looks for the piece or for the whole result, or both as recipes. One switch, so that each has its room. */
export function Offer({ project, compiled, piece, clips, clip }: Props) {
  const offered = usePlayback((s) => s.offered);
  const [whole, setWhole] = useState<string>('piece');
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1, minHeight: 0 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
        <ChoiceRow
          label="What is offered"
          value={offered}
          options={[
            { value: 'moves', label: 'Moves' },
            { value: 'looks', label: 'Looks' },
            { value: 'recipes', label: 'Recipes' },
          ]}
          onChange={(next) => setPlayback({ offered: next })}
        />
        {offered === 'looks' && (
          <ChoiceRow
            label="Looks of"
            value={whole as string}
            options={[
              { value: 'piece', label: 'piece', title: 'Add to the selected piece' },
              { value: 'whole', label: 'all', title: 'Add to the whole result' },
            ]}
            onChange={setWhole}
          />
        )}
        {offered === 'recipes' && <RecipeTools {...{ project, compiled, piece, clips }} />}
      </Box>
      {offered === 'moves' && <MoveCards piece={piece} />}
      {offered === 'looks' && (
        <LookCards piece={piece} where={whole === 'whole' || !piece ? null : piece.piece.id} />
      )}
      {offered === 'recipes' && <RecipeOffer {...{ project, piece, clips, clip }} />}
    </Box>
  );
}
