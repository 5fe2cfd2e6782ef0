import { ButtonBase } from '@mui/material';
import { type Driver, isDriver, valueAt } from '@skipback/core/looks/driver';
import type { Facts } from '@skipback/core/looks/facts';
import { treatmentById } from '@skipback/core/looks/registry';
import { shownValues } from '@skipback/core/looks/moments';
import type { LookResult } from '@skipback/core/looks/resolve';
import { scopeWords } from '@skipback/core/looks/words';
import type { LookPlace } from '@skipback/core/project/look-actions';
import { useMemo } from 'react';
import { useLooks } from '../../looks/use-looks';
import { select, useSelection } from '../../state/selection';
import { colors } from '../../theme';
import type { Scale } from '../scales';
import { type WeaveLayout, laneBox, laneInSight } from '../scene';
import type { WeaveModel } from '../weave-model';

/** The most lanes there are. */
const MOST = 60;
const LOOK_NAME = 12;
/** Pixels above and below a driver's curve in its lane. */
const INSET = 5;

/** A look as its lane shows it: how strongly it applies from result frame `start` on. */
export interface LookLane {
  readonly id: string;
  readonly name: string;
  readonly words: string;
  readonly where: LookPlace;
  readonly start: number;
  readonly result: LookResult;
  readonly facts: Facts;
  /** The driver that is drawn in it: that of the value looked at last, else of the first that has one. */
  readonly driven: DrivenValue | undefined;
}

export interface DrivenValue {
  readonly key: string;
  readonly label: string;
  readonly driver: Driver;
  readonly min: number;
  readonly max: number;
}

/** The values of a look that are driven, its strength first. */
function drivenOf({ look }: LookResult): DrivenValue[] {
  const treatment = treatmentById(look.look);
  if (!treatment) return [];
  const values: Record<string, unknown> = { ...shownValues(treatment, look.values), strength: look.strength };
  const strength = { key: 'strength', label: 'Strength', kind: 'number' as const, min: 0, max: 100 };
  return [strength, ...treatment.fields].flatMap((f) => {
    const driver = values[f.key];
    return f.kind === 'number' && isDriver(driver) ? [{ ...f, driver }] : [];
  });
}

/** The lanes of the looks of the selected piece, and of the whole result: in the order in which they are drawn. */
export function useLookLanes({ compiled, piece, pieceStart }: WeaveModel): readonly LookLane[] {
  const { ofPiece, ofResult } = useLooks(compiled, piece);
  const lookId = useSelection((s) => s.lookId);
  const drivenKey = useSelection((s) => s.drivenKey);
  const pieceId = piece?.piece.id ?? null;
  return useMemo(
    () =>
      [
        ...ofPiece.results.map((result) => ({
          ...{ result, where: pieceId, facts: ofPiece.facts, start: pieceStart - ofPiece.from },
        })),
        ...ofResult.results.map((result) => ({ result, where: null, facts: ofResult.facts, start: 0 })),
      ]
        .slice(0, MOST)
        .map((lane) => {
          const { look } = lane.result;
          const driven = look.id === lookId ? drivenOf(lane.result) : [];
          return {
            ...lane,
            id: look.id,
            name: treatmentById(look.look)?.name ?? look.look,
            words: scopeWords(look.scope),
            driven: driven.find((d) => d.key === drivenKey) ?? driven[0],
          };
        }),
    [ofPiece, ofResult, pieceStart, pieceId, lookId, drivenKey],
  );
}

/** The lane of the selected look; -1 where none is. */
export const useSelectedLane = (lanes: readonly LookLane[]): number =>
  useSelection((s) => lanes.findIndex((l) => l.id === s.lookId));

/** The lane in which a driver is drawn, which is higher than the others; -1 where none is. */
export const drivenLane = (lanes: readonly LookLane[]): number => lanes.findIndex((l) => l.driven);

/** The scale of a driver's values in a lane: from the lowest it comes to, at the bottom, to the highest. */
export function driverScale(
  { driven, result, facts }: LookLane,
  { top, height }: { readonly top: number; readonly height: number },
): { toY(value: number): number; perPixel: number } {
  let [low, high] = [Infinity, -Infinity];
  const take = (value: number) => {
    low = Math.min(low, value);
    high = Math.max(high, value);
  };
  if (driven) {
    if (driven.driver.kind === 'keys') for (const key of driven.driver.keys) take(key.value);
    for (const stretch of result.stretches) {
      const step = Math.max(1, Math.floor((stretch.end - stretch.first) / 200));
      for (let f = stretch.first; f < stretch.end; f += step) take(valueAt(driven.driver, f, stretch, facts));
    }
  }
  // A level line lies in the middle.
  if (!(high > low))
    [low, high] = [(Number.isFinite(low) ? low : 0) - 1, (Number.isFinite(high) ? high : 0) + 1];
  const room = Math.max(1, height - 2 * INSET);
  return {
    toY: (value) => top + INSET + ((high - value) / (high - low)) * room,
    perPixel: (high - low) / room,
  };
}

/** Draws where each look applies, as high as it is strong; and over it the driver that is looked at. */
export function drawLookLanes(
  c: CanvasRenderingContext2D,
  lanes: readonly LookLane[],
  resultX: Scale,
  layout: WeaveLayout,
): void {
  const { width, looksTop, songTop } = layout;
  c.save();
  c.beginPath();
  c.rect(0, looksTop, width, songTop - looksTop);
  c.clip();
  for (const [i, lane] of lanes.entries()) {
    const { strengths } = lane.result;
    const { start } = lane;
    const box = laneBox(layout, i);
    const bottom = box.top + box.height - 2;
    const high = box.height - 3;
    c.fillStyle = colors.panel;
    c.fillRect(0, bottom - high, width, high);
    c.fillStyle = colors.good;
    c.globalAlpha = i === layout.driverLane ? 0.28 : 0.75;
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
    if (i === layout.driverLane) drawDriver(c, lane, resultX, box, width);
  }
  if (layout.mostScroll > 0) {
    const shown = songTop - looksTop;
    const thumb = Math.max(8, (shown * shown) / (shown + layout.mostScroll));
    c.fillStyle = colors.faint;
    c.fillRect(width - 5, looksTop + (layout.lanesScroll / layout.mostScroll) * (shown - thumb), 3, thumb);
  }
  c.restore();
}

function drawDriver(
  c: CanvasRenderingContext2D,
  lane: LookLane,
  resultX: Scale,
  box: { top: number; height: number },
  width: number,
): void {
  const { driven, result, facts, start } = lane;
  if (!driven) return;
  const { toY } = driverScale(lane, box);
  c.strokeStyle = colors.ink;
  c.lineWidth = 1.4;
  c.lineJoin = 'round';
  c.beginPath();
  for (const stretch of result.stretches) {
    const from = Math.max(stretch.first, Math.floor(resultX.invert(0)) - start);
    const to = Math.min(stretch.end, Math.ceil(resultX.invert(width)) - start);
    const step = Math.max(1, Math.floor((to - from) / width));
    for (let f = from; f < to; f += step) {
      const y = toY(valueAt(driven.driver, f, stretch, facts));
      const x = resultX(start + f + 0.5);
      if (f === from) c.moveTo(x, y);
      else c.lineTo(x, y);
    }
  }
  c.stroke();
}

/** The names of the looks, each at its lane: pressing one opens its values. */
export function LookNames({
  lanes,
  layout,
}: {
  readonly lanes: readonly LookLane[];
  readonly layout: WeaveLayout;
}) {
  const lookId = useSelection((s) => s.lookId);
  return lanes.map(({ id, name, words, driven }, i) => {
    const { top, height } = laneBox(layout, i);
    if (!laneInSight(layout, i)) return null;
    return (
      <ButtonBase
        key={id}
        aria-label={`${driven ? `${name}: ${driven.label}` : name}, ${words}: open its values`}
        title={`${name}: ${words}`}
        onPointerDown={(event) => event.stopPropagation()}
        onClick={() => select({ lookId: id, selectedLast: 'look' })}
        style={{ top, height: Math.min(LOOK_NAME, height - 1) }}
        sx={{
          position: 'absolute',
          left: 2,
          px: 0.5,
          borderRadius: 0.75,
          fontSize: 11,
          lineHeight: 1,
          bgcolor: 'rgba(18,18,18,0.86)',
          color: id === lookId ? colors.ink : colors.quiet,
          fontWeight: id === lookId ? 600 : 400,
        }}
      >
        {driven ? `${name}: ${driven.label}` : name}
      </ButtonBase>
    );
  });
}
