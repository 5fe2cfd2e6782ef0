import { useDrag } from '@use-gesture/react';
import { type PointerEvent, useRef } from 'react';
import { beginGesture, cancelGesture, endGesture } from '../state/project-store';

/** Where a drag stands: how far it went, and whether snapping is held off with Alt. */
export interface EditDrag {
  readonly dx: number;
  readonly dy: number;
  readonly free: boolean;
}

interface Holding<S, H> {
  readonly state: S;
  cancelled: boolean;
  moved: boolean;
  /** As they were when it was taken hold of: scales that change on the way do not pull it off the hand. */
  readonly hands: H;
}

interface Hands<A, S> {
  /** Takes hold of something; what it gives is handed to `move`. Undefined takes hold of nothing. */
  begin(what: A, event: { shiftKey: boolean; clientX: number; clientY: number }): S | undefined;
  move(state: S, drag: EditDrag): void;
  /** Let go, or put back with Escape. A press that never moved is a click. */
  end?(state: S, how: { cancelled: boolean; clicked: boolean }): void;
}

/**
 * A drag that edits the project: one step of history, Escape puts everything back, and the press does not
 * reach what lies behind. Gives the handlers for something that can be taken hold of.
 */
export function useEditDrag<A, S>(hands: Hands<A, S>) {
  const held = useRef<Holding<S, Hands<A, S>> | undefined>(undefined);
  const stopListening = useRef<() => void>(() => undefined);
  const drag = useDrag(
    ({ args: [what], first, last, movement: [dx, dy], event, altKey, shiftKey, xy }) => {
      if (first) {
        const state = hands.begin(what as A, { shiftKey, clientX: xy[0], clientY: xy[1] });
        if (state === undefined) return void (held.current = undefined);
        const holding: Holding<S, Hands<A, S>> = { state, cancelled: false, moved: false, hands };
        held.current = holding;
        beginGesture();
        const onKey = (key: KeyboardEvent) => {
          if (key.key !== 'Escape' || holding.cancelled) return;
          key.preventDefault();
          key.stopPropagation();
          holding.cancelled = true;
          cancelGesture();
          hands.end?.(state, { cancelled: true, clicked: false });
        };
        window.addEventListener('keydown', onKey, true);
        stopListening.current = () => window.removeEventListener('keydown', onKey, true);
        (event.currentTarget as HTMLElement | null)?.focus?.({ preventScroll: true });
      }
      const holding = held.current;
      if (!holding) return;
      if (!holding.cancelled && (dx !== 0 || dy !== 0 || holding.moved)) {
        holding.moved = true;
        holding.hands.move(holding.state, { dx, dy, free: altKey });
      }
      if (!last) return;
      stopListening.current();
      held.current = undefined;
      if (holding.cancelled) return;
      endGesture();
      holding.hands.end?.(holding.state, { cancelled: false, clicked: !holding.moved });
    },
    { pointer: { keys: false } },
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
