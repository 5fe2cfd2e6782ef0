import { timeAt } from '../../state/time-at';
import { parseAmount, parseShare } from '@skipback/core/time/amount';
import { Box, Button } from '@mui/material';
import { everyFrameOncePercent } from '@skipback/core/checks/smoothness';
import { percentText } from '@skipback/core/time/entry';
import { useDrag, useGesture } from '@use-gesture/react';
import { type MouseEvent, type PointerEvent, useCallback, useMemo, useState } from 'react';
import { ValueField } from '../../parts/value-field';
import { usePlaying } from '../../state/playing';
import { transport } from '../../state/transport';
import { colors } from '../../theme';
import type { EyeAt } from '../draw-playhead';
import { drawResultStrip } from '../draw-result';
import { type SpeedPlot, drawSpeedGround, drawSpeeds } from './draw-speed';
import { linearScale } from '../scales';
import { SpeedHandles } from './speed-handles';
import { frameAtX, pressResult, wheelResult } from '../threads/strip-hands';
import { useCanvas } from '../use-canvas';
import { useEye } from '../use-eye';
import { type HandRamp, useRamp } from './use-ramp';
import { layer, surface, usePlot } from '../use-plot';
import { BarHint, WeaveBar } from '../weave-bar';
import type { WeaveModel } from '../weave-model';

const LEFT = 64;
const RIGHT = 16;

/** Speed in percent over the result; each stretch pulled up and down, each change moved and widened. */
export function SpeedView({ model }: { readonly model: WeaveModel }) {
  const { piece, pieceStart, totalFrames, ribbons } = model;
  const { frame, still, moving, size, layout, scene, local } = usePlot(model, LEFT, RIGHT);
  const { width } = size;
  const shaped = useRamp(piece);
  const hand = shaped?.typed ? undefined : shaped;
  const [chosen, setChosen] = useState<number | null>(null);
  const { resultX } = scene;
  const clean = piece && everyFrameOncePercent(piece.table, piece.path.rate);
  const reached = useMemo(
    () =>
      ribbons.reduce(
        (most, r) =>
          Math.max(
            most,
            ...[r.resultFrom, (r.resultFrom + r.resultTo) / 2, r.resultTo].map(
              (at) => 100 * Math.abs(r.speedAtResult(at)),
            ),
          ),
        100,
      ),
    [ribbons],
  );
  // The scale grows in steps, so that it does not slide while a speed is pulled.
  const highest = [130, 260, 520, 1040, 2080, 4160].find((h) => h >= reached * 1.1) ?? 8000;
  const plot = useMemo((): SpeedPlot => {
    const [top, bottom] = [16, layout.resultTop - 12];
    return {
      left: LEFT,
      right: width - RIGHT,
      top,
      bottom,
      highest,
      percentY: linearScale(0, highest, bottom, top),
    };
  }, [layout, width, highest]);
  const draw = useCallback(
    (c: CanvasRenderingContext2D) => {
      drawSpeedGround(c, plot, clean);
      drawSpeeds(c, scene, plot);
      drawResultStrip(c, scene);
    },
    [scene, plot, clean],
  );
  useCanvas(still, size, draw);
  const drawEye = useCallback(
    (c: CanvasRenderingContext2D, at: EyeAt, faint: boolean) => {
      if (at.resultFrame === undefined) return;
      const x = resultX(at.resultFrame);
      c.globalAlpha = faint ? 0.45 : 1;
      c.fillStyle = '#ffffff';
      c.fillRect(x - 0.75, plot.top, 1.5, layout.height - 16 - plot.top);
      c.globalAlpha = 1;
    },
    [resultX, plot, layout],
  );
  useEye(moving, model, scene, drawEye);

  const bindDrag = useDrag(
    ({ first, xy: [clientX, clientY] }) => pressResult(model, resultX, local({ clientX, clientY }).x, first),
    { pointer: { keys: false } },
  );
  useGesture(
    {
      onWheel: ({ event, delta: [dx, dy] }) => {
        event.preventDefault();
        wheelResult(model, resultX, { x: local(event).x, dx, dy, shiftKey: event.shiftKey });
      },
    },
    { target: frame, eventOptions: { passive: false } },
  );
  const onDouble = (event: MouseEvent) => {
    const { x, y } = local(event);
    if (hand && y < layout.resultTop - 8) addChange(hand, Math.round(resultX.invert(x)) - pieceStart);
  };
  const onHover = (event: PointerEvent) => {
    const { x } = local(event);
    if (event.buttons !== 0) return;
    transport.peek(
      x < LEFT || totalFrames === 0 ? null : { kind: 'result', position: frameAtX(resultX, x, totalFrames) },
    );
  };

  return (
    <>
      <WeaveBar model={model}>
        {hand && chosen !== null && hand.values.points[chosen] ? (
          <ChosenSpeed hand={hand} place={chosen} onGone={() => setChosen(null)} />
        ) : (
          <>
            <BarHint
              text={
                shaped?.typed
                  ? 'It goes backward or stands still somewhere: its speeds are typed in the Ramp’s card.'
                  : hand?.stepId === undefined
                    ? 'Double-click where the speed should change, then pull a stretch up or down: a Ramp keeps it.'
                    : 'Double-click for another change of speed; pull stretches up and down, widen a change by its feet.'
              }
            />
            {hand && (
              <Button
                size="small"
                color="inherit"
                sx={{ minWidth: 0, py: 0, flex: 'none' }}
                onClick={() => addChange(hand, usePlaying.getState().position - pieceStart)}
              >
                Add at the playhead
              </Button>
            )}
          </>
        )}
      </WeaveBar>
      <Box
        ref={frame}
        {...bindDrag()}
        role="group"
        aria-label="Speed: percent over the result"
        onDoubleClick={onDouble}
        onPointerMove={onHover}
        onPointerLeave={() => transport.peek(null)}
        sx={surface}
      >
        <canvas ref={still} style={layer} />
        <canvas ref={moving} style={{ ...layer, pointerEvents: 'none' }} />
        {hand && width > 0 && (
          <SpeedHandles
            model={model}
            hand={hand}
            resultX={resultX}
            plot={plot}
            width={width}
            chosen={chosen}
            onChoose={setChosen}
          />
        )}
      </Box>
    </>
  );
}

/** Adds a point at a result frame of the piece, with the speed it already has there. */
function addChange({ layout, values, commit, incoming }: HandRamp, at: number): void {
  const plateau = layout.plateaus.find((p) => at > p.from && at < p.to);
  if (!plateau) return;
  const point = values.points[plateau.place]!;
  // Within a stretch of even speed, result frames are incoming frames at that pace.
  const first = plateau.place === layout.plateaus[0]!.place ? 0 : point.at;
  const change = layout.changes.find((c) => c.place === plateau.place);
  const old = Math.round(first + (at - (change?.at ?? plateau.from)) * (point.percent / 100));
  if (old <= 0 || old >= incoming || values.points.some((p) => p.at === old)) return;
  const points = [...values.points, { at: old, percent: point.percent }].sort((a, b) => a.at - b.at);
  commit('add a change of speed', { points });
}

function ChosenSpeed({ hand, place, onGone }: { hand: HandRamp; place: number; onGone: () => void }) {
  const { points, before, after } = hand.values;
  const point = points[place]!;
  const set = (change: Partial<{ at: number; percent: number }>) => {
    hand.commit('change a speed', { points: points.map((p, i) => (i === place ? { ...p, ...change } : p)) });
    return true;
  };
  const whole = (typed: string) =>
    parseAmount(typed, { unit: 'f', least: 0, most: 10_000, whole: true, at: timeAt() });
  const frames = (label: string, value: number, take: (n: number) => boolean) => (
    <>
      <Box>{label}</Box>
      <ValueField
        label={`Change of speed: ${label}`}
        text={`${value} f`}
        width={46}
        onEnter={(typed) => {
          const n = whole(typed);
          return typeof n === 'string' ? n : take(n);
        }}
        onStep={(by) => void take(Math.max(0, value + by))}
      />
    </>
  );
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75, color: colors.quiet }}>
      <Box sx={{ color: colors.ink, fontWeight: 600 }}>speed {place + 1}</Box>
      <ValueField
        label="Change of speed: percent"
        text={percentText(point.percent)}
        width={72}
        hint="Percent of what comes in, or a factor"
        onEnter={(typed) => {
          const n = parseShare(typed, 2, 3000);
          return typeof n === 'string' ? n : set({ percent: n });
        }}
        onStep={(by) => set({ percent: Math.min(3000, Math.max(2, point.percent + 5 * by)) })}
      />
      {place > 0 &&
        frames(
          'from frame',
          point.at,
          (at) => points.every((p, i) => i === place || p.at !== at) && set({ at }),
        )}
      {points.length > 1 &&
        frames(
          'change begins before',
          before,
          (n) => (hand.commit('widen the changes', { before: n }), true),
        )}
      {points.length > 1 &&
        frames('ends after', after, (n) => (hand.commit('widen the changes', { after: n }), true))}
      {place > 0 && (
        <Button
          size="small"
          color="inherit"
          sx={{ minWidth: 0, py: 0 }}
          onClick={() => {
            hand.commit('remove a change of speed', { points: points.filter((_, i) => i !== place) });
            onGone();
          }}
        >
          Remove
        </Button>
      )}
    </Box>
  );
}
