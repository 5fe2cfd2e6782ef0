import type { Frame } from '@skipback/core/time/units';
import { Box } from '@mui/material';
import type { Mark } from '@skipback/core/project/schema';
import { useDrag, useGesture } from '@use-gesture/react';
import { type PointerEvent, useCallback, useMemo, useRef, useState } from 'react';
import { selectPiece } from '../../state/selection';
import { transport } from '../../state/transport';
import { colors } from '../../theme';
import { drawResultStrip } from '../draw-result';
import { drawSourceStrip } from '../draw-source';
import { drawThreads } from './draw-threads';
import { heightBetween } from '../draw-playhead';
import { LaneHands, useLaneHeights, useLanesDrawn } from '../lanes/lanes';
import { JoinHands } from './join-hands';
import { MarkFlags } from './mark-flags';
import { type Ribbon, frameUnder, ribbonAt, ribbonUnder } from './ribbons';
import { type WeaveScene, layoutFor } from '../scene';
import { linearScale } from '../scales';
import { SegmentEnds } from './segment-ends';
import { SpanHandles } from './span-handles';
import { SourcePins, StepPins } from './step-pins';
import { frameAtX, pressResult, wheelResult, wheelSource } from './strip-hands';
import { useCanvas } from '../use-canvas';
import { useEye } from '../use-eye';
import { layer, surface } from '../use-plot';
import { useSize } from '../use-size';
import type { WeaveModel } from '../weave-model';

const PADDING = 16;
const NO_MARKS: readonly Mark[] = [];

/** Source strip, threads and result strip as one instrument. */
export function ThreadsView({ model }: { readonly model: WeaveModel }) {
  const { clip, clipId, clipFrames, totalFrames, ribbons, sourceView, resultView, facts } = model;
  const frame = useRef<HTMLDivElement>(null);
  const still = useRef<HTMLCanvasElement>(null);
  const moving = useRef<HTMLCanvasElement>(null);
  const size = useSize(frame);
  const { width, height } = size;
  const [hovered, setHovered] = useState<Ribbon>();
  const marks = clip?.clip.marks ?? NO_MARKS;
  const pieceId = model.piece?.piece.id ?? null;

  const sourceX = useMemo(
    () => linearScale(sourceView.from, sourceView.to, PADDING, width - PADDING),
    [sourceView, width],
  );
  const lanes = useLaneHeights(model);
  const [scrolled, setScrolled] = useState<{ readonly at: number; readonly selected: number }>();
  // Another look that is selected comes into sight.
  const scroll = scrolled?.selected === lanes.selected ? scrolled.at : undefined;
  const scene = useMemo((): WeaveScene => {
    return {
      ...facts,
      layout: layoutFor(width, height, lanes, scroll),
      sourceX,
      resultX: linearScale(resultView.from, resultView.to, PADDING, width - PADDING),
      covered: marks.map((m) => [sourceX(m.frame) - 12, sourceX(m.frame) + 24 + m.name.length * 7] as const),
      // A ribbon of before a change is not one of now.
      hovered: hovered && ribbons.includes(hovered) ? hovered : undefined,
    };
  }, [facts, lanes, scroll, width, height, sourceX, resultView, marks, hovered, ribbons]);
  const { layout, resultX } = scene;

  const drawLanes = useLanesDrawn(model, layout, resultX);
  const draw = useCallback(
    (c: CanvasRenderingContext2D) => {
      drawSourceStrip(c, scene);
      drawThreads(c, scene);
      drawResultStrip(c, scene);
      drawLanes(c);
    },
    [scene, drawLanes],
  );
  useCanvas(still, size, draw);
  useEye(moving, model, scene);

  const local = (event: { clientX: number; clientY: number }) => {
    const box = frame.current!.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const partAt = (y: number) =>
    y < layout.sourceBottom ? 'source' : y >= layout.resultTop - 8 ? 'result' : 'threads';
  const underAt = (x: number, y: number): { ribbon: Ribbon; at: Frame } | undefined => {
    const v = heightBetween(layout, y);
    if (v === undefined) return undefined;
    const mine = ribbons.filter((r) => r.clipId === clipId);
    const ribbon = ribbonUnder(mine, x, v, sourceX, resultX);
    return ribbon && { ribbon, at: frameUnder(ribbon, x, v, sourceX, resultX) };
  };

  const pressed = useRef<'source' | 'result' | 'threads'>('threads');
  const bindDrag = useDrag(
    ({ first, xy: [clientX, clientY], event }) => {
      const { x, y } = local({ clientX, clientY });
      if (first) {
        (event.currentTarget as HTMLElement | null)?.focus?.({ preventScroll: true });
        pressed.current = partAt(y);
      }
      if (pressed.current === 'source' && clipId && clipFrames > 0)
        transport.seekSource(clipId, frameAtX(sourceX, x, clipFrames));
      else if (pressed.current === 'result') pressResult(model, resultX, x, first);
      else if (first) {
        const under = underAt(x, y);
        selectPiece(under?.ribbon.pieceId ?? pieceId, under?.ribbon.index ?? null);
        if (under) transport.seekResult(under.at);
      }
    },
    { pointer: { keys: false } },
  );
  const turnAt = ({ x, y }: { x: number; y: number }, dx: number, dy: number, shiftKey: boolean) => {
    if (layout.mostScroll > 0 && y >= layout.looksTop && y < layout.songTop && dy !== 0 && !shiftKey)
      return setScrolled({
        at: Math.min(layout.mostScroll, Math.max(0, layout.lanesScroll + dy)),
        selected: lanes.selected,
      });
    return y < (layout.sourceBottom + layout.resultTop) / 2
      ? wheelSource(model, sourceX, { x, dx, dy, shiftKey })
      : wheelResult(model, resultX, { x, dx, dy, shiftKey });
  };
  useGesture(
    {
      onWheel: ({ event, delta: [dx, dy] }) => {
        event.preventDefault();
        turnAt(local(event), dx, dy, event.shiftKey);
      },
      onPinch: ({ event, origin: [clientX, clientY], delta: [change] }) => {
        if (event.type !== 'wheel') turnAt(local({ clientX, clientY }), 0, -450 * change, false);
      },
    },
    { target: frame, eventOptions: { passive: false } },
  );

  const onHover = (event: PointerEvent) => {
    if (event.buttons !== 0) return;
    const { x, y } = local(event);
    const part = partAt(y);
    const under = part === 'threads' ? underAt(x, y) : undefined;
    const at = part === 'result' && totalFrames > 0 ? frameAtX(resultX, x, totalFrames) : under?.at;
    const ribbon = under?.ribbon ?? (at === undefined ? undefined : ribbonAt(ribbons, at));
    if (ribbon !== hovered) setHovered(ribbon);
    if (at !== undefined) transport.peek({ kind: 'result', position: at });
    else if (part === 'source' && clipId && clipFrames > 0)
      transport.peek({ kind: 'source', clipId, frame: frameAtX(sourceX, x, clipFrames) });
    else transport.peek(null);
  };
  const onLeave = () => {
    setHovered(undefined);
    transport.peek(null);
  };

  const hint =
    clip === undefined
      ? 'The source will be up here, what plays down there, and threads between them.'
      : facts.span || ribbons.some((r) => r.clipId === clipId)
        ? undefined
        : `Nothing of ${clip.clip.name} is in the result yet. Scrub to the moment, then press I where it begins and O where it ends.`;

  return (
    <Box
      ref={frame}
      {...bindDrag()}
      onPointerMove={onHover}
      onPointerLeave={onLeave}
      aria-label="Weave: the source above, the result below"
      role="group"
      sx={surface}
    >
      <canvas ref={still} style={layer} />
      <canvas ref={moving} style={{ ...layer, pointerEvents: 'none' }} />
      {clip && (
        <MarkFlags
          clipId={clip.clip.id}
          marks={marks}
          clipFrames={clipFrames}
          sourceX={sourceX}
          width={width}
        />
      )}
      {facts.span && clipId && pieceId && width > 0 && (
        <SpanHandles model={model} pieceId={pieceId} span={facts.span} sourceX={sourceX} layout={layout} />
      )}
      {width > 0 && <SegmentEnds model={model} resultX={resultX} layout={layout} />}
      {width > 0 && clip && <SourcePins model={model} sourceX={sourceX} layout={layout} />}
      {width > 0 && <StepPins model={model} resultX={resultX} layout={layout} />}
      {width > 0 && <JoinHands model={model} resultX={resultX} layout={layout} />}
      {width > 0 && <LaneHands model={model} layout={layout} resultX={resultX} />}
      {hint && (
        <Box
          style={{ top: (layout.sourceBottom + layout.resultTop) / 2 - 10 }}
          sx={{
            position: 'absolute',
            left: 16,
            right: 16,
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
