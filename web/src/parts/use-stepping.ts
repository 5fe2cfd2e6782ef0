import { type MouseEvent, useEffect, useRef } from 'react';
import { useEditDrag } from '../weave/use-edit-drag';

/** How many steps are gone at once: ten with Shift, a tenth of one with Alt where there are tenths. */
export const timesOf = (held: { shiftKey: boolean; altKey: boolean }, fine: boolean): number =>
  held.shiftKey ? 10 : held.altKey && fine ? 0.1 : 1;

/** Pixels of a drag for one step. */
const PIXELS = 4;

/**
 * Steps a value by the wheel while its field has the focus, and by a drag across it, which is one step of the history; a
 * press without a drag goes into the field. Gives what is to be put on what holds the field.
 */
export function useStepping(
  step: ((by: number) => void) | undefined,
  fine: boolean,
  input: () => HTMLElement | null | undefined,
) {
  const latest = useRef({ step, input });
  useEffect(() => void (latest.current = { step, input }));
  useEffect(() => {
    const onWheel = (event: WheelEvent) => {
      const { step, input } = latest.current;
      const field = input();
      if (!step || !field || document.activeElement !== field || !field.contains(event.target as Node))
        return;
      event.preventDefault();
      // With Shift browsers turn the wheel sideways.
      const turned = event.deltaY || event.deltaX;
      if (turned !== 0) step(-Math.sign(turned) * timesOf(event, fine));
    };
    window.addEventListener('wheel', onWheel, { passive: false });
    return () => window.removeEventListener('wheel', onWheel);
  }, [fine]);
  const drag = useEditDrag<undefined, { gone: number; times: number }>({
    begin: (_, event) => {
      const { step, input } = latest.current;
      return !step || document.activeElement === input()
        ? undefined
        : { gone: 0, times: timesOf(event, fine) };
    },
    move: (state, { dx }) => {
      const by = Math.round(dx / PIXELS) - state.gone;
      if (by === 0) return;
      state.gone += by;
      latest.current.step?.(by * state.times);
    },
    end: ({ gone }, { cancelled }) => {
      if (!cancelled && gone === 0) latest.current.input()?.focus();
    },
  });
  if (!step) return {};
  return {
    ...drag(undefined),
    // The press does not go into the field before it is known to be none of a drag.
    onMouseDown: (event: MouseEvent) => {
      if (document.activeElement !== input()) event.preventDefault();
    },
  };
}
