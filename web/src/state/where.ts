import { type WeaveMode, setOpen, useOpen } from './open';
import { type Selection, useSelection } from './selection';
import { type Views, useViews } from './views';

/** Where one is on the bench: what is selected, in which form of the weave, and how near its strips are seen. */
export interface Where {
  readonly selection: Selection;
  readonly mode: WeaveMode;
  readonly views: Views;
}

export const whereNow = (): Where => ({
  selection: useSelection.getState(),
  mode: useOpen.getState().mode,
  views: useViews.getState(),
});

export function goWhere({ selection, mode, views }: Where): void {
  useSelection.setState(selection, true);
  if (useOpen.getState().mode !== mode) setOpen({ mode });
  if (useViews.getState() !== views) useViews.setState(views, true);
}
