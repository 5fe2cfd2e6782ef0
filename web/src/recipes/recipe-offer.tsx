import { useTip } from '../commands/use-commands';
import { Box, Button, IconButton, Tooltip } from '@mui/material';
import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { BookmarkPlus, FolderOpen, Layers } from 'lucide-react';
import { useSnackbar } from 'notistack';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { TROUBLE } from '../notices';
import { resultOfPiece } from '../state/compiled';
import type { ClipState, LoadedClip } from '../state/library';
import { setOpen, useOpen } from '../state/open';
import { transport } from '../state/transport';
import { type ListedRecipe, readRecipeFile, removeRecipe, saveRecipeFile, useRecipes } from './own-recipes';
import { pieceWith } from './previews';
import { PutOnSeveral } from './put-on-several';
import { RecipeCards } from './recipe-cards';
import { SaveRecipe } from './save-recipe';
import { usePutRecipe } from './use-put-recipe';

interface Props {
  readonly project: Project;
  readonly compiled: CompiledProject;
  readonly piece: CompiledPiece | undefined;
  readonly clips: readonly ClipState[];
  /** The clip that is looked at, for a project without a piece. */
  readonly clip: LoadedClip | undefined;
}

/** The gallery of recipes on the selected piece: resting on one shows it big, pressing it puts it on. */
export function RecipeOffer({ project, piece, clips, clip }: Omit<Props, 'compiled'>) {
  const recipes = useRecipes();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const own = clips.find((c) => c.clip.id === piece?.clip.id)?.loaded;
  const on = useMemo(() => (piece && own ? { piece, clip: own } : undefined), [piece, own]);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const rest = (listed: ListedRecipe | undefined) => {
    clearTimeout(timer.current);
    if (!listed || !on) return transport.endAudition();
    timer.current = setTimeout(() => {
      const made = pieceWith(listed.recipe, on);
      transport.audition(resultOfPiece(made, made.path), listed.recipe.name);
    }, 450);
  };
  useEffect(
    () => () => {
      clearTimeout(timer.current);
      transport.endAudition();
    },
    [],
  );

  const putRecipe = usePutRecipe(piece, clips, clip);
  const put = ({ recipe }: ListedRecipe) => {
    clearTimeout(timer.current);
    transport.endAudition();
    putRecipe(recipe);
  };
  const remove = async (listed: ListedRecipe) => {
    const back = await removeRecipe(listed.id);
    const key = enqueueSnackbar(`${listed.recipe.name} is deleted`, {
      autoHideDuration: 12_000,
      action: (
        <Button
          color="inherit"
          onClick={() => {
            closeSnackbar(key);
            void back();
          }}
        >
          Undo
        </Button>
      ),
    });
  };
  const more = (listed: ListedRecipe) =>
    [
      ['Save as a file', () => saveRecipeFile(listed.recipe)],
      ['Delete', () => void remove(listed)],
    ] as const;
  return (
    <RecipeCards
      recipes={recipes}
      on={on}
      projectWidth={project.size.width}
      columns={1}
      mostHeight="min(360px, 45vh)"
      disabled={!piece && !clip}
      onPick={put}
      onRest={rest}
      more={more}
    />
  );
}

/** What else can be done with recipes: save the piece as one, put one on several, read files. */
export function RecipeTools({ project, compiled, piece, clips }: Omit<Props, 'clip'>) {
  const recipes = useRecipes();
  const { enqueueSnackbar } = useSnackbar();
  const saving = useOpen((s) => s.savingRecipe);
  const saveTip = useTip('saveRecipe');
  const [several, setSeveral] = useState(false);
  // The sheet hangs from it, and may be asked for before it is there.
  const [button, setButton] = useState<HTMLButtonElement | null>(null);
  const has = piece !== undefined && piece.piece.chain.length + piece.piece.looks.length > 0;
  const { getInputProps, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    noDrag: true,
    accept: { 'application/json': ['.json'] },
    onDrop: (files) => void readAll(files),
  });
  const readAll = async (files: readonly File[]) => {
    for (const file of files) {
      const read = await readRecipeFile(file);
      if ('sentence' in read) enqueueSnackbar(read.sentence, TROUBLE);
      else enqueueSnackbar(`${read.name} is among the recipes`);
    }
  };
  return (
    <Box sx={{ display: 'flex' }}>
      <input {...getInputProps({ 'aria-label': 'Choose recipe files' })} />
      <Tooltip
        title={has ? saveTip : 'Save the piece as a recipe: it has no moves or looks yet'}
        describeChild
      >
        <span>
          <IconButton
            ref={setButton}
            size="small"
            aria-label="Save as a recipe"
            disabled={!has}
            onClick={() => setOpen({ savingRecipe: true })}
          >
            <BookmarkPlus size={16} />
          </IconButton>
        </span>
      </Tooltip>
      <Tooltip title="Put one on several pieces or clips" describeChild>
        <span>
          <IconButton
            size="small"
            aria-label="Put on several"
            disabled={clips.length === 0}
            onClick={() => setSeveral(true)}
          >
            <Layers size={16} />
          </IconButton>
        </span>
      </Tooltip>
      <Tooltip title="Read recipe files">
        <IconButton size="small" aria-label="Read recipe files" onClick={open}>
          <FolderOpen size={16} />
        </IconButton>
      </Tooltip>
      {has && (
        <SaveRecipe
          anchor={saving ? button : null}
          {...{ project, piece, recipes }}
          onClose={() => setOpen({ savingRecipe: false })}
        />
      )}
      {several && <PutOnSeveral {...{ recipes, compiled, clips }} onClose={() => setSeveral(false)} />}
    </Box>
  );
}
