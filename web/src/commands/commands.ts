/** What commands are about, in the order they are listed in. */
export const GROUPS = [
  'Play',
  'Playhead',
  'Edit',
  'Piece',
  'Weave',
  'Picture',
  'Beats',
  'Render',
  'Project',
] as const;

export interface Command {
  readonly group: (typeof GROUPS)[number];
  /** What it does, for lists, tooltips and menus. */
  readonly words: string;
  /** The keys it has at first, as `chordsOf` calls them, separated by commas; empty without one. */
  readonly keys: string;
  /** What else it is called. */
  readonly also?: string;
}

/**
 * Everything that can be done with a key or a button of a view: the one list that keys, buttons, tooltips and the help
 * read. What a command does, and whether it can be done now, is said by the view that is open (`useCommands`).
 */
export const COMMANDS = {
  play: { group: 'Play', words: 'Play or stop', keys: 'space' },
  forward: { group: 'Play', words: 'Play forward; again: faster', keys: 'l' },
  stop: { group: 'Play', words: 'Stop', keys: 'k' },
  backward: { group: 'Play', words: 'Play backward; again: faster', keys: 'j' },
  half: { group: 'Play', words: 'Half speed, or full speed again', keys: 'shift+space', also: 'slow' },
  loops: { group: 'Play', words: 'Repeat playing, on or off', keys: 'r', also: 'loop' },
  near: {
    group: 'Play',
    words: 'Loop the selection',
    keys: 'n',
    also: 'loop selection',
  },
  bar: { group: 'Play', words: 'Loop the bar of the song under the playhead, or play all again', keys: 'b' },
  fourBars: { group: 'Play', words: 'Loop four bars of the song', keys: 'shift+b' },
  mute: { group: 'Play', words: 'Sound on or off', keys: 'u' },
  ownSound: {
    group: 'Play',
    words: 'The clips’ own sound, on or off',
    keys: 'shift+u',
    also: 'audio, original sound',
  },
  hand: { group: 'Play', words: 'Play by hand', keys: 'g', also: 'scratch, jog, scrub' },
  previous: { group: 'Playhead', words: 'One frame back', keys: 'left' },
  next: { group: 'Playhead', words: 'One frame on', keys: 'right' },
  previousTen: { group: 'Playhead', words: 'Ten frames back', keys: 'shift+left' },
  nextTen: { group: 'Playhead', words: 'Ten frames on', keys: 'shift+right' },
  first: { group: 'Playhead', words: 'To the first frame', keys: 'home' },
  last: { group: 'Playhead', words: 'To the last frame', keys: 'end' },
  swap: {
    group: 'Playhead',
    words: 'Look at the source, or at the result',
    keys: 's',
    also: 'preview',
  },
  undo: { group: 'Edit', words: 'Undo', keys: 'mod+z' },
  redo: { group: 'Edit', words: 'Redo', keys: 'mod+shift+z, mod+y' },
  find: { group: 'Project', words: 'Find a move, a look, a command', keys: 'mod+k' },
  column: { group: 'Weave', words: 'The column about the piece, shown or hidden', keys: 'c' },
  history: { group: 'Edit', words: 'History in pictures', keys: 'shift+h', also: 'undo history, snapshots' },
  flip: { group: 'Edit', words: 'Flip between versions A and B', keys: 'x' },
  wholeClip: { group: 'Edit', words: 'The span is the whole clip', keys: 'shift+i' },
  spanIn: { group: 'Edit', words: 'The span begins at the frame shown', keys: 'i', also: 'in point' },
  spanOut: { group: 'Edit', words: 'The span ends after the frame shown', keys: 'o', also: 'out point' },
  mark: { group: 'Edit', words: 'Mark the frame shown', keys: 'm', also: 'marker' },
  hold: { group: 'Edit', words: 'Hold the frame shown', keys: 'h', also: 'freeze frame' },
  track: {
    group: 'Edit',
    words: 'Track a point of the clip: click it on the picture',
    keys: 't',
    also: 'motion tracking, stabilise',
  },
  variations: {
    group: 'Edit',
    words: 'Variations of the selected move or look',
    keys: 'v',
    also: 'alternatives, random',
  },
  offer: { group: 'Edit', words: 'Offer moves, looks, or recipes', keys: 'a' },
  removeSelected: {
    group: 'Edit',
    words: 'Remove the selected move or look',
    keys: 'delete, backspace',
    also: 'delete',
  },
  saveRecipe: { group: 'Edit', words: 'Save the piece as a recipe', keys: 'shift+s' },
  accept: { group: 'Edit', words: 'Accept the region or place edited on the picture', keys: 'enter' },
  deselect: {
    group: 'Edit',
    words: 'Leave what is edited on the picture, or the grey; select no segment; while dragging: put it back',
    keys: 'escape',
  },
  split: { group: 'Piece', words: 'Split the piece at the playhead', keys: '', also: 'cut' },
  duplicate: { group: 'Piece', words: 'Duplicate the piece', keys: '', also: 'copy' },
  earlier: { group: 'Piece', words: 'The piece earlier in the result', keys: '' },
  later: { group: 'Piece', words: 'The piece later in the result', keys: '' },
  removePiece: { group: 'Piece', words: 'Remove the piece', keys: '', also: 'delete' },
  threads: { group: 'Weave', words: 'The weave as threads', keys: '1' },
  curve: { group: 'Weave', words: 'The weave as a graph of time', keys: '2' },
  speed: { group: 'Weave', words: 'The weave as speeds', keys: '3' },
  grid: { group: 'Weave', words: 'The weave as the grid of a Pattern', keys: '4' },
  closer: { group: 'Weave', words: 'Result closer', keys: '=' },
  wider: { group: 'Weave', words: 'Result wider', keys: '-' },
  sourceCloser: { group: 'Weave', words: 'Source closer', keys: '+' },
  sourceWider: { group: 'Weave', words: 'Source wider', keys: '_' },
  fit: { group: 'Weave', words: 'Zoom to all', keys: '0', also: 'zoom to fit' },
  around: { group: 'Weave', words: 'The source strip around the span, or whole', keys: 'z' },
  follow: {
    group: 'Weave',
    words: 'Follow the playhead',
    keys: 'f',
    also: 'scroll with the playhead',
  },
  nextSegment: { group: 'Weave', words: 'Select the next segment', keys: '.' },
  previousSegment: { group: 'Weave', words: 'Select the segment before', keys: ',' },
  still: {
    group: 'Picture',
    words: 'Save the frame shown as a PNG',
    keys: 'p',
    also: 'export frame, screenshot, snapshot',
  },
  grey: { group: 'Picture', words: 'See where the selected look applies, as grey, or leave that', keys: 'w' },
  safeAreas: {
    group: 'Picture',
    words: 'Safe areas over the picture, shown or hidden',
    keys: 'shift+p',
    also: 'title safe, guides, overlays',
  },
  stats: { group: 'Picture', words: 'Late frames and memory, shown or hidden', keys: 'shift+l' },
  tap: { group: 'Beats', words: 'Tap the beat, while the song plays', keys: 't' },
  nextBeat: { group: 'Beats', words: 'Choose the next beat', keys: '.' },
  previousBeat: { group: 'Beats', words: 'Choose the beat before', keys: ',' },
  addBeat: { group: 'Beats', words: 'Add a beat at the playhead', keys: 'insert, +' },
  removeBeat: { group: 'Beats', words: 'Remove the chosen beat or accent', keys: 'delete, backspace' },
  addAccent: { group: 'Beats', words: 'Add an accent at the playhead', keys: 'a' },
  nextAccent: { group: 'Beats', words: 'Choose the next accent', keys: 'n' },
  previousAccent: { group: 'Beats', words: 'Choose the accent before', keys: 'shift+n' },
  stronger: { group: 'Beats', words: 'Make the chosen accent stronger', keys: 'up' },
  weaker: { group: 'Beats', words: 'Make the chosen accent weaker', keys: 'down' },
  giveToKicks: { group: 'Beats', words: 'Give the chosen accent to the kicks', keys: 'k' },
  giveToSnares: { group: 'Beats', words: 'Give the chosen accent to the snares', keys: 's' },
  giveToHats: { group: 'Beats', words: 'Give the chosen accent to the hats', keys: 'h' },
  click: { group: 'Beats', words: 'Click on the beats, or not', keys: 'c' },
  render: { group: 'Project', words: 'Go to Render', keys: 'mod+enter', also: 'export' },
  help: { group: 'Project', words: 'Shortcuts', keys: '?', also: 'shortcuts, keyboard' },
  toWeave: { group: 'Project', words: 'Go to the weave', keys: '' },
  toBeats: { group: 'Project', words: 'Go to Beats', keys: '' },
  makeFile: { group: 'Render', words: 'Render the file', keys: 'mod+enter', also: 'export' },
  queueFile: { group: 'Render', words: 'Add the file to the queue', keys: '' },
  import: { group: 'Project', words: 'Import files', keys: '', also: 'add media' },
  saveFile: {
    group: 'Project',
    words: 'Save the project with its clips as one file',
    keys: '',
    also: 'export project, archive, backup',
  },
  toShelf: { group: 'Project', words: 'Go to the shelf', keys: '' },
} as const satisfies Record<string, Command>;

export type CommandId = keyof typeof COMMANDS;
export const COMMAND_IDS = Object.keys(COMMANDS) as CommandId[];

/** What else the hands can do, for the help sheet. */
export const HANDS: readonly (readonly [string, string])[] = [
  ['Drag a span edge', 'Move where it begins or ends; arrows when it has the focus'],
  ['Drag the bar over the span', 'Move the span whole'],
  ['Drag on the source strip', 'Scrub the clip'],
  ['Wheel or pinch over a strip', 'Zoom it; with Shift, pan'],
  ['Point at anything in the weave', 'The picture shows that frame, threads show where else it is'],
  ['Drag a mark', 'Move it; Alt and arrows when it has the focus'],
  [
    'Drag what is edited on the picture',
    'A track, a region or where a look lies; arrows when it has the focus, with Shift by ten; Enter follows a corrected track, and accepts all else',
  ],
  ['Delete or + on a corner', 'Remove a corner of a polygon, or add one after it'],
  ['Drag on the result strip', 'Scrub the result'],
  [
    'Drag the end of a segment',
    'Make it longer or shorter, and every copy of it: the value of the move that made it changes; with Alt this one alone',
  ],
  [
    'Drag a pin on the result strip or in a look’s lane',
    'Where the selected move or look happens, begins, ends: drawn onto a mark or a beat it stays there; Alt keeps plain frames',
  ],
  ['Drag an accent on Beats', 'Up and down for its strength; double-click in its row for another'],
  [
    'Drag the mark on a join aside',
    'A dissolve, the farther the longer; arrows when it has the focus, Delete cuts',
  ],
  ['Double-click on the curve', 'A new point; drag, arrows, Delete, Ctrl C and Ctrl V work on points'],
  ['Double-click on the speed', 'Another change of speed there; pull stretches up and down'],
  ['Point at the card of a look or a recipe', 'The picture shows it; click to keep it'],
  ['Drag a key of a driver in its lane', 'Sooner or later, more or less; arrows and Delete work too'],
  ['Click a look’s name in its lane', 'Its values open; click where it applies to change that'],
  ['Drag the song', 'Slide it under the cut; its beats snap to joins, marks and the playhead'],
  ['Drag a placed sound, or its end', 'Move it, or make it longer; click it for its values'],
  ['Drag an end of the looped bars', 'From bar to bar; with Alt from beat to beat'],
  ['Alt while dragging', 'No snapping'],
  ['F, B, H, X in the step grid', 'Paint forward, back, hold, off; Enter paints with the brush'],
  ['Arrow up and down in a value', 'Step it; with Shift, by ten'],
  ['Type into a length', '60 f, 2 s, 500 ms or 00:00:02:00'],
  ['Type into a speed', '200, 200 % or 2x'],
];
