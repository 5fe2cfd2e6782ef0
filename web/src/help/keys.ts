/** Every key of the bench with its words: the one list that binds them and that the help sheet shows. */
export const KEYS = {
  play: { keys: 'space', shows: 'Space', words: 'Play or stop' },
  forward: { keys: 'l', shows: 'L', words: 'Play forward; again: faster' },
  stop: { keys: 'k', shows: 'K', words: 'Stop' },
  backward: { keys: 'j', shows: 'J', words: 'Play backward; again: faster' },
  previous: { keys: 'left', shows: '←', words: 'One frame back' },
  next: { keys: 'right', shows: '→', words: 'One frame on' },
  previousTen: { keys: 'shift+left', shows: 'Shift ←', words: 'Ten frames back' },
  nextTen: { keys: 'shift+right', shows: 'Shift →', words: 'Ten frames on' },
  first: { keys: 'home', shows: 'Home', words: 'To the first frame' },
  last: { keys: 'end', shows: 'End', words: 'To the last frame' },
  spanIn: { keys: 'i', shows: 'I', words: 'The span begins at the frame shown' },
  spanOut: { keys: 'o', shows: 'O', words: 'The span ends after the frame shown' },
  mark: { keys: 'm', shows: 'M', words: 'Mark the frame shown' },
  hold: { keys: 'h', shows: 'H', words: 'Hold the frame shown' },
  still: { keys: 'p', shows: 'P', words: 'Save the frame shown as a PNG' },
  swap: { keys: 's', shows: 'S', words: 'Look at the source, or at the result' },
  loops: { keys: 'r', shows: 'R', words: 'Repeat playing, on or off' },
  stats: { keys: 'shift+l', shows: 'Shift L', words: 'Late frames and memory, shown or hidden' },
  undo: { keys: 'mod+z', shows: 'Ctrl Z', words: 'Undo' },
  redo: { keys: 'mod+shift+z, mod+y', shows: 'Ctrl Shift Z', words: 'Redo' },
  render: { keys: 'mod+enter', shows: 'Ctrl Enter', words: 'Go to Render' },
  help: { keys: 'shift+slash', shows: '?', words: 'This list' },
} as const;

/** What else the hands can do, for the help sheet. */
export const HANDS: readonly (readonly [string, string])[] = [
  ['Drag a span edge', 'Move where it begins or ends; arrows when it has the focus'],
  ['Drag the bar over the span', 'Move the span whole'],
  ['Drag on the source strip', 'Scrub the clip'],
  ['Wheel on the source strip', 'Zoom; with Shift, pan'],
  ['Drag on the result strip', 'Scrub the result'],
  ['Drag the end of a segment', 'Make it longer or shorter; its speed follows'],
  ['Arrow up and down in a value', 'Step it; with Shift, by ten'],
  ['Type into a length', '60 f, 2 s, 500 ms or 00:00:02:00'],
  ['Type into a speed', '200, 200 % or 2x'],
];
