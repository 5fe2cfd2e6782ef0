import { Box } from '@mui/material';
import { frameCount } from '@skipback/core/clip/frame-table';
import { addClip, setFormat } from '@skipback/core/project/actions';
import { compilePiece } from '@skipback/core/project/compile';
import { formatFor, newPiece, newProject } from '@skipback/core/project/new-project';
import { putOn } from '@skipback/core/project/recipe-actions';
import type { Clip, Project } from '@skipback/core/project/schema';
import { MOVE_GROUPS, type MoveGroup } from '@skipback/core/moves/move';
import { importClient } from '@skipback/media/import/import-client';
import { type ProjectRecord, database } from '@skipback/media/storage/database';
import { mediaFile } from '@skipback/media/storage/media-files';
import { Said } from '@skipback/media/worker-client';
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { compileWith } from '../state/compiled';
import { fetched } from '../state/fetched';
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

/** The demo's clip that recipes are shown on where there is no own one, by what they are for. */
const DEMO_CLIPS: Record<MoveGroup, string> = {
  there: 'lantern.mp4',
  stop: 'drummer.mp4',
  pace: 'tram.webm',
  music: 'pinwheels.webm',
  hand: 'tea.mp4',
};

/** The newest project's clip, if there is one that can be read. */
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
  return null;
}

async function demoClip(name: string, signal: AbortSignal): Promise<LoadedClip | null> {
  if (!(await rested(signal))) return null;
  const film = await fetched(`/demo/media/${name}`, name, signal).catch(() => undefined);
  if (!film) return null;
  const file = new File([film], name, { type: `video/${name.split('.')[1]}` });
  const inspection = await importClient.inspect(file, file.name);
  if (!inspection.ok) return null;
  const record = {
    id: `demo ${name}`,
    name: file.name,
    bytes: file.size,
    fingerprint: '',
    facts: inspection.facts,
    thumbnails: null,
  };
  return loadedOf(clipOf(record.id, file.name), record, file);
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

/** A clip as a piece that recipes are shown on. */
function useShownOn(clip: LoadedClip | null | undefined): ShownOn | undefined {
  return useMemo(() => {
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
}

/** Every recipe, moving on the newest own clip, or each on the demo's that suits it: clicking one starts a project with it. */
export function ShelfGallery({ projects, columns, disabled, onStart }: Props) {
  const recipes = useRecipes();
  const newest = projects.slice(0, 3).map((p) => p.id);
  const { data: own } = useQuery({
    queryKey: ['shown on the shelf', newest],
    queryFn: ({ signal }) => clipToShow(projects, signal),
    // What is being fetched for a project comes first.
    enabled: !disabled,
    gcTime: 0,
  });
  // One after the other: the first are seen first.
  const [moving, setMoving] = useState(0);
  const groups = useMemo(
    () =>
      (Object.keys(MOVE_GROUPS) as MoveGroup[])
        // Own ones stand with the first.
        .map((group, i) => ({
          group,
          recipes: recipes.filter((r) => r.group === group || (i === 0 && r.own)),
        }))
        .filter((g) => g.recipes.length > 0),
    [recipes],
  );
  return (
    <Box component="section" aria-label="Start from a recipe">
      <Box sx={{ color: colors.quiet, fontSize: 13, mb: 1 }}>
        Click a recipe to start with it{own ? `, here on ${own.clip.name}` : ''}.
      </Box>
      {own === null ? (
        groups.map(({ group, recipes: some }, i) => (
          <OnDemoClip
            key={group}
            name={DEMO_CLIPS[group]}
            recipes={some}
            columns={columns}
            disabled={disabled}
            waits={i > moving}
            onMoving={() => setMoving((n) => Math.max(n, i + 1))}
            onStart={onStart}
          />
        ))
      ) : (
        <OnClip {...{ recipes, columns, disabled, onStart }} clip={own} />
      )}
    </Box>
  );
}

interface OnProps extends Pick<Props, 'columns' | 'disabled' | 'onStart'> {
  readonly recipes: readonly ListedRecipe[];
  readonly onMoving?: () => void;
}

/** Recipes on a clip of the demo, once it is their turn. */
function OnDemoClip({ name, waits, ...props }: OnProps & { readonly name: string; readonly waits: boolean }) {
  const { data: clip } = useQuery({
    queryKey: ['demo clip', name],
    queryFn: ({ signal }) => demoClip(name, signal),
    enabled: !props.disabled && !waits,
    gcTime: 0,
  });
  return <OnClip clip={clip} {...props} />;
}

function OnClip({
  clip,
  recipes,
  columns,
  disabled,
  onMoving,
  onStart,
}: OnProps & { readonly clip: LoadedClip | null | undefined }) {
  const on = useShownOn(clip);
  return (
    <RecipeCards
      recipes={recipes}
      on={disabled ? undefined : on}
      projectWidth={on?.piece.sizes?.frame.width ?? 1280}
      columns={columns}
      disabled={disabled || !clip}
      {...(onMoving && { onMoving })}
      onPick={(listed) => clip && onStart(() => startWithRecipe(listed, clip))}
    />
  );
}
