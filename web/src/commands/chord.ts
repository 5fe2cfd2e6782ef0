/** What of a keyboard event tells what was pressed. */
export type Pressed = Pick<
  KeyboardEvent,
  'key' | 'code' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey' | 'getModifierState'
>;

const isMac = () => typeof navigator !== 'undefined' && /mac/i.test(navigator.userAgent);

const NAMED: Readonly<Record<string, string>> = {
  ' ': 'space',
  ArrowLeft: 'left',
  ArrowRight: 'right',
  ArrowUp: 'up',
  ArrowDown: 'down',
};

/** The letter or digit that a place on the keyboard has where letters are Latin. */
const atPlace = (code: string): string | undefined => /^(?:Key|Digit)(.)$/.exec(code)?.[1]?.toLowerCase();

/**
 * What a press is called, most fitting name first: by the letter that it writes, wherever that lies on the keyboard;
 * where letters are not Latin, by the place. Signs are themselves, with or without Shift (`?`, `=`, `+`); a digit's key
 * is the digit, whichever level it lies on. Ctrl, or Cmd on a Mac, is `mod`.
 */
export function chordsOf(event: Pressed, mac = isMac()): string[] {
  const { key, code, ctrlKey, metaKey, altKey, shiftKey } = event;
  // With AltGr something is written.
  if (event.getModifierState?.('AltGraph')) return [];
  const mod = mac ? metaKey : ctrlKey;
  if (mac ? ctrlKey : metaKey) return [];
  const chord = (name: string, shift: boolean) =>
    `${mod ? 'mod+' : ''}${altKey ? 'alt+' : ''}${shift ? 'shift+' : ''}${name}`;
  const named = NAMED[key] ?? (key.length > 1 ? key.toLowerCase() : undefined);
  if (named !== undefined) return [chord(named, shiftKey)];
  const latin = /^[a-z]$/i.test(key) ? key.toLowerCase() : undefined;
  if (latin) return [chord(latin, shiftKey)];
  const place = atPlace(code);
  const letter = place !== undefined && /[a-z]/.test(place);
  // A letter of another script stands for the Latin one of its key.
  if (letter && /\p{L}/u.test(key)) return [chord(place, shiftKey)];
  const names = [chord(key, false)];
  if (place !== undefined && /\d/.test(place)) names.push(chord(place, false));
  return names;
}

/** Whether a chord is a character by itself, which someone who speaks to the machine may send without meaning it. */
export const isSingle = (chord: string): boolean => /^(shift\+)?.$/u.test(chord);

const SHOWN: Readonly<Record<string, string>> = {
  ...{ mod: 'Ctrl', alt: 'Alt', shift: 'Shift', space: 'Space', escape: 'Esc', enter: 'Enter' },
  ...{ left: '←', right: '→', up: '↑', down: '↓', home: 'Home', end: 'End', '-': '−' },
  ...{ delete: 'Delete', backspace: 'Backspace', insert: 'Insert', pageup: 'Page up', pagedown: 'Page down' },
};

/** A chord as it is written on keys: `Ctrl Shift Z`. */
export function showChord(chord: string, mac = isMac()): string {
  const parts = /\+$/.test(chord)
    ? [...chord.slice(0, -1).split('+').filter(Boolean), '+']
    : chord.split('+');
  return parts.map((part) => (mac && part === 'mod' ? 'Cmd' : (SHOWN[part] ?? part.toUpperCase()))).join(' ');
}
