import { useEffect, useRef } from 'react';
import type { HandRecording } from './use-recording';

/** Frames a second that a held arrow turns the wheel by. */
const KEY_SPEED = 45;
/** The gesture ends when nothing turned for this long, milliseconds. */
export const REST_MS = 700;

/** Arrows turn the wheel while they are held; Escape closes; letting go of a held G closes after a gesture. */
export function useArrowWheel(hand: HandRecording, onClose: () => void): void {
  const now = useRef({ hand, onClose });
  useEffect(() => void (now.current = { hand, onClose }));
  useEffect(() => {
    let request = 0;
    let idle = 0;
    let last = 0;
    let way = 0;
    // What the held arrow turned up to an instant, also where no picture was drawn for a while.
    const turnTo = (at: number) => {
      if (at > last) now.current.hand.turn((way * KEY_SPEED * (at - last)) / 1000, at);
      last = idle = Math.max(last, at);
    };
    const step = (at: number) => {
      if (way !== 0) {
        turnTo(at);
      } else if (at - idle > REST_MS) {
        request = 0;
        return now.current.hand.finish(true);
      }
      request = requestAnimationFrame(step);
    };
    const onKey = (event: KeyboardEvent) => {
      if (event.key === 'Escape' && event.type === 'keydown') {
        now.current.hand.forget();
        event.stopPropagation();
        return now.current.onClose();
      }
      if (event.key.toLowerCase() === 'g' && event.type === 'keyup') {
        if (now.current.hand.live) now.current.hand.finish();
        if (now.current.hand.live || now.current.hand.kept > 0) now.current.onClose();
        return;
      }
      const pressed = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
      const field = (event.target as Element).matches?.('input:not([type=checkbox]), select');
      if (pressed === undefined || field) return;
      event.preventDefault();
      event.stopPropagation();
      if (event.type === 'keyup') {
        if (way === pressed) {
          turnTo(event.timeStamp);
          way = 0;
        }
        return;
      }
      if (event.repeat) return;
      if (way !== 0) turnTo(event.timeStamp);
      way = pressed;
      last = idle = event.timeStamp;
      if (!now.current.hand.live) now.current.hand.begin();
      if (request === 0) request = requestAnimationFrame(step);
    };
    window.addEventListener('keydown', onKey, true);
    window.addEventListener('keyup', onKey, true);
    return () => {
      cancelAnimationFrame(request);
      window.removeEventListener('keydown', onKey, true);
      window.removeEventListener('keyup', onKey, true);
    };
  }, []);
}
