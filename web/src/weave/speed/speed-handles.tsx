import { firstNow } from '../../state/counting';
import { everyFrameOncePercent } from '@skipback/core/checks/smoothness';
import { snap, speedTargets } from '@skipback/core/edit/snap';
import { percentText } from '@skipback/core/time/entry';
import { type KeyboardEvent, useState } from 'react';
import { usePlaying } from '../../state/playing';
import { colors } from '../../theme';
import type { SpeedPlot } from './draw-speed';
import { LiveLabel } from '../live-label';
import { ribbonAt } from '../threads/ribbons';
import type { Scale } from '../scales';
import { useEditDrag } from '../use-edit-drag';
import type { HandRamp } from './use-ramp';
import type { WeaveModel } from '../weave-model';

interface Props {
  readonly model: WeaveModel;
  readonly hand: HandRamp;
  readonly resultX: Scale;
  readonly plot: SpeedPlot;
  readonly width: number;
  readonly chosen: number | null;
  onChoose(place: number | null): void;
}

const REACH = 6;
const held = (percent: number) => Math.min(3000, Math.max(2, percent));

/** The speeds to take hold of: a bar on each stretch to pull up and down, and on each change its place and its two sides. */
export function SpeedHandles({ model, hand, resultX, plot, width, chosen, onChoose }: Props) {
  const [live, setLive] = useState<{
    /** The change of speed it is about; null for the first change. */
    place: number | null;
    side: 'speed' | 'change';
    text: string;
    words?: string | undefined;
  }>();
  const { values, layout, incoming } = hand;
  const { points } = values;
  const start = model.pieceStart;
  const perFrame = resultX(1) - resultX(0);
  const x = (at: number) => resultX(start + at);
  /** The true speed of a stretch: what comes in may have one of its own. */
  const actual = (p: { from: number; to: number; place: number }) => {
    const middle = start + (p.from + p.to) / 2;
    const ribbon = ribbonAt(model.ribbons, Math.floor(middle));
    return ribbon ? 100 * Math.abs(ribbon.speedAtResult(middle)) : points[p.place]!.percent;
  };
  const setPercent = (place: number, percent: number) =>
    hand.commit('change a speed', {
      points: points.map((p, i) => (i === place ? { ...p, percent: held(percent) } : p)),
    });

  const lift = useEditDrag<
    (typeof layout.plateaus)[number],
    { place: number; speed: number; percent: number }
  >({
    begin: (p) => {
      onChoose(p.place);
      return {
        place: p.place,
        speed: actual(p),
        percent: points[p.place]!.percent,
      };
    },
    move: ({ place, speed, percent }, { dy, free }) => {
      const perPercent = Math.abs(plot.percentY(1) - plot.percentY(0));
      const wanted = Math.max(1, speed - dy / perPercent);
      const clean = model.piece && everyFrameOncePercent(model.piece.table, model.piece.path.rate);
      const to = snap(wanted, free ? [] : speedTargets(clean), REACH / perPercent);
      const next = to.words || free ? to.value : Math.round(to.value);
      const scaled = speed > 0 ? (percent * next) / speed : next;
      setPercent(place, Number(scaled.toFixed(2)));
      setLive({ place, side: 'speed', text: percentText(next), words: to.words });
    },
    end: () => setLive(undefined),
  });

  const shift = useEditDrag<(typeof layout.changes)[number], { place: number; was: number; pace: number }>({
    begin: (c) => {
      onChoose(c.place);
      const before = Math.max(0, layout.plateaus.findIndex((p) => p.place === c.place) - 1);
      const paceBefore = points[layout.plateaus[before]!.place]!.percent / 100;
      return { place: c.place, was: points[c.place]!.at, pace: paceBefore };
    },
    move: ({ place, was, pace }, { dx, free }) => {
      const others = points.flatMap((p, i) => (i === place ? [] : [p.at])).sort((a, b) => a - b);
      const low = (others.findLast((at) => at < was) ?? 0) + 1;
      const high = (others.find((at) => at > was) ?? incoming) - 1;
      const target = {
        value:
          was +
          (usePlaying.getState().position -
            start -
            (layout.changes.find((c) => c.place === place)?.at ?? 0)) *
            pace,
        words: 'playhead',
      };
      const to = snap(was + (dx / perFrame) * pace, free ? [] : [target], (REACH / perFrame) * pace);
      const at = Math.round(Math.min(high, Math.max(low, to.value)));
      hand.commit('move a change of speed', {
        points: points.map((p, i) => (i === place ? { ...p, at } : p)),
      });
      setLive({ place, side: 'change', text: `from frame ${at + firstNow()}`, words: to.words });
    },
    end: () => setLive(undefined),
  });

  const widen = useEditDrag<'before' | 'after', { side: 'before' | 'after'; was: number }>({
    begin: (side) => ({ side, was: values[side] }),
    move: ({ side, was }, { dx }) => {
      const frames = Math.min(
        10_000,
        Math.max(0, Math.round(was + ((side === 'after' ? 1 : -1) * dx) / perFrame)),
      );
      hand.commit('widen the changes', { [side]: frames });
      setLive({ place: null, side: 'change', text: `${frames} f ${side} the point` });
    },
    end: () => setLive(undefined),
  });

  const onKey = (place: number) => (event: KeyboardEvent) => {
    const by = { ArrowUp: 5, ArrowDown: -5 }[event.key];
    if (by !== undefined) setPercent(place, points[place]!.percent + by * (event.shiftKey ? 10 : 1));
    else if ((event.key === 'Delete' || event.key === 'Backspace') && points.length > 1 && place > 0) {
      hand.commit('remove a change of speed', { points: points.filter((_, i) => i !== place) });
      onChoose(null);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };

  /** Where a label stands now: the layout moves while a speed is pulled. */
  const spot = ({ place, side }: { place: number | null; side: 'speed' | 'change' }) => {
    const plateau = layout.plateaus.find((p) => p.place === place);
    const change = layout.changes.find((c) => c.place === place) ?? layout.changes[0];
    if (side === 'change' || !plateau) return { x: x(change?.at ?? 0), y: plot.top };
    const height = plot.percentY(Math.min(plot.highest, actual(plateau)));
    return { x: x((plateau.from + plateau.to) / 2), y: Math.max(2, height - 34) };
  };
  const grip = { cursor: 'ew-resize', pointerEvents: 'all', touchAction: 'none' } as const;
  return (
    <>
      <svg
        width="100%"
        height="100%"
        style={{ position: 'absolute', inset: 0, pointerEvents: 'none', overflow: 'hidden' }}
      >
        {layout.changes.map((c) => (
          <g key={c.place}>
            <rect
              x={x(c.from)}
              y={plot.top}
              width={Math.max(1, x(c.to) - x(c.from))}
              height={plot.bottom - plot.top}
              fill={colors.ink}
              opacity={0.05}
            />
            <line
              x1={x(c.at)}
              x2={x(c.at)}
              y1={plot.top}
              y2={plot.bottom}
              stroke={colors.ink}
              strokeWidth={1}
              opacity={0.6}
            />
            <rect
              {...shift(c)}
              x={x(c.at) - 6}
              y={plot.top - 2}
              width={12}
              height={14}
              rx={3}
              fill={colors.ink}
              data-testid="speed-change"
              style={grip}
            >
              <title>Drag: where the speed changes</title>
            </rect>
            {(['before', 'after'] as const).map((side) => (
              <rect
                key={side}
                {...widen(side)}
                x={(side === 'before' ? x(c.from) : x(c.to)) - 4}
                y={plot.bottom - 22}
                width={8}
                height={20}
                rx={2}
                fill={colors.ground}
                stroke={colors.ink}
                data-testid={`change-${side}`}
                style={grip}
              >
                <title>{`Drag: how many frames ${side} the point the change takes`}</title>
              </rect>
            ))}
          </g>
        ))}
        {layout.plateaus.map((p, i) => {
          const speed = actual(p);
          const y = plot.percentY(Math.min(plot.highest, speed));
          const left = x(p.from);
          const wide = Math.max(14, x(p.to) - left);
          return (
            <g key={p.place}>
              <rect
                {...lift(p)}
                x={left}
                y={y - 9}
                width={wide}
                height={18}
                fill="transparent"
                role="slider"
                tabIndex={0}
                aria-label={`Speed ${i + 1}, percent`}
                aria-valuenow={Math.round(points[p.place]!.percent)}
                aria-valuemin={2}
                aria-valuemax={3000}
                onFocus={() => onChoose(p.place)}
                onKeyDown={onKey(p.place)}
                style={{ cursor: 'ns-resize', pointerEvents: 'all', touchAction: 'none' }}
              />
              <rect
                x={left + wide / 2 - 18}
                y={y - 3}
                width={36}
                height={6}
                rx={3}
                fill={colors.ink}
                opacity={chosen === p.place ? 1 : 0.75}
              />
            </g>
          );
        })}
      </svg>
      {live && <LiveLabel {...spot(live)} text={live.text} words={live.words} width={width} />}
    </>
  );
}
