import { type View, heldView, wholeView, zoomedView } from '@skipback/core/edit/view';
import { create } from 'zustand';

/** What is seen of the two strips: a stretch of one clip, and a stretch of the result; null is all of it. */
export interface Views {
  readonly source: { readonly clipId: string; readonly view: View } | null;
  readonly result: View | null;
}

export const useViews = create<Views>(() => ({ source: null, result: null }));

export function sourceViewOf(views: Views, clipId: string | undefined, clipFrames: number): View {
  if (views.source?.clipId !== clipId || clipFrames === 0) return wholeView(clipFrames);
  return heldView(views.source!.view, clipFrames);
}

export function resultViewOf(views: Views, totalFrames: number): View {
  return views.result && totalFrames > 0 ? heldView(views.result, totalFrames) : wholeView(totalFrames);
}

const isWhole = (view: View, total: number) => view.from <= 0 && view.to >= total;

export function setSourceView(clipId: string, view: View, clipFrames: number): void {
  useViews.setState({ source: isWhole(view, clipFrames) ? null : { clipId, view } });
}

export function setResultView(view: View, totalFrames: number): void {
  useViews.setState({ result: isWhole(view, totalFrames) ? null : view });
}

/** Both strips whole. */
export const fitViews = (): void => useViews.setState({ source: null, result: null });

/** Lengths of a span that are shown on either side of it when the strip goes close to it. */
const SPANS_AROUND = 2;

/** The source strip close around a span, so that its edges can be taken hold of in a clip of any length. */
export function aroundSpan(clipId: string, span: { in: number; out: number }, clipFrames: number): void {
  const room = SPANS_AROUND * (span.out - span.in);
  const view = { from: Math.max(0, span.in - room), to: Math.min(clipFrames, span.out + room) };
  setSourceView(clipId, view, clipFrames);
}

/** Goes between the span and the whole clip. */
export function toggleAroundSpan(
  clipId: string,
  span: { in: number; out: number },
  clipFrames: number,
): void {
  if (useViews.getState().source?.clipId === clipId) useViews.setState({ source: null });
  else aroundSpan(clipId, span, clipFrames);
}

/** Zooms a strip around a frame of it. */
export function zoomResult(factor: number, around: number, totalFrames: number): void {
  setResultView(
    zoomedView(resultViewOf(useViews.getState(), totalFrames), factor, around, totalFrames),
    totalFrames,
  );
}

export function zoomSource(clipId: string, factor: number, around: number, clipFrames: number): void {
  const view = sourceViewOf(useViews.getState(), clipId, clipFrames);
  setSourceView(clipId, zoomedView(view, factor, around, clipFrames), clipFrames);
}
