import { Box, Button, Dialog, DialogContent, TextField } from '@mui/material';
import { namesBy } from '@skipback/core/project/file-names';
import { putOn } from '@skipback/core/project/recipe-actions';
import { readProject } from '@skipback/core/project/read-project';
import type { Project } from '@skipback/core/project/schema';
import { FILE_KINDS } from '@skipback/media/render/encoders';
import { DEFAULT_RENDER, type RenderSettings } from '@skipback/media/render/messages';
import { PICTURE_KINDS } from '@skipback/media/render/pictures/kinds';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { TROUBLE } from '../notices';
import { CheckList, type Choosable } from '../parts/check-list';
import { ChoiceField } from '../parts/choice-field';
import { ChoiceRow } from '../parts/choice-row';
import { useRecipes } from '../recipes/own-recipes';
import { compileWith } from '../state/compiled';
import { fileName } from '../state/download';
import { freshId } from '../state/ids';
import { type ClipState, tableOf } from '../state/library';
import { useProjectRecords } from '../state/project-list';
import { enqueue } from '../state/queue';
import { colors } from '../theme';
import { kindOf } from './render-job';

interface Props {
  /** The open project, whose clips may each have a recipe. */
  readonly project: Project;
  readonly clips: readonly ClipState[];
  readonly settings: RenderSettings;
  onClose(): void;
}

/** One thing a file can be made of. */
interface Source extends Choosable {
  readonly parts: { readonly project: string; readonly clip: string; readonly recipe: string };
  /** The project that is rendered; undefined where it cannot be read. */
  make(): Project | undefined;
}

const bare = (name: string): string => name.replace(/\.[^.]+$/, '');

/** Puts several files into the queue at once: projects of the shelf, or clips of this one, each with one recipe. */
export function ManyDialog({ project, clips, settings: given, onClose }: Props) {
  const { enqueueSnackbar } = useSnackbar();
  const recipes = useRecipes();
  const { data: records = [] } = useProjectRecords();
  const [what, setWhat] = useState<'projects' | 'clips'>('projects');
  const [recipeId, setRecipeId] = useState(recipes[0]?.id ?? '');
  const [pattern, setPattern] = useState('');
  const [settings, setSettings] = useState<RenderSettings>(given ?? DEFAULT_RENDER);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set([project.id]));
  const recipe = recipes.find((r) => r.id === recipeId)?.recipe;
  const shown = pattern || (what === 'projects' ? '{project}' : '{clip}-{recipe}');

  const ofProjects = records.map((record): Source => {
    // The open one as it is now, whatever of it is written already.
    const document = record.id === project.id ? project : record.document;
    return {
      id: record.id,
      ...(record.id === project.id ? { before: 'This one: ', name: project.name } : { name: record.name }),
      parts: { project: document.name, clip: bare(document.clips[0]?.name ?? ''), recipe: '' },
      make() {
        const read = readProject(document);
        return read.ok ? read.project : undefined;
      },
    };
  });
  const ofClips = clips
    .filter((c) => c.loaded)
    .map(({ clip }): Source => ({
      id: clip.id,
      name: clip.name,
      parts: { project: project.name, clip: bare(clip.name), recipe: recipe?.name ?? '' },
      make() {
        if (!recipe) return undefined;
        const alone = {
          ...project,
          name: `${bare(clip.name)}, ${recipe.name}`.slice(0, 200),
          pieces: [],
          looks: [],
        };
        return putOn(alone, recipe, [{ clipId: clip.id }], 'instead', {
          compile: (p) => compileWith(p, clips),
          table: (id) => tableOf(clips.find((c) => c.clip.id === id)),
          newId: freshId,
        }).project;
      },
    }));
  const sources = what === 'projects' ? ofProjects : ofClips;
  const on = sources.filter((s) => chosen.has(s.id));
  const names = namesBy(
    shown,
    on.map((s) => s.parts),
    fileName,
  );
  const add = async () => {
    const orders = on.flatMap((source, i) => {
      const made = source.make();
      const name = `${names[i]!}.${kindOf(settings).extension}`;
      return made ? [{ name, project: made, settings, withSound: true }] : [];
    });
    try {
      await enqueue(orders);
      const unread = on.length - orders.length;
      enqueueSnackbar(
        `${orders.length} ${orders.length === 1 ? 'file is' : 'files are'} in the queue${unread > 0 ? `; ${unread} could not be read` : ''}`,
      );
      onClose();
    } catch {
      enqueueSnackbar('The queue could not be kept: the browser’s storage is full or switched off.', TROUBLE);
    }
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="many-title" slotProps={{ paper: { sx: { width: 560 } } }}>
      <DialogContent sx={{ p: 2.5 }}>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mb: 1.5 }}>
          <Box id="many-title" component="h2" sx={{ m: 0, flex: 1, fontSize: 16, fontWeight: 600 }}>
            Many at once
          </Box>
          <ChoiceRow<'projects' | 'clips'>
            label="Of what"
            value={what}
            options={[
              { value: 'projects', label: 'Projects' },
              { value: 'clips', label: 'Clips with a recipe' },
            ]}
            onChange={(next) => {
              setWhat(next);
              setChosen(new Set());
            }}
          />
        </Box>
        <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', mb: 1 }}>
          <ChoiceField
            label="Files"
            value={settings.format}
            options={[...FILE_KINDS, ...PICTURE_KINDS].map((k) => ({ value: k.id, label: k.label }))}
            onChange={(v) => setSettings({ ...settings, format: v as RenderSettings['format'] })}
          />
          {what === 'clips' && (
            <ChoiceField
              label="Recipe of the clips"
              value={recipeId}
              options={recipes.map((r) => ({ value: r.id, label: r.recipe.name }))}
              onChange={setRecipeId}
            />
          )}
        </Box>
        <Box sx={{ mb: 1.5 }}>
          <CheckList label="Made of" items={sources} chosen={chosen} height={260} onChoose={setChosen} />
        </Box>
        <TextField
          size="small"
          fullWidth
          label="Names"
          value={shown}
          onChange={(event) => setPattern(event.target.value.slice(0, 200))}
          helperText={
            names.length > 0
              ? `${names.slice(0, 3).join(', ')}${names.length > 3 ? ' …' : ''}`
              : 'In braces: project, clip, recipe, n'
          }
        />
        <Box sx={{ display: 'flex', gap: 1.5, mt: 2, alignItems: 'center' }}>
          <Button variant="contained" disabled={on.length === 0} onClick={() => void add()}>
            Add {on.length} to the queue
          </Button>
          <Box sx={{ flex: 1, color: colors.quiet, fontSize: 12.5 }}>
            Size and quality as chosen on the page.
          </Box>
          <Button color="inherit" onClick={onClose}>
            Cancel
          </Button>
        </Box>
      </DialogContent>
    </Dialog>
  );
}
