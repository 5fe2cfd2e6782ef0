import { Box } from '@mui/material';
import { frameCount } from '@skipback/core/clip/frame-table';
import { addClip, setFormat } from '@skipback/core/project/actions';
import { compilePiece } from '@skipback/core/project/compile';
import { formatFor, newPiece, newProject } from '@skipback/core/project/new-project';
import { putOn } from '@skipback/core/project/recipe-actions';
import type { Clip, Project } from '@skipback/core/project/schema';
import { importClient } from '@skipback/media/import/import-client';
import { type ProjectRecord, database } from '@skipback/media/storage/database';
import { mediaFile } from '@skipback/media/storage/media-files';
import { Said } from '@skipback/media/worker-client';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { compileWith } from '../state/compiled';
import { freshId } from '../state/ids';
import { clipOf, storeMedia } from '../state/import-files';
import type { LoadedClip } from '../state/library';
import { rested } from '../shelf/rested';
import { openNextWith } from '../state/opening';
import { shelve } from '../state/shelve';
import { colors } from '../theme';
import { type ListedRecipe, useRecipes } from './own-recipes';
import type { ShownOn } from './previews';
import { RecipeCards } from './recipe-cards';

/** The demo's clip that recipes are shown on where there is no own one. */
const DEMO_CLIP = 'lantern.mp4';

/** The newest project's clip, if it can be read; else one of the demo's. */
async function clipToShow(
  projects: readonly ProjectRecord[],
  signal: AbortSignal,
): Promise<LoadedClip | null> {
  if (!(await rested(signal))) return null;
  for (const { document } of projects.slice(0, 3)) {
    const clip = document.clips.find((c) => c.id === document.pieces[0]?.clipId);
    const [record, file] = clip
      ? await Promise.all([database.media.get(clip.mediaId), mediaFile(clip.mediaId)])
      : [undefined, undefined];
    if (clip && record && file && frameCount(record.facts.table) > 1) return loadedOf(clip, record, file);
  }
  const response = await fetch(`/demo/media/${DEMO_CLIP}`);
  if (!response.ok) return null;
  const file = new File([await response.blob()], DEMO_CLIP, { type: 'video/mp4' });
  const inspection = await importClient.inspect(file, file.name);
  if (!inspection.ok) return null;
  const record = {
    id: 'demo',
    name: file.name,
    bytes: file.size,
    fingerprint: '',
    facts: inspection.facts,
    thumbnails: null,
  };
  return loadedOf(clipOf('demo', file.name), record, file);
}

const loadedOf = (clip: Clip, record: LoadedClip['record'], file: File): LoadedClip => ({
  clip,
  record,
  source: { clipId: clip.id, file, index: record.facts.index, framing: clip.framing },
});

/** A project of one clip, not kept anywhere. */
function projectOf(name: string, { clip, record }: LoadedClip, mediaId: string): Project {
  const empty = newProject(freshId(), name, Date.now());
  return addClip(setFormat(empty, formatFor(record.facts.table, record.facts)), { ...clip, mediaId });
}

/** Starts a project with a recipe on a clip; gives its id. */
async function startWithRecipe({ recipe }: ListedRecipe, shown: LoadedClip): Promise<string> {
  const file = shown.source.file as File;
  const { record, notice } = await storeMedia(file);
  if (!record) throw new Said(notice.text);
  const project = projectOf(recipe.name, shown, record.id);
  const states = [
    { clip: project.clips[0]!, loaded: { ...shown, record, clip: project.clips[0]! }, missing: false },
  ];
  const made = putOn(project, recipe, [{ clipId: shown.clip.id }], 'instead', {
    compile: (p) => compileWith(p, states),
    table: () => record.facts.table,
    newId: freshId,
  });
  openNextWith({ offersRecipes: true, plays: true });
  return shelve(made.project);
}

interface Props {
  readonly projects: readonly ProjectRecord[];
  readonly columns: number;
  readonly disabled: boolean;
  /** Does what starts a project, and opens it. */
  onStart(work: () => Promise<string>): void;
}

/** Every recipe, moving on the newest own clip or on the demo's: pressing one starts a project with it. */
export function ShelfGallery({ projects, columns, disabled, onStart }: Props) {
  const recipes = useRecipes();
  const newest = projects.slice(0, 3).map((p) => p.id);
  const { data: clip } = useQuery({
    queryKey: ['shown on the shelf', newest],
    queryFn: ({ signal }) => clipToShow(projects, signal),
    // What is being fetched for a project comes first.
    enabled: !disabled,
    gcTime: 0,
  });
  const on = useMemo((): ShownOn | undefined => {
    if (!clip) return undefined;
    const { record } = clip;
    const project = projectOf('', clip, record.id);
    const piece = newPiece('shown', clip.clip.id, record.facts.table);
    const sizes = { picture: record.facts, frame: project.size };
    return {
      clip,
      piece: compilePiece(piece, clip.clip, record.facts.table, project.rate, undefined, sizes),
    };
  }, [clip]);
  return (
    <Box component="section" aria-label="Start from a recipe">
      <Box sx={{ color: colors.quiet, fontSize: 13, mb: 1 }}>
        Click a recipe to start with it{clip ? `, here on ${clip.clip.name}` : ''}.
      </Box>
      <RecipeCards
        recipes={recipes}
        on={disabled ? undefined : on}
        projectWidth={on?.piece.sizes?.frame.width ?? 1280}
        columns={columns}
        disabled={disabled || !clip}
        onPick={(listed) => clip && onStart(() => startWithRecipe(listed, clip))}
      />
    </Box>
  );
}
