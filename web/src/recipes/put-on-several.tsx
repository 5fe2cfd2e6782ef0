import { Box, Button, Dialog, DialogContent } from '@mui/material';
import type { CompiledProject } from '@skipback/core/project/compile';
import type { PutHow, Target } from '@skipback/core/project/recipe-actions';
import { useState } from 'react';
import { CheckList } from '../parts/check-list';
import { ChoiceField } from '../parts/choice-field';
import { ChoiceRow } from '../parts/choice-row';
import type { ClipState } from '../state/library';
import { undo } from '../state/project-store';
import { colors } from '../theme';
import type { ListedRecipe } from './own-recipes';
import { type PutOutcome, putOnTargets } from './put';

interface Props {
  readonly recipes: readonly ListedRecipe[];
  readonly compiled: CompiledProject;
  readonly clips: readonly ClipState[];
  onClose(): void;
}

/** Puts one recipe on several pieces and clips at once, and says what had to give on each. */
export function PutOnSeveral({ recipes, compiled, clips, onClose }: Props) {
  const [recipeId, setRecipeId] = useState(recipes[0]?.id ?? '');
  const [how, setHow] = useState<PutHow>('instead');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [outcome, setOutcome] = useState<PutOutcome>();
  const listed = recipes.find((r) => r.id === recipeId);
  const targets = [
    ...compiled.pieces.map(({ compiled: p }, i) => ({
      id: `piece ${p.piece.id}`,
      ...{ before: `Piece ${i + 1}: `, name: p.clip.name },
      target: { pieceId: p.piece.id } as Target,
    })),
    ...clips
      .filter((c) => c.loaded)
      .map(({ clip }) => ({
        id: `clip ${clip.id}`,
        ...{ before: 'A new piece of ', name: clip.name },
        target: { clipId: clip.id } as Target,
      })),
  ];
  const put = () => {
    if (!listed) return;
    const on = targets.filter((t) => chosen.has(t.id)).map((t) => t.target);
    setOutcome(putOnTargets(listed.recipe, on, how, clips));
  };
  return (
    <Dialog
      open
      onClose={onClose}
      aria-labelledby="several-title"
      slotProps={{ paper: { sx: { width: 580 } } }}
    >
      <DialogContent sx={{ p: 2.5 }}>
        <Box id="several-title" component="h2" sx={{ m: 0, mb: 2, fontSize: 16, fontWeight: 600 }}>
          One recipe on several pieces
        </Box>
        {outcome && listed ? (
          <Outcome name={listed.recipe.name} outcome={outcome} />
        ) : (
          <>
            <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mb: 1.5 }}>
              <ChoiceField
                label="Recipe"
                value={recipeId}
                options={recipes.map((r) => ({ value: r.id, label: r.recipe.name }))}
                onChange={setRecipeId}
              />
              <Box sx={{ flex: 1 }} />
              <ChoiceRow<PutHow>
                label="How"
                value={how}
                options={[
                  {
                    value: 'instead',
                    label: 'instead of',
                    title: 'Instead of the moves and looks that are there',
                  },
                  { value: 'after', label: 'after', title: 'After the moves and looks that are there' },
                ]}
                onChange={setHow}
              />
              <Box sx={{ color: colors.quiet, whiteSpace: 'nowrap' }}>what is there</Box>
            </Box>
            <CheckList label="On" items={targets} chosen={chosen} height={340} onChoose={setChosen} />
          </>
        )}
        <Box sx={{ display: 'flex', gap: 1.5, mt: 2 }}>
          {outcome ? (
            <>
              <Button variant="contained" onClick={onClose}>
                Done
              </Button>
              <Button
                color="inherit"
                onClick={() => {
                  undo();
                  setOutcome(undefined);
                }}
              >
                Undo it
              </Button>
            </>
          ) : (
            <>
              <Button variant="contained" disabled={chosen.size === 0 || !listed} onClick={put}>
                Put on {chosen.size}
              </Button>
              <Box sx={{ flex: 1 }} />
              <Button color="inherit" onClick={onClose}>
                Cancel
              </Button>
            </>
          )}
        </Box>
      </DialogContent>
    </Dialog>
  );
}

function Outcome({ name, outcome: { said, sounds } }: { name: string; outcome: PutOutcome }) {
  const given = said.filter((s) => s.sentences.length > 0);
  return (
    <Box role="status" sx={{ maxHeight: 380, overflowY: 'auto' }}>
      <Box sx={{ mb: 1 }}>
        {name} is on {said.length} piece{said.length === 1 ? '' : 's'}
        {given.length === 0 ? ', as it is.' : '.'}
      </Box>
      {given.map(({ pieceId, clipName, sentences }) => (
        <Box key={pieceId} sx={{ mb: 1 }}>
          <Box sx={{ fontWeight: 600 }}>{clipName}</Box>
          {sentences.map((sentence) => (
            <Box key={sentence} sx={{ color: colors.quiet }}>
              {sentence}
            </Box>
          ))}
        </Box>
      ))}
      {sounds.length > 0 && <Box sx={{ color: colors.quiet }}>Switched on with it: {sounds.join(', ')}.</Box>}
    </Box>
  );
}
