import { Box, Button, ButtonBase, CircularProgress, Dialog, DialogContent, Slider } from '@mui/material';
import { type Rational, toNumber } from '@skipback/core/time/rational';
import { importClient } from '@skipback/media/import/import-client';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef } from 'react';
import { cutShort } from '../parts/line';
import type { LoadedClip } from '../state/library';
import { colors, mono } from '../theme';

/** Variations offered beside what is there now. */
export const OTHERS = 8;
export const PICTURE_WIDTH = 288;
/** Most small pictures held; a longer stretch shows every second, third ... frame. */
const MOST_PICTURES = 480;

/** How far and where variations are looked for. */
export interface Search {
  readonly seed: number;
  readonly wildness: number;
}

/** One way it could be; the first of a sheet is how it is now. */
export interface Variation {
  readonly words: string;
  /** Source frames in the order in which they are shown. */
  readonly shown: ArrayLike<number>;
  /** Further source frames that are drawn with. */
  readonly besides?: readonly number[];
  pick(): void;
}

interface Props {
  readonly name: string;
  readonly variations: readonly Variation[];
  readonly clip: LoadedClip | undefined;
  readonly rate: Rational;
  readonly search: Search;
  onSearch(search: Search): void;
  onClose(): void;
  /** Draws frame `at` of a variation on its canvas; `pictureOf` gives the small picture of a source frame. Plainly without it. */
  readonly paint?: (
    variation: number,
    at: number,
    pictureOf: (frame: number) => ImageBitmap | undefined,
    context: CanvasRenderingContext2D,
  ) => void;
}

/** Variations that all play in step; one is picked by pressing it. */
export function VariationsSheet({ name, variations, clip, rate, search, onSearch, onClose, paint }: Props) {
  const range = useMemo(() => {
    let [first, end] = [Infinity, 0];
    const take = (frame: number) => ([first, end] = [Math.min(first, frame), Math.max(end, frame + 1)]);
    for (const { shown, besides = [] } of variations) {
      for (let i = 0; i < shown.length; i++) take(shown[i]!);
      besides.forEach(take);
    }
    return { first, end, step: Math.max(1, Math.ceil((end - first) / MOST_PICTURES)), width: PICTURE_WIDTH };
  }, [variations]);
  const { data: pictures, isError } = useQuery({
    queryKey: ['small', clip?.record.id, range],
    enabled: clip !== undefined && range.end > range.first,
    gcTime: 0,
    queryFn: () => importClient.small(clip!.source, range),
  });
  useEffect(() => () => pictures?.forEach((p) => p.close()), [pictures]);

  const canvases = useRef<(HTMLCanvasElement | null)[]>([]);
  const clock = useRef(0);
  useEffect(() => {
    if (!pictures) return;
    const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches;
    let request = 0;
    clock.current = performance.now();
    const draw = () => {
      const at = still ? 0 : Math.floor(((performance.now() - clock.current) / 1000) * toNumber(rate));
      const pictureOf = (frame: number) => pictures[Math.floor((frame - range.first) / range.step)];
      variations.forEach(({ shown }, i) => {
        const context = canvases.current[i]?.getContext('2d');
        const frame = shown[at % shown.length];
        if (!context || frame === undefined) return;
        if (paint) return paint(i, at % shown.length, pictureOf, context);
        const picture = pictureOf(frame);
        if (picture) context.drawImage(picture, 0, 0, context.canvas.width, context.canvas.height);
      });
      if (!still) request = requestAnimationFrame(draw);
    };
    draw();
    return () => cancelAnimationFrame(request);
  }, [pictures, variations, range, rate, paint]);

  const shape = pictures?.[0] ? pictures[0].height / pictures[0].width : 9 / 16;
  const height = Math.round(PICTURE_WIDTH * shape);
  return (
    <Dialog open onClose={onClose} maxWidth={false} aria-labelledby="variations-title">
      <DialogContent sx={{ p: 2 }}>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mb: 1.5 }}>
          <Box id="variations-title" component="h2" sx={{ m: 0, fontSize: 16, fontWeight: 600 }}>
            Variations of {name}
          </Box>
          <Box sx={{ flex: 1 }} />
          <Box sx={{ color: colors.quiet }}>closer</Box>
          <Slider
            size="small"
            value={search.wildness}
            min={0.05}
            max={1}
            step={0.05}
            aria-label="How wild"
            onChange={(_, value) => onSearch({ ...search, wildness: value as number })}
            sx={{ width: 130, color: colors.ink }}
          />
          <Box sx={{ color: colors.quiet }}>wilder</Box>
          <Button
            variant="outlined"
            color="inherit"
            size="small"
            onClick={() => onSearch({ ...search, seed: search.seed + 1 })}
          >
            Show others
          </Button>
          <Button color="inherit" size="small" onClick={onClose}>
            Close
          </Button>
        </Box>
        <Box
          role="group"
          aria-label="Variations"
          sx={{
            display: 'grid',
            gridTemplateColumns: `repeat(3, ${PICTURE_WIDTH}px)`,
            gap: 1.5,
            position: 'relative',
          }}
        >
          {variations.map(({ words, shown, pick }, i) => (
            <ButtonBase
              key={i}
              title={words}
              onClick={() => {
                if (i > 0) pick();
                onClose();
              }}
              sx={{
                display: 'block',
                textAlign: 'left',
                borderRadius: 2,
                overflow: 'hidden',
                bgcolor: colors.raised,
                boxShadow: i === 0 ? `0 0 0 2px ${colors.forward}` : 'none',
                '&:hover': { boxShadow: `0 0 0 2px ${colors.ink}` },
              }}
            >
              <canvas
                ref={(element) => {
                  canvases.current[i] = element;
                }}
                width={PICTURE_WIDTH}
                height={height}
                style={{ display: 'block', width: PICTURE_WIDTH, height, background: '#000' }}
              />
              <Box sx={{ px: 1, py: 0.5, display: 'flex', gap: 1, fontSize: 12 }}>
                <Box sx={cutShort}>{i === 0 ? 'as it is' : words}</Box>
                <Box sx={{ fontFamily: mono, color: colors.quiet }}>{shown.length} f</Box>
              </Box>
            </ButtonBase>
          ))}
          {!pictures && (
            <Box sx={{ position: 'absolute', inset: 0, display: 'grid', placeItems: 'center' }}>
              {isError ? (
                <Box role="alert">The clip cannot be read just now.</Box>
              ) : (
                <CircularProgress size={26} aria-label="Reading the clip" />
              )}
            </Box>
          )}
        </Box>
      </DialogContent>
    </Dialog>
  );
}
