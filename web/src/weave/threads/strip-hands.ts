import { shiftedView, zoomedView } from '@skipback/core/edit/view';
import { type Frame, frameWithin } from '@skipback/core/time/units';
import { selectPiece } from '../../state/selection';
import { transport } from '../../state/transport';
import { ribbonAt } from './ribbons';
import type { Scale } from '../scales';
import { setResultView, setSourceView } from '../../state/views';
import type { WeaveModel } from '../weave-model';

/** How much a notch of the wheel zooms. */
const PER_PIXEL = 0.0022;

export interface WheelTurn {
  readonly dx: number;
  readonly dy: number;
  readonly shiftKey: boolean;
  readonly x: number;
}

const sideways = ({ dx, dy, shiftKey }: WheelTurn) => Math.abs(dx) > Math.abs(dy) || shiftKey;

/** Wheel over the source: zoom around the pointer; sideways or with Shift, pan. */
export function wheelSource(model: WeaveModel, sourceX: Scale, turn: WheelTurn): void {
  const { clipId, clipFrames, sourceView: view } = model;
  if (!clipId || clipFrames === 0) return;
  const perPixel = sourceX.invert(1) - sourceX.invert(0);
  const next = sideways(turn)
    ? shiftedView(view, (turn.dx || turn.dy) * perPixel, clipFrames)
    : zoomedView(view, Math.exp(turn.dy * PER_PIXEL), sourceX.invert(turn.x), clipFrames);
  setSourceView(clipId, next, clipFrames);
}

/** The same over the result. */
export function wheelResult(model: WeaveModel, resultX: Scale, turn: WheelTurn): void {
  const { totalFrames, resultView: view } = model;
  if (totalFrames === 0) return;
  const perPixel = resultX.invert(1) - resultX.invert(0);
  const next = sideways(turn)
    ? shiftedView(view, (turn.dx || turn.dy) * perPixel, totalFrames)
    : zoomedView(view, Math.exp(turn.dy * PER_PIXEL), resultX.invert(turn.x), totalFrames);
  setResultView(next, totalFrames);
}

export const frameAtX = (scale: Scale, x: number, frames: number): Frame =>
  frameWithin(scale.invert(x), frames);

/** A press on the result strip: selects the segment and looks at its frame. */
export function pressResult(model: WeaveModel, resultX: Scale, x: number, selects: boolean): void {
  if (model.totalFrames === 0) return;
  const at = frameAtX(resultX, x, model.totalFrames);
  const ribbon = selects ? ribbonAt(model.ribbons, at) : undefined;
  if (ribbon) selectPiece(ribbon.pieceId, ribbon.index);
  transport.seekResult(at);
}
