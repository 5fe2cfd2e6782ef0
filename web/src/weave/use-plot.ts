import { useMemo, useRef } from 'react';
import { linearScale } from './scales';
import { type WeaveScene, layoutFor } from './scene';
import { useSize } from './use-size';
import type { WeaveModel } from './weave-model';

/** What the forms that plot something over the result have in common: two layers, the result strip below, its scale. */
export function usePlot(model: WeaveModel, left: number, right: number) {
  const { resultView, facts } = model;
  const frame = useRef<HTMLDivElement>(null);
  const still = useRef<HTMLCanvasElement>(null);
  const moving = useRef<HTMLCanvasElement>(null);
  const size = useSize(frame);
  const { width, height } = size;
  const layout = useMemo(() => layoutFor(width, height), [width, height]);
  const scene = useMemo(
    (): WeaveScene => ({
      ...facts,
      layout,
      sourceX: linearScale(0, 1, 0, 1),
      resultX: linearScale(resultView.from, resultView.to, left, width - right),
      covered: [],
      hovered: undefined,
    }),
    [facts, layout, width, resultView, left, right],
  );
  /** A pointer's place in the frame. */
  const local = (event: { clientX: number; clientY: number }) => {
    const box = frame.current!.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  return { frame, still, moving, size, layout, scene, local };
}

/** Two layers on top of each other. */
export const layer = { position: 'absolute', inset: 0, width: '100%', height: '100%' } as const;

/** A surface for hands: nothing of it is selected or scrolled by the browser. */
export const surface = {
  position: 'relative',
  flex: 1,
  minHeight: 200,
  overflow: 'hidden',
  touchAction: 'none',
  userSelect: 'none',
  outline: 'none',
} as const;
