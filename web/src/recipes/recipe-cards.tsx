import { Box, ButtonBase } from '@mui/material';
import { importClient } from '@skipback/media/import/import-client';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { cutShort } from '../parts/line';
import { MoreMenu } from '../parts/more-menu';
import { useLatest } from '../parts/use-latest';
import { colors } from '../theme';
import { LoopPlayer } from './loop-player';
import type { ListedRecipe } from './own-recipes';
import { type Preview, type ShownOn, previewOf } from './previews';

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
  /** The most they take of the height, pixels; they scroll where there are more. */
  readonly mostHeight?: number;
  readonly disabled?: boolean;
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
  onPick,
  onRest,
  more,
}: Props) {
  const group = useRef<HTMLDivElement>(null);
  const { state, pictures } = useLoops(group, recipes, on, projectWidth);
  const shape = pictures?.[0] ? pictures[0].height / pictures[0].width : 9 / 16;
  return (
    <Box
      ref={group}
      role="group"
      aria-label="Recipes"
      data-loops={state}
      sx={{
        display: 'grid',
        gridTemplateColumns: `repeat(${columns}, 1fr)`,
        gridAutoRows: 'max-content',
        gap: 0.625,
        overflowY: 'auto',
        scrollbarWidth: 'thin',
        ...(mostHeight !== undefined && { maxHeight: mostHeight }),
      }}
    >
      {recipes.map((listed) => (
        <Box
          key={listed.id}
          sx={{
            position: 'relative',
            minWidth: 0,
            '& .more': { opacity: 0 },
            '&:hover .more, & .more:focus-within': { opacity: 1 },
          }}
        >
          <ButtonBase
            disabled={disabled}
            aria-label={`Put on ${listed.recipe.name}. ${listed.recipe.says}`}
            title={listed.recipe.says || listed.recipe.name}
            onClick={() => onPick(listed)}
            onPointerEnter={() => onRest?.(listed)}
            onPointerLeave={() => onRest?.(undefined)}
            onFocus={(event) => event.currentTarget.matches(':focus-visible') && onRest?.(listed)}
            onBlur={() => onRest?.(undefined)}
            sx={{
              display: 'block',
              width: '100%',
              position: 'relative',
              borderRadius: 1.5,
              overflow: 'hidden',
              bgcolor: colors.panel,
              textAlign: 'left',
              '&:hover, &:focus-visible': { outline: `2px solid ${colors.ink}`, outlineOffset: -2 },
              '&.Mui-disabled': { opacity: 0.45 },
            }}
          >
            <canvas
              width={WIDTH}
              height={Math.max(8, Math.round(WIDTH * shape))}
              aria-hidden="true"
              style={{
                width: '100%',
                aspectRatio: '16 / 9',
                objectFit: 'cover',
                background: colors.raised,
                display: 'block',
              }}
            />
            <Box
              sx={{
                position: 'absolute',
                inset: 'auto 0 0 0',
                px: 0.625,
                pt: 1.25,
                pb: 0.125,
                fontSize: 11.5,
                fontWeight: 500,
                letterSpacing: '-0.01em',
                background: 'linear-gradient(transparent, rgba(10,10,10,0.82) 55%)',
              }}
            >
              <Box sx={cutShort}>{listed.recipe.name}</Box>
            </Box>
          </ButtonBase>
          {listed.own && more && (
            <Box
              className="more"
              sx={{
                position: 'absolute',
                top: 0,
                right: 0,
                bgcolor: 'rgba(10,10,10,0.7)',
                borderRadius: 1.5,
              }}
            >
              <MoreMenu name={listed.recipe.name} items={more(listed)} />
            </Box>
          )}
        </Box>
      ))}
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
  return { state, pictures };
}

function rangeOf(previews: readonly Preview[]) {
  let [first, end] = [Infinity, 0];
  for (const { sources } of previews)
    for (const frame of sources) [first, end] = [Math.min(first, frame), Math.max(end, frame + 1)];
  return { first, end, step: Math.max(1, Math.ceil((end - first) / MOST_PICTURES)), width: WIDTH };
}
