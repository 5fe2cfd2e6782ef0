import { type Pressed, chordsOf } from './chord';

const pressed = (key: string, code: string, held: string = ''): Pressed => ({
  key,
  code,
  ctrlKey: held.includes('ctrl'),
  metaKey: held.includes('meta'),
  altKey: held.includes('alt'),
  shiftKey: held.includes('shift'),
  getModifierState: (which) => which === 'AltGraph' && held.includes('altgr'),
});

it.each([
  ['US', pressed('z', 'KeyZ', 'ctrl'), ['mod+z']],
  ['QWERTZ undo', pressed('z', 'KeyY', 'ctrl'), ['mod+z']],
  ['QWERTZ redo', pressed('y', 'KeyZ', 'ctrl'), ['mod+y']],
  ['QWERTZ help', pressed('?', 'Minus', 'shift'), ['?']],
  ['AZERTY A', pressed('a', 'KeyQ'), ['a']],
  ['AZERTY M', pressed('m', 'Semicolon'), ['m']],
  ['AZERTY 1, with Shift', pressed('1', 'Digit1', 'shift'), ['1', '1']],
  ['AZERTY 1, without', pressed('&', 'Digit1'), ['&', '1']],
  ['Cyrillic undo', pressed('я', 'KeyZ', 'ctrl'), ['mod+z']],
  ['Cyrillic H', pressed('р', 'KeyH'), ['h']],
  ['Greek, with Shift', pressed('Η', 'KeyH', 'shift'), ['shift+h']],
  ['capital', pressed('H', 'KeyH', 'shift'), ['shift+h']],
  ['Caps Lock', pressed('H', 'KeyH'), ['h']],
  ['space', pressed(' ', 'Space'), ['space']],
  ['arrows', pressed('ArrowLeft', 'ArrowLeft', 'shift'), ['shift+left']],
  ['plus', pressed('+', 'Equal', 'shift'), ['+']],
  ['QWERTZ plus', pressed('+', 'BracketRight'), ['+']],
  ['written with AltGr', pressed('@', 'KeyQ', 'ctrl alt altgr'), []],
  ['the system’s own', pressed('z', 'KeyZ', 'meta'), []],
])('%s', (_, event, chords) => {
  expect(chordsOf(event, false)).toEqual(chords);
});

it('Cmd is Ctrl on a Mac', () => {
  expect(chordsOf(pressed('z', 'KeyZ', 'meta'), true)).toEqual(['mod+z']);
  expect(chordsOf(pressed('z', 'KeyZ', 'ctrl'), true)).toEqual([]);
});
