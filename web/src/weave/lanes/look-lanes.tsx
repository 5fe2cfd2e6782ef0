import { ButtonBase } from '@mui/material';
import { treatmentById } from '@skipback/core/looks/registry';
import { scopeWords } from '@skipback/core/looks/words';
import { useMemo } from 'react';
import { useLooks } from '../../looks/use-looks';
import { setPlayback, usePlayback } from '../../state/playback';
import { colors } from '../../theme';
import type { Scale } from '../scales';
import type { WeaveLayout } from '../scene';
import type { WeaveModel } from '../weave-model';

/** The lanes there is room for, and the height from which a lane has its name beside it. */
const MOST = 6;
const NAMED_FROM = 11;

/** A look as its lane shows it: how strongly it applies from result frame `start` on. */
export interface LookLane {
  readonly id: string;
  readonly name: string;
  readonly words: string;
  readonly start: number;
  readonly strengths: Float32Array;
}

/** The lanes of the looks of the selected piece, and of the whole result: in the order in which they are drawn. */
export function useLookLanes({ compiled, piece, pieceStart }: WeaveModel): readonly LookLane[] {
  const { ofPiece, ofResult } = useLooks(compiled, piece);
  return useMemo(
    () =>
      [
        ...ofPiece.results.map((r) => ({ ...r, start: pieceStart })),
        ...ofResult.results.map((r) => ({ ...r, start: 0 })),
      ]
        .slice(0, MOST)
        .map(({ look, strengths, start }) => ({
          id: look.id,
          name: treatmentById(look.look)?.name ?? look.look,
          words: scopeWords(look.scope),
          start,
          strengths,
        })),
    [ofPiece, ofResult, pieceStart],
  );
}

/** Draws where each look applies, as high as it is strong. */
export function drawLookLanes(
  c: CanvasRenderingContext2D,
  lanes: readonly LookLane[],
  resultX: Scale,
  { width, looksTop: top, lookLane }: Pick<WeaveLayout, 'width' | 'looksTop' | 'lookLane'>,
): void {
  for (const [i, { strengths, start }] of lanes.entries()) {
    const bottom = top + (i + 1) * lookLane - (lookLane > 6 ? 2 : 1);
    const high = lookLane > 6 ? lookLane - 3 : lookLane - 1;
    c.fillStyle = colors.panel;
    c.fillRect(0, bottom - high, width, high);
    c.fillStyle = colors.good;
    c.globalAlpha = 0.75;
    const from = Math.max(0, Math.floor(resultX(start)));
    const to = Math.min(width, Math.ceil(resultX(start + strengths.length)));
    for (let x = from; x < to; x++) {
      const first = Math.max(0, Math.floor(resultX.invert(x) - start));
      const end = Math.max(first + 1, Math.floor(resultX.invert(x + 1) - start));
      let most = 0;
      for (let n = first; n < Math.min(end, strengths.length); n++) most = Math.max(most, strengths[n]!);
      if (most > 0) c.fillRect(x, bottom - most * high, 1, most * high);
    }
    c.globalAlpha = 1;
  }
}

/** The names of the looks, each at its lane: pressing one opens its values. */
export function LookNames({
  lanes,
  layout: { looksTop: top, lookLane },
}: {
  readonly lanes: readonly LookLane[];
  readonly layout: WeaveLayout;
}) {
  const lookId = usePlayback((s) => s.lookId);
  if (lookLane < NAMED_FROM) return null;
  return lanes.map(({ id, name, words }, i) => (
    <ButtonBase
      key={id}
      aria-label={`${name}, ${words}: open its values`}
      title={`${name}: ${words}`}
      onPointerDown={(event) => event.stopPropagation()}
      onClick={() => setPlayback({ lookId: id })}
      sx={{
        position: 'absolute',
        left: 2,
        top: top + i * lookLane,
        height: lookLane - 1,
        px: 0.5,
        borderRadius: 0.75,
        fontSize: 11,
        lineHeight: 1,
        bgcolor: 'rgba(18,18,18,0.86)',
        color: id === lookId ? colors.ink : colors.quiet,
        fontWeight: id === lookId ? 600 : 400,
      }}
    >
      {name}
    </ButtonBase>
  ));
}
