/** Whether what has the focus got it by the keyboard (Tab, arrows) and not by a press of the pointer. */
let byKeyboard = false;
let pointed = false;

if (typeof document !== 'undefined') {
  document.addEventListener('pointerdown', () => (pointed = true), true);
  document.addEventListener('keydown', () => (pointed = false), true);
  document.addEventListener('focusin', () => (byKeyboard = !pointed), true);
}

const BUTTONS =
  'button, a[href], summary, [role="button"], [role="tab"], [role="switch"], input[type="checkbox"], input[type="radio"]';

/** Whether Space and Enter are this element's own: a button that was gone to by keyboard. */
export const pressesItself = (target: EventTarget | null): boolean =>
  byKeyboard && target instanceof Element && target.closest(BUTTONS) !== null;

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

/** What lies over the view: a dialog or a menu, which silences its keys, or a sheet, which leaves a few. */
export function over(): 'dialog' | 'sheet' | undefined {
  if (
    document.querySelector(
      '.MuiModal-root [role="dialog"], .MuiModal-root [role="menu"], .MuiModal-root [role="listbox"]',
    )
  )
    return 'dialog';
  return document.querySelector('.MuiModal-root') ? 'sheet' : undefined;
}
