/** So long without a press, and what comes next is another thing, milliseconds. */
export const REST_MS = 600;

/** Presses of these keys, one after the other on one value, are one thing. */
const STEPS = /^(Arrow\w+|PageUp|PageDown|Home|End|[+\-=_.,]|\d)$/;

interface Run {
  /** The same as long as one and the same thing is pressed, turned or typed at again and again. */
  readonly id: number;
  readonly on: EventTarget | null;
  readonly kind: string;
  readonly at: number;
}

let run: Run = { id: 0, on: null, kind: '', at: -Infinity };

/** Notes what a hand does: `on` what, what kind of thing, and when, milliseconds. What is not repeated has no kind. */
export function noteInput(on: EventTarget | null, kind: string | undefined, at: number): void {
  const goesOn = kind !== undefined && on === run.on && kind === run.kind && at - run.at < REST_MS;
  run = { id: goesOn ? run.id : run.id + 1, on, kind: kind ?? '', at };
}

/**
 * What is being stepped through right now: the same number for changes that belong together, since they come from keys
 * or a wheel on one value without a rest between them. Undefined where nothing of that kind is pressed.
 */
export const inputRun = (now: number): number | undefined =>
  run.kind !== '' && now - run.at < REST_MS ? run.id : undefined;

if (typeof window !== 'undefined') {
  const heard = { capture: true, passive: true };
  window.addEventListener(
    'keydown',
    ({ key, target, timeStamp }) => {
      if (/^(Shift|Alt|Control|Meta)$/.test(key)) return;
      noteInput(target, STEPS.test(key) ? 'keys' : undefined, timeStamp);
    },
    heard,
  );
  window.addEventListener('wheel', ({ target, timeStamp }) => noteInput(target, 'wheel', timeStamp), heard);
  window.addEventListener(
    'pointerdown',
    ({ target, timeStamp }) => noteInput(target, undefined, timeStamp),
    heard,
  );
}
