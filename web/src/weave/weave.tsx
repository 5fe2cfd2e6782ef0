import { Box } from '@mui/material';
import { usesOf } from '@skipback/core/checks/totals';
import { frameCount } from '@skipback/core/clip/frame-table';
import type { CompiledProject } from '@skipback/core/project/compile';
import type { Mark, Project } from '@skipback/core/project/schema';
import { toNumber } from '@skipback/core/time/rational';
import { useDrag, useGesture } from '@use-gesture/react';
import { type PointerEvent, useEffect, useMemo, useRef, useState } from 'react';
import { type ClipState, useThumbnails } from '../state/library';
import { setPlayback, usePlayback } from '../state/playback';
import { transport } from '../state/transport';
import { colors } from '../theme';
import { type WeaveScene, drawPlayhead, drawWeave, heightBetween, layoutFor } from './draw-weave';
import { MarkFlags } from './mark-flags';
import { type Ribbon, ribbonAt, ribbonUnder, ribbonsOf } from './ribbons';
import { linearScale } from './scales';
import { SegmentEnds } from './segment-ends';
import { SpanHandles } from './span-handles';
import { fitCanvas, useSize } from './use-size';

const PADDING = 16;
const NO_MARKS: readonly Mark[] = [];

interface Props {
  readonly project: Project;
  readonly compiled: CompiledProject;
  /** The clip on the source strip. */
  readonly clip: ClipState | undefined;
  readonly pieceId: string | null;
}

/** Source strip, threads and result strip as one instrument. */
export function Weave({ project, compiled, clip, pieceId }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const still = useRef<HTMLCanvasElement>(null);
  const moving = useRef<HTMLCanvasElement>(null);
  const { width, height } = useSize(frame);
  const thumbnails = useThumbnails(clip?.loaded);
  const [hovered, setHovered] = useState<Ribbon>();
  const ribbons = useMemo(() => ribbonsOf(compiled), [compiled]);
  const clipFrames = clip?.loaded ? frameCount(clip.loaded.record.facts.table) : 0;
  const clipId = clip?.clip.id;
  const [view, setView] = useView(clipId, clipFrames);
  const piece = compiled.pieces.find((p) => p.compiled.piece.id === pieceId)?.compiled;
  const span = piece && piece.clip.id === clipId ? piece.piece.span : undefined;

  const marks = clip?.clip.marks ?? NO_MARKS;
  const uses = useMemo(() => {
    const sum = new Uint32Array(clipFrames);
    for (const { compiled: p } of compiled.pieces)
      if (p.clip.id === clipId) usesOf(p.shown, 0, clipFrames).forEach((n, i) => (sum[i]! += n));
    return sum;
  }, [compiled, clipId, clipFrames]);
  const scene = useMemo((): WeaveScene => {
    const rateHz = toNumber(project.rate);
    const sourceX = linearScale(view.from, view.to, PADDING, width - PADDING);
    return {
      layout: layoutFor(width, height),
      sourceX,
      uses,
      covered: marks.map((m) => [sourceX(m.frame) - 12, sourceX(m.frame) + 24 + m.name.length * 7] as const),
      resultX: linearScale(0, Math.max(1, compiled.totalFrames), PADDING, width - PADDING),
      ribbons,
      clipId,
      clipFrames,
      span,
      thumbnails,
      pieceId: compiled.pieces.length > 1 ? pieceId : null,
      hovered,
      rateHz,
      skips: compiled.pieces.flatMap((p) =>
        p.compiled.joins.filter((j) => j.skips).map((j) => p.startFrame + j.atFrame),
      ),
    };
  }, [
    width,
    height,
    view,
    compiled,
    ribbons,
    clipId,
    clipFrames,
    span,
    thumbnails,
    pieceId,
    hovered,
    project.rate,
    marks,
    uses,
  ]);

  useEffect(() => {
    if (still.current && width > 0) drawWeave(fitCanvas(still.current, width, height), scene);
  }, [scene, width, height]);

  useEffect(() => {
    const draw = () => {
      if (!moving.current || width === 0) return;
      const { showing, position, sourceFrame } = usePlayback.getState();
      const ribbon = ribbonAt(ribbons, position);
      const shownHere = showing === 'result' && ribbon && ribbon.clipId === clipId;
      const source =
        showing === 'source'
          ? sourceFrame + 0.5
          : shownHere
            ? ribbon.sourceAtResult(position + 0.5)
            : undefined;
      const result = showing === 'result' && ribbon ? position + 0.5 : undefined;
      drawPlayhead(fitCanvas(moving.current, width, height), scene, {
        ...(result !== undefined && { resultFrame: result }),
        ...(source !== undefined && { sourceFrame: source }),
      });
    };
    draw();
    return usePlayback.subscribe(draw);
  }, [scene, ribbons, clipId, width, height]);

  const local = (event: { clientX: number; clientY: number }) => {
    const box = frame.current!.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const sourceFrameAt = (x: number) =>
    Math.min(clipFrames - 1, Math.max(0, Math.floor(scene.sourceX.invert(x))));
  const resultFrameAt = (x: number) =>
    Math.min(compiled.totalFrames - 1, Math.max(0, Math.floor(scene.resultX.invert(x))));
  const zone = useRef<'source' | 'result' | 'threads'>('threads');
  const bindDrag = useDrag(
    ({ first, event, xy: [clientX, clientY] }) => {
      const { x, y } = local({ clientX, clientY });
      if (first) {
        (event.currentTarget as HTMLElement | null)?.focus({ preventScroll: true });
        zone.current =
          y < scene.layout.sourceBottom ? 'source' : y >= scene.layout.resultTop - 8 ? 'result' : 'threads';
        const ribbon =
          zone.current === 'source'
            ? undefined
            : zone.current === 'result'
              ? ribbonAt(ribbons, resultFrameAt(x))
              : hovered;
        if (ribbon) setPlayback({ pieceId: ribbon.pieceId });
      }
      if (zone.current === 'source' && clipId && clipFrames > 0)
        transport.seekSource(clipId, sourceFrameAt(x));
      else if (zone.current === 'result' && compiled.totalFrames > 0) transport.seekResult(resultFrameAt(x));
      else if (first && hovered) transport.seekResult(hovered.resultFrom);
    },
    { pointer: { keys: false } },
  );

  useGesture(
    {
      onWheel: ({ event, delta: [dx, dy] }) => {
        event.preventDefault();
        const { x, y } = local(event);
        if (y >= scene.layout.sourceBottom || clipFrames === 0) return;
        const sideways = Math.abs(dx) > Math.abs(dy) || event.shiftKey;
        const perPixel = (view.to - view.from) / (width - 2 * PADDING);
        if (sideways) setView((v) => shifted(v, (dx || dy) * perPixel, clipFrames));
        else setView((v) => zoomed(v, Math.exp(dy * 0.002), scene.sourceX.invert(x), clipFrames));
      },
    },
    { target: frame, eventOptions: { passive: false } },
  );

  const onHover = (event: PointerEvent) => {
    const { x, y } = local(event);
    const v = heightBetween(scene.layout, y);
    const mine = ribbons.filter((r) => r.clipId === clipId);
    const under =
      v !== undefined
        ? ribbonUnder(mine, x, v, scene.sourceX, scene.resultX)
        : y >= scene.layout.resultTop && compiled.totalFrames > 0
          ? ribbonAt(ribbons, resultFrameAt(x))
          : undefined;
    if (under !== hovered) setHovered(under);
  };

  const hint =
    clip === undefined
      ? 'The source will be up here, what plays down there, and threads between them.'
      : span || ribbons.some((r) => r.clipId === clipId)
        ? undefined
        : `Nothing of ${clip.clip.name} is in the result yet. Scrub to the moment, then press I where it begins and O where it ends.`;

  return (
    <Box
      ref={frame}
      {...bindDrag()}
      onPointerMove={onHover}
      onPointerLeave={() => setHovered(undefined)}
      aria-label="Weave: the source above, the result below"
      role="group"
      sx={{
        position: 'relative',
        flex: 1,
        minHeight: 220,
        overflow: 'hidden',
        touchAction: 'none',
        userSelect: 'none',
      }}
    >
      <canvas ref={still} style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }} />
      <canvas
        ref={moving}
        style={{ position: 'absolute', inset: 0, width: '100%', height: '100%', pointerEvents: 'none' }}
      />
      {clip && <MarkFlags clipId={clip.clip.id} marks={marks} sourceX={scene.sourceX} width={width} />}
      {span && clipId && pieceId && width > 0 && (
        <SpanHandles
          pieceId={pieceId}
          clipId={clipId}
          span={span}
          clipFrames={clipFrames}
          sourceX={scene.sourceX}
          layout={scene.layout}
        />
      )}
      {width > 0 && (
        <SegmentEnds
          ribbons={ribbons.filter((r) => r.pieceId === pieceId)}
          resultX={scene.resultX}
          layout={scene.layout}
        />
      )}
      {hint && (
        <Box
          sx={{
            position: 'absolute',
            left: 0,
            right: 0,
            top: (scene.layout.sourceBottom + scene.layout.resultTop) / 2 - 10,
            textAlign: 'center',
            color: colors.quiet,
            pointerEvents: 'none',
          }}
        >
          {hint}
        </Box>
      )}
    </Box>
  );
}

interface View {
  readonly from: number;
  readonly to: number;
}

/** The stretch of the clip on the source strip; the whole clip when another comes. */
function useView(
  clipId: string | undefined,
  clipFrames: number,
): [View, (change: (v: View) => View) => void] {
  const key = `${clipId}:${clipFrames}`;
  const [state, setState] = useState<{ key: string; view: View }>();
  const view = useMemo(
    () => (state?.key === key ? state.view : { from: 0, to: Math.max(1, clipFrames) }),
    [state, key, clipFrames],
  );
  return [view, (change) => setState({ key, view: change(view) })];
}

function shifted(v: View, by: number, clipFrames: number): View {
  const held = Math.min(Math.max(by, -v.from), clipFrames - v.to);
  return { from: v.from + held, to: v.to + held };
}

function zoomed(v: View, factor: number, around: number, clipFrames: number): View {
  const length = Math.min(clipFrames, Math.max(Math.min(12, clipFrames), (v.to - v.from) * factor));
  const from = Math.min(
    clipFrames - length,
    Math.max(0, around - ((around - v.from) * length) / (v.to - v.from)),
  );
  return { from, to: from + length };
}
