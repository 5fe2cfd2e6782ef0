import { frameWithin } from '@skipback/core/time/units';
import { everyFrameOncePercent } from '@skipback/core/checks/smoothness';
import { meanRateHz } from '@skipback/core/clip/frame-table';
import {
  cluster,
  movePoints,
  removePoints,
  scalePoints,
  softenPoints,
} from '@skipback/core/edit/curve-edits';
import { type SnapTarget, snap, speedTargets } from '@skipback/core/edit/snap';
import type { HeldPoint as CurvePoint } from '@skipback/core/moves/curve';
import type { SourcePlace } from '@skipback/core/places/place';
import { placeText } from '@skipback/core/places/words';
import { percentText } from '@skipback/core/time/entry';
import { type KeyboardEvent, useState } from 'react';
import { playheadTarget } from '../snap-targets';
import { transport } from '../../state/transport';
import { colors } from '../../theme';
import { usePlaceWords } from '../../state/place-words';
import { LiveLabel } from '../live-label';
import { beatTargets } from '../place-targets';
import type { Scale } from '../scales';
import type { DrawnCurve } from './use-curve';
import { useEditDrag } from '../use-edit-drag';
import type { WeaveModel } from '../weave-model';

interface Props {
  readonly model: WeaveModel;
  readonly curve: DrawnCurve;
  /** Result frames and source frames to pixels. */
  readonly resultX: Scale;
  readonly sourceY: Scale;
  readonly width: number;
  readonly top: number;
}

/** Pixels that points have on the mean when they are shown. */
const CLOSEST = 6;
/** Pixels within which a point is drawn to something. */
const REACH = 6;

/** Speed from one point to another, in percent of real time; backward is negative. */
export function speedBetween(a: CurvePoint, b: CurvePoint, model: WeaveModel): number {
  if (b.at === a.at || !model.piece) return 0;
  const clipHz = meanRateHz(model.piece.table);
  return ((100 * (b.source - a.source)) / clipHz / (b.at - a.at)) * model.rateHz;
}

/** The points of the curve as things to take hold of: press, drag, arrows; softness by their side handles. */
export function CurvePoints({ model, curve, resultX, sourceY, width, top }: Props) {
  const [live, setLive] = useState<{
    at: number;
    /** Source frame beside which the label stands; null for the top. */
    source: number | null;
    text: string;
    words?: string | undefined;
  }>();
  const { points, origin, chosen, limits } = curve;
  const { telling } = usePlaceWords(model.piece?.piece.id ?? null);
  const first0 = telling.first;
  const heldWords = ({ holds }: CurvePoint) =>
    [holds?.at, holds?.on].flatMap((p) => (p ? [`, on ${placeText(p, telling)}`] : [])).join('');
  const start = model.pieceStart;
  const x = (p: CurvePoint) => resultX(start + p.at);
  const y = (p: CurvePoint) => sourceY(origin + p.source);
  const perFrame = resultX(1) - resultX(0);
  const perSource = sourceY(1) - sourceY(0);

  /** What a point may be drawn to in height: marks, span, other points, and round speeds from the point before it. */
  const heights = (place: number, at: number): (SnapTarget & { readonly on?: SourcePlace })[] => {
    const { piece, clip } = model;
    if (!piece) return [];
    const before = points[place - 1];
    const clean = everyFrameOncePercent(piece.table, piece.path.rate);
    const perPercent = before ? ((at - before.at) * meanRateHz(piece.table)) / 100 / model.rateHz : 0;
    const speeds = before
      ? [{ value: 0, words: 'hold' }, ...speedTargets(clean)].flatMap(({ value, words }) =>
          [1, -1].map((way) => ({
            value: before.source + way * value * perPercent,
            words:
              value === 0
                ? words
                : `${percentText(way * value)}${words === 'round speed' ? '' : `, ${words}`}`,
          })),
        )
      : [];
    return [
      // On the middle of its frame: that is then shown.
      ...(clip?.clip.marks ?? []).map((m) => ({
        value: m.frame + 0.5 - origin,
        words: `mark ${m.name}`,
        on: { mark: m.id },
      })),
      { value: piece.piece.span.in - origin, words: 'span in' },
      { value: piece.piece.span.out - origin, words: 'span out' },
      ...points.flatMap((p, i) =>
        chosen.includes(i) || i === place ? [] : [{ value: p.source, words: 'as high as another point' }],
      ),
      ...speeds,
    ];
  };

  const drag = useEditDrag<number, { place: number; chosen: readonly number[]; from: readonly CurvePoint[] }>(
    {
      begin: (place, { shiftKey }) => {
        const mine = cluster(points, place);
        const next = shiftKey
          ? chosen.includes(place)
            ? chosen.filter((i) => !mine.includes(i))
            : [...new Set([...chosen, ...mine])].sort((a, b) => a - b)
          : chosen.includes(place)
            ? chosen
            : mine;
        curve.choose(next);
        return { place, chosen: next, from: points };
      },
      move: ({ place, chosen: which, from }, { dx, dy, free }) => {
        const grabbed = from[place]!;
        const beats = beatTargets(curve.ground?.music);
        const at = snap(
          grabbed.at + dx / perFrame,
          free ? [] : [playheadTarget(start), ...beats],
          REACH / perFrame,
        );
        const newAt = Math.round(at.value);
        const wanted = grabbed.source + dy / perSource;
        const tops = free ? [] : heights(place, newAt);
        const height = snap(wanted, tops, REACH / Math.abs(perSource));
        const source = free || height.words ? height.value : Math.round(height.value + origin) - origin;
        const moved = movePoints(from, which, newAt - grabbed.at, source - grabbed.source, limits);
        // Drawn to a beat or a mark it holds on to that.
        const beat = beats.find((b) => b.words === at.words && b.value === newAt);
        const mark = tops.find((h) => h.words === height.words && h.value === height.value);
        const holds = {
          ...moved.points[place]!.holds,
          ...(beat && { at: beat.place }),
          ...(mark?.on && { on: mark.on }),
        };
        const edit = { ...moved, points: moved.points.with(place, { ...moved.points[place]!, holds }) };
        curve.commit('bend the curve', edit);
        const p = edit.points[place]!;
        const before = edit.points[place - 1];
        const speed = before ? `, ${percentText(speedBetween(before, p, model))}` : '';
        setLive({
          at: p.at,
          source: p.source,
          text: `${p.at + first0} f, source ${Math.round((origin + p.source + first0) * 10) / 10}${speed}`,
          words: height.words ?? at.words,
        });
        transport.peek(null);
      },
      end: ({ place }, { clicked }) => {
        setLive(undefined);
        if (clicked)
          transport.seekResult(
            frameWithin(
              start + (points[place]?.at ?? 0) - (place === points.length - 1 ? 1 : 0),
              model.totalFrames,
            ),
          );
      },
    },
  );

  const soften = useEditDrag<
    'before' | 'after',
    { side: 'before' | 'after'; from: readonly CurvePoint[]; was: number }
  >({
    begin: (side) => ({ side, from: points, was: points[chosen[0] ?? 0]?.[side] ?? 0 }),
    move: ({ side, from, was }, { dx }) => {
      const frames = Math.max(0, Math.round(was + ((side === 'after' ? 1 : -1) * dx) / perFrame));
      curve.commit('soften the curve', softenPoints(from, chosen, { [side]: frames }));
      const p = from[chosen[0]!]!;
      setLive({ at: p.at, source: p.source, text: `soft ${side} ${frames} f` });
    },
    end: () => setLive(undefined),
  });

  const first = points[Math.min(...chosen)];
  const last = points[Math.max(...chosen)];
  const several = first && last && last.at > first.at && chosen.length > 1;
  const scale = useEditDrag<null, { from: readonly CurvePoint[]; length: number }>({
    begin: () => (several ? { from: points, length: last.at - first.at } : undefined),
    move: ({ from, length }, { dx }) => {
      const factor = Math.max(0, (length + dx / perFrame) / length);
      const edit = scalePoints(from, chosen, factor);
      curve.commit('stretch the curve in time', edit);
      const now = edit.points[Math.max(...chosen)]!.at - edit.points[Math.min(...chosen)]!.at;
      setLive({
        at: first!.at + now,
        source: null,
        text: `${now} f, ${percentText((100 * now) / length)} as long`,
      });
    },
    end: () => setLive(undefined),
  });

  const onKey = (place: number) => (event: KeyboardEvent) => {
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (by) {
      event.preventDefault();
      event.stopPropagation();
      const size = event.shiftKey ? 10 : 1;
      const which = chosen.includes(place) ? chosen : cluster(points, place);
      curve.commit('bend the curve', movePoints(points, which, by[0]! * size, by[1]! * size, limits));
    } else if (event.key === 'Delete' || event.key === 'Backspace') {
      event.preventDefault();
      event.stopPropagation();
      curve.commit('remove points', removePoints(points, chosen.length > 0 ? chosen : [place]));
    }
  };

  const seen = points.flatMap((p, i) => (x(p) >= -40 && x(p) <= width + 40 ? [i] : []));
  // Closer together than they are wide, points cannot be taken hold of; zooming in brings them back.
  const shown = seen.length > width / CLOSEST ? seen.filter((i) => chosen.includes(i)) : seen;
  return (
    <>
      <svg
        width="100%"
        height="100%"
        style={{ position: 'absolute', inset: 0, pointerEvents: 'none', overflow: 'hidden' }}
      >
        {several && (
          <g>
            <rect
              x={x(first)}
              y={top}
              width={x(last) - x(first)}
              height={5}
              rx={2}
              fill={colors.ink}
              opacity={0.5}
            />
            <rect
              {...scale(null)}
              x={x(last) - 5}
              y={top - 3}
              width={11}
              height={11}
              rx={3}
              fill={colors.ink}
              style={{ cursor: 'ew-resize', pointerEvents: 'all', touchAction: 'none' }}
            >
              <title>Drag to stretch the chosen points in time</title>
            </rect>
          </g>
        )}
        {chosen.map((i) => {
          const p = points[i]!;
          return (['before', 'after'] as const).map((side) => {
            if (side === 'before' ? p.at === 0 : i === points.length - 1) return null;
            const tip = x(p) + (side === 'after' ? 1 : -1) * (16 + p[side] * perFrame);
            return (
              <g key={`${i}${side}`}>
                <line
                  x1={x(p)}
                  y1={y(p)}
                  x2={tip}
                  y2={y(p)}
                  stroke={colors.ink}
                  strokeWidth={1}
                  opacity={0.7}
                />
                <circle
                  {...soften(side)}
                  cx={tip}
                  cy={y(p)}
                  r={5}
                  fill={p[side] > 0 ? colors.ink : colors.ground}
                  stroke={colors.ink}
                  strokeWidth={1.5}
                  data-testid={`soft-${side}`}
                  style={{ cursor: 'ew-resize', pointerEvents: 'all', touchAction: 'none' }}
                >
                  <title>{`Soft ${side}: ${p[side]} frames. Drag`}</title>
                </circle>
              </g>
            );
          });
        })}
        {shown.map((i) => {
          const p = points[i]!;
          const on = chosen.includes(i);
          return (
            <rect
              key={i}
              {...drag(i)}
              x={x(p) - 5}
              y={y(p) - 5}
              width={10}
              height={10}
              rx={p.before > 0 || p.after > 0 ? 5 : 1.5}
              fill={on ? colors.ink : colors.ground}
              stroke={colors.ink}
              strokeWidth={2}
              opacity={curve.stepId === undefined && !on ? 0.75 : 1}
              role="slider"
              tabIndex={0}
              aria-label={`Point ${i + 1}`}
              aria-valuenow={Math.round(origin + p.source)}
              aria-valuetext={`result frame ${p.at + first0}, source frame ${Math.round(origin + p.source) + first0}${heldWords(p)}`}
              onFocus={() => chosen.includes(i) || curve.choose(cluster(points, i))}
              onKeyDown={onKey(i)}
              style={{ cursor: 'move', pointerEvents: 'all', touchAction: 'none' }}
            />
          );
        })}
      </svg>
      {live && (
        <LiveLabel
          x={resultX(start + live.at)}
          y={live.source === null ? top + 8 : Math.max(2, sourceY(origin + live.source) - 34)}
          text={live.text}
          words={live.words}
          width={width}
        />
      )}
    </>
  );
}
