import { Box, ButtonBase } from '@mui/material';
import { MOVE_GROUPS } from '@skipback/core/moves/move';
import { visuallyHidden } from '@mui/utils';
import { importClient } from '@skipback/media/import/import-client';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { MoreMenu } from '../parts/more-menu';
import { MoveShape } from '../parts/move-shape';
import { useLatest } from '../parts/use-latest';
import { colors } from '../theme';
import { LoopPlayer } from './loop-player';
import type { ListedRecipe } from './own-recipes';
import { type Preview, type ShownOn, previewOf } from './previews';

/** Recipes by what they are for, own ones first. */
const GROUPS = [['own', 'Yours'], ...Object.entries(MOVE_GROUPS)] as const;

/** Width of a small loop, pixels. */
const WIDTH = 128;
/** Most small pictures held; a longer stretch shows every second, third ... frame. */
const MOST_PICTURES = 320;
/** How long nothing may change before loops are made anew, milliseconds. */
const RESTS_MS = 250;

interface Props {
  readonly recipes: readonly ListedRecipe[];
  /** What they are shown on; plain cards without it. */
  readonly on: ShownOn | undefined;
  readonly projectWidth: number;
  /** How many stand in a row. */
  readonly columns: number;
  /** The most they take of the height, as CSS has it; they scroll where there are more. */
  readonly mostHeight?: string;
  readonly disabled?: boolean;
  /** All loops move. */
  onMoving?(): void;
  onPick(listed: ListedRecipe): void;
  /** The pointer rests on one, or on none any more. */
  onRest?(listed: ListedRecipe | undefined): void;
  /** What else can be done with an own recipe. */
  more?(listed: ListedRecipe): readonly (readonly [words: string, action: () => void])[];
}

/** The recipes as cards, each a loop of what it would make of the piece; pressing one puts it on. */
export function RecipeCards({
  recipes,
  on,
  projectWidth,
  columns,
  mostHeight,
  disabled = false,
  onMoving,
  onPick,
  onRest,
  more,
}: Props) {
  const group = useRef<HTMLDivElement>(null);
  const { state, pictures, previews } = useLoops(group, recipes, on, projectWidth);
  useEffect(() => {
    if (state !== 'waits') onMoving?.();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once it moves
  }, [state]);
  const shape = pictures?.[0] ? pictures[0].height / pictures[0].width : 9 / 16;
  const groups = GROUPS.map(([id, words]) => ({ id, words, listed: recipes.filter((r) => r.group === id) }));
  return (
    <Box
      ref={group}
      role="group"
      aria-label="Recipes"
      data-loops={state}
      sx={{
        display: 'flex',
        flexDirection: 'column',
        gap: 0.75,
        overflowY: 'auto',
        scrollbarWidth: 'thin',
        ...(mostHeight !== undefined && { maxHeight: mostHeight }),
      }}
    >
      {groups.map(
        ({ id, words, listed }) =>
          listed.length > 0 && (
            <Box key={id} role="group" aria-label={words}>
              <Box sx={{ fontSize: 12, color: colors.quiet, mb: 0.25 }}>{words}</Box>
              <Box
                sx={{ display: 'grid', gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`, gap: 0.5 }}
              >
                {listed.map((one) => (
                  <RecipeCard
                    key={one.id}
                    listed={one}
                    height={Math.max(8, Math.round(WIDTH * shape))}
                    thread={previews?.[recipes.indexOf(one)]?.shape}
                    {...{ disabled, onPick, ...(onRest && { onRest }), ...(more && { more }) }}
                  />
                ))}
              </Box>
            </Box>
          ),
      )}
    </Box>
  );
}

/** One recipe: its loop, its name, what it does, the thread it makes. */
function RecipeCard({
  listed,
  height,
  thread,
  disabled,
  onPick,
  onRest,
  more,
}: Pick<Props, 'disabled' | 'onPick' | 'onRest' | 'more'> & {
  readonly listed: ListedRecipe;
  /** Of its loop, pixels. */
  readonly height: number;
  readonly thread: readonly number[] | undefined;
}) {
  const { name, says } = listed.recipe;
  return (
    <Box
      sx={{
        position: 'relative',
        minWidth: 0,
        '& .more': { opacity: 0 },
        '&:hover .more, & .more:focus-within': { opacity: 1 },
      }}
    >
      <ButtonBase
        disabled={disabled}
        title={says || name}
        onClick={() => onPick(listed)}
        onPointerEnter={() => onRest?.(listed)}
        onPointerLeave={() => onRest?.(undefined)}
        onFocus={(event) => event.currentTarget.matches(':focus-visible') && onRest?.(listed)}
        onBlur={() => onRest?.(undefined)}
        sx={{
          ...{ display: 'flex', alignItems: 'stretch', width: '100%', height: '100%', minHeight: 54 },
          ...{ borderRadius: 1.5, overflow: 'hidden', bgcolor: colors.panel, textAlign: 'left' },
          '&:hover, &:focus-visible': { outline: `2px solid ${colors.ink}`, outlineOffset: -2 },
          '&.Mui-disabled': { opacity: 0.45 },
        }}
      >
        <canvas
          width={WIDTH}
          height={height}
          aria-hidden="true"
          style={{
            ...{ width: 96, flex: 'none', objectFit: 'cover', background: colors.raised, display: 'block' },
          }}
        />
        <Box sx={{ flex: 1, minWidth: 0, px: 1, py: 0.5, position: 'relative' }}>
          <Box sx={{ fontSize: 12.5, fontWeight: 600, lineHeight: 1.25 }}>
            <Box component="span" sx={visuallyHidden}>
              Put on{' '}
            </Box>
            {name}
          </Box>
          <Box
            sx={{
              ...{ fontSize: 11.5, lineHeight: 1.25, color: colors.quiet, overflow: 'hidden' },
              ...{ display: '-webkit-box', WebkitLineClamp: 2, WebkitBoxOrient: 'vertical' },
            }}
          >
            {says}
          </Box>
        </Box>
        <Box sx={{ flex: 'none', width: 40, alignSelf: 'center', mr: 0.5 }}>
          {thread && <MoveShape shape={thread} width={40} height={22} />}
        </Box>
      </ButtonBase>
      {listed.own && more && (
        <Box
          className="more"
          sx={{
            ...{ position: 'absolute', top: 0, right: 0, borderRadius: 1.5 },
            bgcolor: 'rgba(10,10,10,0.7)',
          }}
        >
          <MoreMenu name={name} items={more(listed)} />
        </Box>
      )}
    </Box>
  );
}

/** `waits`, then `moving` once every loop moves, then `dressed` once all they show is drawn. */
type LoopsState = 'waits' | 'moving' | 'dressed';

/** Makes and plays the loops in a group's canvases, while it is seen. */
function useLoops(
  group: React.RefObject<HTMLDivElement | null>,
  recipes: readonly ListedRecipe[],
  on: ShownOn | undefined,
  projectWidth: number,
) {
  const [state, setState] = useState<LoopsState>('waits');
  const [previews, setPreviews] = useState<readonly Preview[]>();
  // Only the span and what lies under it decide how a recipe looks there: not what was done to the piece.
  const ground =
    on &&
    JSON.stringify([on.clip.record.id, on.piece.piece.span, on.piece.path.rate, on.piece.music?.beats[0]]);
  const latest = useLatest(on);
  useEffect(() => {
    setState('waits');
    setPreviews(undefined);
    if (ground === undefined) return;
    let left = false;
    const made: Preview[] = [];
    // One at a time, so that the page answers in between.
    const next = () => {
      const shownOn = latest.current;
      if (left || !shownOn) return;
      const listed = recipes[made.length];
      if (!listed) return setPreviews(made);
      made.push(previewOf(listed.recipe, shownOn));
      timer = setTimeout(next);
    };
    let timer = setTimeout(next, RESTS_MS);
    return () => {
      left = true;
      clearTimeout(timer);
    };
  }, [ground, recipes, latest]);

  const range = previews && rangeOf(previews);
  const { data: pictures } = useQuery({
    queryKey: ['small', on?.clip.record.id, range],
    enabled: on !== undefined && range !== undefined && range.end > range.first,
    gcTime: 0,
    queryFn: () => importClient.small(latest.current!.clip.source, range!),
  });
  useEffect(() => () => pictures?.forEach((p) => p.close()), [pictures]);

  useEffect(() => {
    const canvases = group.current?.querySelectorAll('canvas');
    if (!pictures || !previews || !range || !canvases || canvases.length !== previews.length) return;
    const pictureOf = (frame: number) => pictures[Math.floor((frame - range.first) / range.step)];
    const player = new LoopPlayer(pictureOf, WIDTH / projectWidth);
    player.play(
      previews.map((preview, i) => ({ preview, canvas: canvases[i]! })),
      () => setState('dressed'),
    );
    setState('moving');
    return () => player.close();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the range follows from the previews
  }, [pictures, previews, projectWidth, group]);
  return { state, pictures, previews };
}

function rangeOf(previews: readonly Preview[]) {
  let [first, end] = [Infinity, 0];
  for (const { sources } of previews)
    for (const frame of sources) [first, end] = [Math.min(first, frame), Math.max(end, frame + 1)];
  return { first, end, step: Math.max(1, Math.ceil((end - first) / MOST_PICTURES)), width: WIDTH };
}
