import { Box, Button, ButtonBase, CircularProgress, Dialog, DialogContent, Slider } from '@mui/material';
import { type AnyMove, inFrames } from '@skipback/core/moves/move';
import { applyChain, moveById } from '@skipback/core/moves/registry';
import { variationsOf } from '@skipback/core/moves/variations';
import { sampleFrames } from '@skipback/core/path/path';
import { setStepValues } from '@skipback/core/project/actions';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { percentText } from '@skipback/core/time/entry';
import { type Rational, toNumber } from '@skipback/core/time/rational';
import { importClient } from '@skipback/media/import/import-client';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { LoadedClip } from '../state/library';
import { act } from '../state/project-store';
import { cutShort } from '../parts/line';
import { colors, mono } from '../theme';

const OTHERS = 8;
const WIDTH = 288;
/** Most small pictures held; a longer stretch shows every second, third ... frame. */
const MOST_PICTURES = 480;

interface Props {
  readonly piece: CompiledPiece;
  readonly stepId: string | null;
  readonly clip: LoadedClip | undefined;
  readonly rate: Rational;
  onClose(): void;
}

type Values = Record<string, unknown>;

/** The same move with other values, all playing in step; pick one. */
export function VariationsSheet({ piece, stepId, clip, rate, onClose }: Props) {
  const [seed, setSeed] = useState(1);
  const [wildness, setWildness] = useState(0.5);
  const place = piece.piece.chain.findIndex((s) => s.id === stepId);
  const step = piece.piece.chain[place];
  const move = step && moveById(step.move);

  const choices = useMemo(() => {
    if (!step || !move) return [];
    const { chain } = piece.piece;
    const context = { table: piece.table, music: piece.music };
    const incoming = applyChain(piece.base, chain.slice(0, place), context).path;
    const others = variationsOf(move, step.values, incoming, context, { seed, wildness, count: OTHERS });
    return [step.values, ...others].map((values) => {
      const varied = chain.with(place, { ...step, values, on: true });
      const { path } = applyChain(piece.base, varied, context);
      return { values, shown: sampleFrames(path, piece.table) };
    });
  }, [piece, place, step, move, seed, wildness]);

  const range = useMemo(() => {
    let [first, end] = [Infinity, 0];
    for (const { shown } of choices)
      for (const f of shown) [first, end] = [Math.min(first, f), Math.max(end, f + 1)];
    return { first, end, step: Math.max(1, Math.ceil((end - first) / MOST_PICTURES)), width: WIDTH };
  }, [choices]);
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
      choices.forEach(({ shown }, i) => {
        const canvas = canvases.current[i];
        const frame = shown[at % shown.length];
        const picture =
          frame === undefined ? undefined : pictures[Math.floor((frame - range.first) / range.step)];
        if (canvas && picture) canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height);
      });
      if (!still) request = requestAnimationFrame(draw);
    };
    draw();
    return () => cancelAnimationFrame(request);
  }, [pictures, choices, range, rate]);

  if (!step || !move) return null;
  const pick = (values: Values) => {
    act(`take a variation of ${move.name}`, (p) => setStepValues(p, piece.piece.id, step.id, values));
    onClose();
  };
  const shape = pictures?.[0] ? pictures[0].height / pictures[0].width : 9 / 16;
  return (
    <Dialog open onClose={onClose} maxWidth={false} aria-labelledby="variations-title">
      <DialogContent sx={{ p: 2 }}>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mb: 1.5 }}>
          <Box id="variations-title" component="h2" sx={{ m: 0, fontSize: 16, fontWeight: 600 }}>
            Variations of {move.name}
          </Box>
          <Box sx={{ flex: 1 }} />
          <Box sx={{ color: colors.quiet }}>closer</Box>
          <Slider
            size="small"
            value={wildness}
            min={0.05}
            max={1}
            step={0.05}
            aria-label="How wild"
            onChange={(_, value) => setWildness(value as number)}
            sx={{ width: 130, color: colors.ink }}
          />
          <Box sx={{ color: colors.quiet }}>wilder</Box>
          <Button variant="outlined" color="inherit" size="small" onClick={() => setSeed(seed + 1)}>
            Other ones
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
            gridTemplateColumns: `repeat(3, ${WIDTH}px)`,
            gap: 1.5,
            position: 'relative',
          }}
        >
          {choices.map(({ values, shown }, i) => (
            <ButtonBase
              key={i}
              onClick={() => (i === 0 ? onClose() : pick(values))}
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
                width={WIDTH}
                height={Math.round(WIDTH * shape)}
                style={{
                  display: 'block',
                  width: WIDTH,
                  height: Math.round(WIDTH * shape),
                  background: '#000',
                }}
              />
              <Box sx={{ px: 1, py: 0.5, display: 'flex', gap: 1, fontSize: 12 }}>
                <Box sx={cutShort}>{i === 0 ? 'as it is' : differences(move, step.values, values)}</Box>
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

/** What a variation changes, in words. */
function differences(move: AnyMove, now: Values, then: Values): string {
  return move.fields
    .filter((f) => (f.when?.(then) ?? true) && JSON.stringify(now[f.key]) !== JSON.stringify(then[f.key]))
    .map((f) => {
      const value = then[f.key];
      const text =
        f.kind === 'text'
          ? f.summary(value) === f.summary(now[f.key])
            ? f.write(value)
            : f.summary(value)
          : f.kind === 'percent'
            ? percentText(Number(value))
            : f.kind === 'choice'
              ? (f.options.find((o) => o.value === value)?.label ?? String(value))
              : `${String(value)}${inFrames(f) ? ' f' : ''}`;
      return f.kind === 'text' ? text : `${f.label.toLowerCase()} ${text}`;
    })
    .join(', ');
}
