import { Box, IconButton, useMediaQuery } from '@mui/material';
import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { ChevronDown, ChevronUp } from 'lucide-react';
import { MoveCards } from '../bench/move-cards';
import { ChoiceRow } from '../parts/choice-row';
import { RecipeOffer, RecipeTools } from '../recipes/recipe-offer';
import type { ClipState, LoadedClip } from '../state/library';
import { setOpen, useOpen } from '../state/open';
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
  const offered = useOpen((s) => s.offered);
  const whole = useOpen((s) => s.onWhole);
  const asked = useOpen((s) => s.offerOpen);
  const low = useMediaQuery('(max-height: 719px)');
  const { chain, looks } = piece?.piece ?? { chain: [], looks: [] };
  const open = asked ?? !(low && chain.length + looks.length > 0);
  const startFrame = compiled.pieces.find((p) => p.compiled === piece)?.startFrame ?? 0;
  return (
    <Box
      role="group"
      aria-label="Offer"
      sx={{ display: 'flex', flexDirection: 'column', gap: 0.75, flex: 'none', minHeight: 0 }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
        <ChoiceRow
          label="What is offered"
          value={open ? offered : null}
          options={[
            { value: 'moves', label: 'Moves' },
            { value: 'looks', label: 'Looks' },
            { value: 'recipes', label: 'Recipes' },
          ]}
          onChange={(next) => setOpen({ offered: next, offerOpen: true })}
        />
        <Box sx={{ flex: 1 }} />
        {open && offered === 'looks' && (
          <ChoiceRow
            label="Looks of"
            value={whole ? 'whole' : 'piece'}
            options={[
              { value: 'piece', label: 'piece', title: 'Add to the selected piece' },
              { value: 'whole', label: 'all', title: 'Add to the whole result' },
            ]}
            onChange={(value) => setOpen({ onWhole: value === 'whole' })}
          />
        )}
        {open && offered === 'recipes' && <RecipeTools {...{ project, compiled, piece, clips }} />}
        <IconButton
          size="small"
          aria-label={open ? 'Fold the offer' : 'Open the offer'}
          aria-expanded={open}
          onClick={() => setOpen({ offerOpen: !open })}
          sx={{ mr: -0.75 }}
        >
          {open ? <ChevronUp size={16} /> : <ChevronDown size={16} />}
        </IconButton>
      </Box>
      {open && offered === 'moves' && <MoveCards piece={piece} startFrame={startFrame} />}
      {open && offered === 'looks' && (
        <LookCards piece={piece} startFrame={startFrame} where={whole || !piece ? null : piece.piece.id} />
      )}
      {open && offered === 'recipes' && <RecipeOffer {...{ project, piece, clips, clip }} />}
    </Box>
  );
}
