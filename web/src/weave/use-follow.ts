import { followedView } from '@skipback/core/edit/view';
import { useEffect } from 'react';
import { useOpen } from '../state/open';
import { usePlaying } from '../state/playing';
import { resultViewOf, setResultView, setSourceView, sourceViewOf, useViews } from '../state/views';
import { type WeaveModel, shownAt } from './weave-model';

/** Turns the strips over like pages while it plays, so that the playhead and the frame it shows stay in sight. */
export function useFollow(model: WeaveModel): void {
  useEffect(
    () =>
      usePlaying.subscribe(({ step, position, audition }, before) => {
        if (!useOpen.getState().follows || step === 0 || audition !== null || position === before.position)
          return;
        const views = useViews.getState();
        if (views.result) {
          const view = resultViewOf(views, model.totalFrames);
          const next = followedView(view, position, model.totalFrames, step < 0);
          if (next !== view) setResultView(next, model.totalFrames);
        }
        if (!views.source || !model.clipId) return;
        const shown = shownAt(model, position);
        const view = sourceViewOf(views, model.clipId, model.clipFrames);
        const speed = shown === undefined ? 0 : shown - (shownAt(model, before.position) ?? shown);
        const next = shown === undefined ? view : followedView(view, shown, model.clipFrames, speed < 0);
        if (next !== view) setSourceView(model.clipId, next, model.clipFrames);
      }),
    [model],
  );
}
