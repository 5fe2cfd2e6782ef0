import { type RefObject, useEffect, useState } from 'react';
import { flushSync } from 'react-dom';

/**
 * The content size of an element, CSS pixels, kept up to date: what depends on it is there in the same frame, so that
 * nothing is painted for one in the size that was.
 */
export function useSize(ref: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry!.contentRect;
      flushSync(() =>
        setSize((old) => (old.width === width && old.height === height ? old : { width, height })),
      );
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [ref]);
  return size;
}

/** Sizes a canvas for the display's pixels and gives its context in CSS pixels. */
export function fitCanvas(
  canvas: HTMLCanvasElement,
  width: number,
  height: number,
): CanvasRenderingContext2D {
  const ratio = window.devicePixelRatio || 1;
  const w = Math.max(1, Math.round(width * ratio));
  const h = Math.max(1, Math.round(height * ratio));
  if (canvas.width !== w) canvas.width = w;
  if (canvas.height !== h) canvas.height = h;
  const context = canvas.getContext('2d')!;
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  return context;
}
