/** Keys that take the focus from one thing to another. */
const GOES = /^(Tab|Arrow\w+|Home|End|PageUp|PageDown)$/;

/** What was gone to by keyboard, not by a press of the pointer. What gets the focus back is as it was: a button whose sheet closed. */
const goneTo = new WeakSet<EventTarget>();
let last: 'pointer' | 'going' | 'other' = 'other';

if (typeof document !== 'undefined') {
  const capture = { capture: true };
  document.addEventListener('pointerdown', () => (last = 'pointer'), capture);
  document.addEventListener('keydown', ({ key }) => (last = GOES.test(key) ? 'going' : 'other'), capture);
  document.addEventListener(
    'focusin',
    ({ target }) => {
      if (last === 'pointer') goneTo.delete(target!);
      else if (last === 'going') goneTo.add(target!);
    },
    capture,
  );
}

/** Whether it was keys that were used last, not the pointer. */
export const byKeys = (): boolean => last !== 'pointer';

/** Whether the focus just went somewhere by keys. */
export const wentByKeys = (): boolean => last === 'going';

const BUTTONS =
  'button, a[href], summary, [role="button"], [role="tab"], [role="switch"], input[type="checkbox"], input[type="radio"]';

/** Whether Space and Enter are this element's own: a button that was gone to by keyboard. */
export const pressesItself = (target: EventTarget | null): boolean =>
  target instanceof Element && goneTo.has(target) && target.closest(BUTTONS) !== null;

/** Whether keys are typed into this element, or choose in it. */
export function takesKeys(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target.isContentEditable) return true;
  if (target instanceof HTMLInputElement) return !/^(checkbox|radio|button|submit)$/.test(target.type);
  if (target instanceof HTMLTextAreaElement || target instanceof HTMLSelectElement) return true;
  return /^(textbox|searchbox|combobox|spinbutton|option|menuitem|menuitemcheckbox|menuitemradio)$/.test(
    target.getAttribute('role') ?? '',
  );
}

/** What is open over the view; not one that was closed and is yet to be drawn gone. */
const OPEN = '.MuiModal-root:not([aria-hidden="true"])';
const SILENCING = ['[role="dialog"]:not([data-sheet])', '[role="menu"]', '[role="listbox"]']
  .map((lies) => `${OPEN} ${lies}`)
  .join(', ');

/** What lies over the view: a dialog or a menu, which silences its keys, or a sheet, which leaves a few. */
export function over(): 'dialog' | 'sheet' | undefined {
  if (document.querySelector(SILENCING)) return 'dialog';
  return document.querySelector(OPEN) ? 'sheet' : undefined;
}
