import { type RefObject, useEffect } from 'react';
import { fitCanvas } from './use-size';

/** Draws into a canvas whenever what it is drawn from changes; `draw` must be stable between changes. */
export function useCanvas(
  ref: RefObject<HTMLCanvasElement | null>,
  size: { readonly width: number; readonly height: number },
  draw: (context: CanvasRenderingContext2D) => void,
): void {
  const { width, height } = size;
  useEffect(() => {
    if (!ref.current || width === 0 || height === 0) return;
    const context = fitCanvas(ref.current, width, height);
    context.clearRect(0, 0, width, height);
    draw(context);
  }, [ref, width, height, draw]);
}
