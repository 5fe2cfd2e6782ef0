import { type RefObject, useEffect } from 'react';
import { usePlaying } from '../state/playing';
import { type EyeAt, drawPlayhead } from './draw-playhead';
import { ribbonAt } from './threads/ribbons';
import type { WeaveScene } from './scene';
import { fitCanvas } from './use-size';
import { type WeaveModel, whereShown } from './weave-model';

/** Most threads shown from one source frame. */
const MOST_THREADS = 200;

/** Draws the playhead, and what the pointer rests on, in a canvas of its own, without rendering anything anew. */
export function useEye(
  ref: RefObject<HTMLCanvasElement | null>,
  model: WeaveModel,
  scene: WeaveScene,
  draw: (context: CanvasRenderingContext2D, at: EyeAt, faint: boolean) => void = (c, at, faint) =>
    drawPlayhead(c, scene, at, faint),
): void {
  useEffect(() => {
    const { width, height } = scene.layout;
    const redraw = () => {
      if (!ref.current || width === 0) return;
      const { showing, position, sourceFrame, peek } = usePlaying.getState();
      const context = fitCanvas(ref.current, width, height);
      context.clearRect(0, 0, width, height);
      const onResult = (at: number): EyeAt => {
        const ribbon = model.totalFrames > 0 ? ribbonAt(model.ribbons, at) : undefined;
        if (!ribbon) return {};
        return ribbon.clipId === model.clipId
          ? { resultFrame: at + 0.5, sourceFrame: ribbon.sourceAtResult(at + 0.5) }
          : { resultFrame: at + 0.5 };
      };
      draw(context, showing === 'source' ? { sourceFrame: sourceFrame + 0.5 } : onResult(position), false);
      if (peek?.kind === 'result') draw(context, onResult(peek.position), true);
      else if (peek && peek.clipId === model.clipId)
        draw(
          context,
          { sourceFrame: peek.frame + 0.5, alsoAt: whereShown(model, peek.frame, MOST_THREADS) },
          true,
        );
    };
    redraw();
    return usePlaying.subscribe(redraw);
  }, [ref, model, scene, draw]);
}
