import { useDrag } from '@use-gesture/react';
import { type PointerEvent, useEffect, useRef } from 'react';
import { beginGesture } from '../state/project-store';

/** Where a drag stands: how far it went, and whether snapping is held off with Alt. */
export interface EditDrag {
  readonly dx: number;
  readonly dy: number;
  readonly free: boolean;
}

interface Holding<S> {
  readonly state: S;
  moved: boolean;
  move(drag: EditDrag): void;
  /** Lets go, once: what it changed stays, or is put back. */
  letGo(cancelled: boolean): void;
}

interface Hands<A, S> {
  /** Takes hold of something; what it gives is handed to `move`. Undefined takes hold of nothing. */
  begin(
    what: A,
    event: { shiftKey: boolean; altKey: boolean; clientX: number; clientY: number },
  ): S | undefined;
  move(state: S, drag: EditDrag): void;
  /** Let go, or put back with Escape. A press that never moved is a click. */
  end?(state: S, how: { cancelled: boolean; clicked: boolean }): void;
}

/**
 * A drag that edits the project: one step of history, Escape puts it back and nothing else, and the press does not
 * reach what lies behind. It is over when the pointer is let go, wherever that is and whether or not what was taken hold
 * of is still there; when the window loses the focus; and when the view goes. Gives the handlers for something that can
 * be taken hold of.
 */
export function useEditDrag<A, S>(hands: Hands<A, S>) {
  const held = useRef<Holding<S> | undefined>(undefined);
  useEffect(() => () => held.current?.letGo(false), []);
  const take = (state: S): Holding<S> => {
    const gesture = beginGesture();
    // As they were when it was taken hold of: scales that change on the way do not pull it off the hand.
    const { move, end } = hands;
    const onKey = (key: KeyboardEvent) => {
      if (key.key !== 'Escape') return;
      key.preventDefault();
      key.stopPropagation();
      holding.letGo(true);
    };
    const onBlur = () => holding.letGo(false);
    const holding: Holding<S> = {
      state,
      moved: false,
      move: (drag) => move(state, drag),
      letGo: (cancelled) => {
        if (held.current !== holding) return;
        held.current = undefined;
        window.removeEventListener('keydown', onKey, true);
        window.removeEventListener('blur', onBlur);
        if (cancelled) gesture.cancel();
        else gesture.end();
        end?.(state, { cancelled, clicked: !cancelled && !holding.moved });
      },
    };
    window.addEventListener('keydown', onKey, true);
    window.addEventListener('blur', onBlur);
    return holding;
  };
  const drag = useDrag(
    ({ args: [what], first, last, movement: [dx, dy], event, altKey, shiftKey, xy }) => {
      if (first) {
        held.current?.letGo(false);
        const state = hands.begin(what as A, { shiftKey, altKey, clientX: xy[0], clientY: xy[1] });
        if (state === undefined) return;
        held.current = take(state);
        (event.currentTarget as HTMLElement | null)?.focus?.({ preventScroll: true });
      }
      const holding = held.current;
      if (!holding) return;
      if (dx !== 0 || dy !== 0 || holding.moved) {
        holding.moved = true;
        holding.move({ dx, dy, free: altKey });
      }
      if (last) holding.letGo(false);
    },
    // Heard at the window: what was taken hold of may go while it is held.
    { pointer: { keys: false, capture: false } },
  );
  return (what: A) => {
    const handlers = drag(what) as { onPointerDown: (event: PointerEvent) => void };
    return {
      ...handlers,
      style: { touchAction: 'none' as const },
      onPointerDown: (event: PointerEvent) => {
        event.stopPropagation();
        handlers.onPointerDown(event);
      },
    };
  };
}
