import { Box, Button, TextField } from '@mui/material';
import type { CompiledPiece } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import {
  type LengthValue,
  type Meant,
  beatSecondsOf,
  lengthKey,
  lengthsOf,
  takeRecipe,
} from '@skipback/core/recipe/take';
import { moveById } from '@skipback/core/moves/registry';
import { treatmentById } from '@skipback/core/looks/registry';
import { toNumber } from '@skipback/core/time/rational';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { TROUBLE } from '../notices';
import { ChoiceRow } from '../parts/choice-row';
import { Line } from '../parts/line';
import { Sheet } from '../parts/sheet';
import { colors } from '../theme';
import { type ListedRecipe, keepRecipe } from './own-recipes';

interface Props {
  readonly anchor: HTMLElement | null;
  readonly project: Project;
  readonly piece: CompiledPiece;
  readonly recipes: readonly ListedRecipe[];
  onClose(): void;
}

/** A name from what a piece has: `Boomerang, Split`. */
function nameOf({ chain, looks }: CompiledPiece['piece']): string {
  const moves = chain.filter((s) => s.on).map((s) => moveById(s.move)?.name ?? s.move);
  const drawn = looks.filter((l) => l.on).map((l) => treatmentById(l.look)?.name ?? l.look);
  return [...new Set([...moves, ...drawn])].slice(0, 3).join(', ') || 'Recipe';
}

/** Saves the selected piece's moves and looks under a name, and says what its lengths are meant in. */
export function SaveRecipe({ anchor, project, piece, recipes, onClose }: Props) {
  return (
    <Sheet anchor={anchor} name="Save as a recipe" width={380} onClose={onClose}>
      {anchor && <Form {...{ project, piece, recipes, onClose }} />}
    </Sheet>
  );
}

function Form({ project, piece, recipes, onClose }: Omit<Props, 'anchor'>) {
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const [name, setName] = useState(() => nameOf(piece.piece));
  const [says, setSays] = useState('');
  const [meant, setMeant] = useState<Readonly<Record<string, Meant>>>({});
  const lengths = lengthsOf(piece);
  const beatS = beatSecondsOf(piece, project);
  const taken = recipes.some((r) => r.own && r.recipe.name === name.trim());
  const save = async () => {
    const recipe = { ...takeRecipe(piece, project, name, meant), says: says.trim().slice(0, 400) };
    onClose();
    try {
      const undo = await keepRecipe(recipe);
      const key = enqueueSnackbar(`${recipe.name} is among the recipes`, {
        action: (
          <Button
            color="inherit"
            onClick={() => {
              closeSnackbar(key);
              void undo();
            }}
          >
            Undo
          </Button>
        ),
      });
    } catch {
      enqueueSnackbar('The browser would not keep the recipe: its storage is full or switched off.', TROUBLE);
    }
  };
  return (
    <Box
      component="form"
      aria-label="Save as a recipe"
      sx={{ display: 'flex', flexDirection: 'column', gap: 1.5 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim() !== '') void save();
      }}
    >
      <Box sx={{ fontWeight: 600 }}>
        {piece.piece.chain.length} move{piece.piece.chain.length === 1 ? '' : 's'} and{' '}
        {piece.piece.looks.length} look
        {piece.piece.looks.length === 1 ? '' : 's'}, to be put on other spans
      </Box>
      <TextField
        size="small"
        label="Name"
        value={name}
        autoFocus
        onChange={(event) => setName(event.target.value.slice(0, 200))}
        onFocus={(event) => event.target.select()}
      />
      <TextField
        size="small"
        label="What it does, if that needs saying"
        value={says}
        onChange={(event) => setSays(event.target.value.slice(0, 400))}
      />
      {lengths.length > 0 && (
        <Box role="group" aria-label="Lengths" sx={{ maxHeight: 260, overflowY: 'auto' }}>
          <Box sx={{ color: colors.quiet, fontSize: 12.5, mb: 0.5 }}>
            On another span these stay what they are meant as
          </Box>
          {lengths.map((length) => (
            <LengthRow
              key={lengthKey(length)}
              length={length}
              meant={meant[lengthKey(length)] ?? length.meant}
              beatFrames={beatS === undefined ? undefined : beatS * toNumber(project.rate)}
              onChange={(next) => setMeant({ ...meant, [lengthKey(length)]: next })}
            />
          ))}
        </Box>
      )}
      <Button
        type="submit"
        variant="contained"
        disabled={name.trim() === ''}
        sx={{ alignSelf: 'flex-start' }}
      >
        {taken ? 'Replace the one of this name' : 'Save the recipe'}
      </Button>
    </Box>
  );
}

function LengthRow({
  length,
  meant,
  beatFrames,
  onChange,
}: {
  length: LengthValue;
  meant: Meant;
  beatFrames: number | undefined;
  onChange: (meant: Meant) => void;
}) {
  const frames =
    length.frames ?? (length.beats !== undefined && beatFrames ? length.beats * beatFrames : undefined);
  if (frames === undefined) return null;
  const options = [
    {
      value: 'frames' as const,
      label: `${Math.round(frames)} f`,
      name: `${Math.round(frames)} f, in frames`,
    },
    ...(length.incoming > 0
      ? [
          {
            value: 'share' as const,
            label: `${Math.round((100 * frames) / length.incoming)} %`,
            name: `${Math.round((100 * frames) / length.incoming)} %, a share of what comes in`,
            title: 'A share of what comes in',
          },
        ]
      : []),
    ...(beatFrames
      ? [
          {
            value: 'beats' as const,
            label: `${Number((frames / beatFrames).toFixed(2))} b`,
            name: `${Number((frames / beatFrames).toFixed(2))} b, in beats`,
            title: 'Beats',
          },
        ]
      : []),
  ];
  return (
    <Line label={length.words}>
      <ChoiceRow label={length.words} value={meant} options={options} onChange={onChange} />
    </Line>
  );
}
