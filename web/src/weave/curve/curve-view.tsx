import { Box } from '@mui/material';
import { addPoint, pastePoints, removePoints } from '@skipback/core/edit/curve-edits';
import { type View, shiftedView, zoomedView } from '@skipback/core/edit/view';
import type { HeldPoint as CurvePoint } from '@skipback/core/moves/curve';
import { useDrag, useGesture } from '@use-gesture/react';
import {
  type KeyboardEvent,
  type MouseEvent,
  type PointerEvent,
  useCallback,
  useMemo,
  useState,
} from 'react';
import { usePlaying } from '../../state/playing';
import { transport } from '../../state/transport';
import { colors } from '../../theme';
import { CurveBar } from './curve-bar';
import { CurvePoints } from './curve-points';
import { THUMBS, type Plot, drawCurve, drawCurveGround } from './draw-curve';
import type { EyeAt } from '../draw-playhead';
import { drawResultStrip } from '../draw-result';
import { linearScale } from '../scales';
import type { WeaveScene } from '../scene';
import { frameAtX, pressResult, wheelResult } from '../threads/strip-hands';
import { useCanvas } from '../use-canvas';
import { useCurve } from './use-curve';
import { useEye } from '../use-eye';
import { layer, surface, usePlot } from '../use-plot';
import type { WeaveModel } from '../weave-model';

const LEFT = THUMBS + 44;
const RIGHT = 16;

/** Points copied, for any piece. */
let copied: readonly CurvePoint[] = [];

/** The time path as a curve: source time up, result time across, to be bent by hand. */
export function CurveView({ model }: { readonly model: WeaveModel }) {
  const { piece, clipFrames, pieceStart, totalFrames } = model;
  const { frame, still, moving, size, layout, scene, local } = usePlot(model, LEFT, RIGHT);
  const { width } = size;
  const curve = useCurve(piece, clipFrames);
  const [seen, setSeen] = useHeights(model);
  const [band, setBand] = useState<{ x0: number; y0: number; x1: number; y1: number }>();

  const { resultX } = scene;
  const plot = useMemo((): Plot => {
    const [top, bottom] = [14, layout.resultTop - 12];
    return {
      left: LEFT,
      right: width - RIGHT,
      top,
      bottom,
      sourceY: linearScale(seen.from, seen.to, bottom, top),
    };
  }, [layout, width, seen]);
  const marks = model.clip?.clip.marks;
  const draw = useCallback(
    (c: CanvasRenderingContext2D) => {
      drawCurveGround(c, scene, plot, marks ?? []);
      drawCurve(c, scene, plot);
      drawResultStrip(c, scene);
    },
    [scene, plot, marks],
  );
  useCanvas(still, size, draw);
  const drawEye = useCallback(
    (c: CanvasRenderingContext2D, at: EyeAt, faint: boolean) => drawCross(c, scene, plot, at, faint),
    [scene, plot],
  );
  useEye(moving, model, scene, drawEye);

  const onStrip = (y: number) => y >= layout.resultTop - 8;
  const bindDrag = useDrag(
    ({ first, last, xy: [clientX, clientY], initial: [startX, startY], event, shiftKey, memo }) => {
      const here = local({ clientX, clientY });
      const start = local({ clientX: startX, clientY: startY });
      if (first) (event.currentTarget as HTMLElement | null)?.focus?.({ preventScroll: true });
      if (onStrip(start.y)) {
        pressResult(model, resultX, here.x, first);
        return undefined;
      }
      const before: readonly number[] = (memo as number[] | undefined) ?? (shiftKey ? curve.chosen : []);
      const box = {
        x0: Math.min(start.x, here.x),
        x1: Math.max(start.x, here.x),
        y0: Math.min(start.y, here.y),
        y1: Math.max(start.y, here.y),
      };
      const inside = curve.points.flatMap((p, i) => {
        const [x, y] = [resultX(pieceStart + p.at), plot.sourceY(curve.origin + p.source)];
        return x >= box.x0 && x <= box.x1 && y >= box.y0 && y <= box.y1 ? [i] : [];
      });
      curve.choose([...new Set([...before, ...inside])].sort((a, b) => a - b));
      setBand(last ? undefined : box);
      return before;
    },
    { pointer: { keys: false } },
  );
  useGesture(
    {
      onWheel: ({ event, delta: [dx, dy] }) => {
        event.preventDefault();
        const { x, y } = local(event);
        if (x >= LEFT) return wheelResult(model, resultX, { x, dx, dy, shiftKey: event.shiftKey });
        const perPixel = (seen.to - seen.from) / (plot.bottom - plot.top);
        setSeen(
          event.shiftKey
            ? shiftedView(seen, -(dx || dy) * perPixel, clipFrames)
            : zoomedView(seen, Math.exp(dy * 0.0022), plot.sourceY.invert(y), clipFrames),
        );
      },
    },
    { target: frame, eventOptions: { passive: false } },
  );

  const onDouble = (event: MouseEvent) => {
    const { x, y } = local(event);
    if (onStrip(y) || !piece || x < LEFT) return;
    const at = Math.round(resultX.invert(x)) - pieceStart;
    if (at <= 0 || curve.points.some((p) => p.at === at)) return;
    const source = Math.round(plot.sourceY.invert(y)) - curve.origin;
    const inside = Math.min(curve.limits.highest, Math.max(curve.limits.lowest, source));
    curve.commit('add a point', addPoint(curve.points, { at, source: inside, before: 0, after: 0 }));
  };
  const onKey = (event: KeyboardEvent) => {
    const mod = event.ctrlKey || event.metaKey;
    const key = event.key.toLowerCase();
    if (mod && key === 'c' && curve.chosen.length > 0) copied = curve.chosen.map((i) => curve.points[i]!);
    else if (mod && key === 'v' && copied.length > 0 && piece)
      curve.commit(
        'paste points',
        pastePoints(curve.points, copied, usePlaying.getState().position - pieceStart),
      );
    else if (mod && key === 'a') curve.choose(curve.points.map((_, i) => i));
    else if ((key === 'delete' || key === 'backspace') && curve.chosen.length > 0)
      curve.commit('remove points', removePoints(curve.points, curve.chosen));
    else if (key === 'escape') curve.choose([]);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const onHover = (event: PointerEvent) => {
    if (event.buttons !== 0) return;
    const { x } = local(event);
    if (x < LEFT || totalFrames === 0) return transport.peek(null);
    transport.peek({ kind: 'result', position: frameAtX(resultX, x, totalFrames) });
  };

  return (
    <>
      <CurveBar model={model} curve={curve} />
      <Box
        ref={frame}
        {...bindDrag()}
        tabIndex={-1}
        role="group"
        aria-label="Curve: source time up, result time across"
        onDoubleClick={onDouble}
        onKeyDown={onKey}
        onPointerMove={onHover}
        onPointerLeave={() => transport.peek(null)}
        sx={surface}
      >
        <canvas ref={still} style={layer} />
        <canvas ref={moving} style={{ ...layer, pointerEvents: 'none' }} />
        {piece && width > 0 && !curve.tooMany && (
          <CurvePoints
            model={model}
            curve={curve}
            resultX={resultX}
            sourceY={plot.sourceY}
            width={width}
            top={plot.top - 8}
          />
        )}
        {band && (
          <Box
            style={{ left: band.x0, top: band.y0, width: band.x1 - band.x0, height: band.y1 - band.y0 }}
            sx={{
              position: 'absolute',
              border: `1px solid ${colors.ink}`,
              bgcolor: `${colors.ink}14`,
              pointerEvents: 'none',
            }}
          />
        )}
      </Box>
    </>
  );
}

/** The stretch of source that the curve's height covers: what the piece reads and a little around it, until zoomed. */
function useHeights(model: WeaveModel): [View, (view: View) => void] {
  const { piece, clipFrames, clipId } = model;
  const key = `${piece?.piece.id}:${clipId}`;
  const [zoomed, setZoomed] = useState<{ key: string; view: View }>();
  const fitted = useMemo((): View => {
    if (!piece || piece.clip.id !== clipId) return { from: 0, to: Math.max(1, clipFrames) };
    let [low, high] = [piece.piece.span.in, piece.piece.span.out];
    for (const f of piece.shown) [low, high] = [Math.min(low, f), Math.max(high, f + 1)];
    const room = Math.max(3, (high - low) * 0.14);
    return { from: Math.max(0, low - room), to: Math.min(clipFrames, high + room) };
  }, [piece, clipFrames, clipId]);
  // While a point is dragged the height stays, or the curve would run away from the hand.
  const [held, setHeld] = useState<{ key: string; view: View }>();
  const wide = held?.key === key && held.view.from <= fitted.from && held.view.to >= fitted.to;
  const shown = wide ? held.view : fitted;
  if (held?.key !== key || held.view !== shown) setHeld({ key, view: shown });
  return [zoomed?.key === key ? zoomed.view : shown, (view) => setZoomed({ key, view })];
}

/** The playhead through curve and strip, and where on the curve it is. */
function drawCross(
  c: CanvasRenderingContext2D,
  scene: WeaveScene,
  plot: Plot,
  at: EyeAt,
  faint: boolean,
): void {
  const { layout, resultX } = scene;
  c.strokeStyle = '#ffffff';
  c.fillStyle = '#ffffff';
  c.globalAlpha = faint ? 0.45 : 1;
  c.lineWidth = 1.25;
  const y = at.sourceFrame === undefined ? undefined : plot.sourceY(at.sourceFrame);
  c.beginPath();
  if (at.resultFrame !== undefined) {
    const x = resultX(at.resultFrame);
    c.moveTo(x, plot.top);
    c.lineTo(x, layout.height - 16);
    if (y !== undefined && y > plot.top && y < plot.bottom) {
      c.moveTo(THUMBS, y);
      c.lineTo(x, y);
    }
  } else if (y !== undefined) {
    c.moveTo(THUMBS, y);
    c.lineTo(plot.right, y);
  }
  c.stroke();
  if (at.resultFrame !== undefined && y !== undefined) {
    c.beginPath();
    c.arc(resultX(at.resultFrame), y, 4.5, 0, 2 * Math.PI);
    c.fill();
  }
  c.globalAlpha = 1;
}
