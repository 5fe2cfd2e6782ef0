/**
 * Writes the demo projects cut to *Lamplighter*: thirty seconds of it in which every piece is a rule that listens to
 * the song, eighteen in which the picture does too, by its looks, some made of several frames each, and some that know where something is. Beats are those the
 * song was made with; accents are found from its sound. `npm run demo:cut`; needs Debian's ffmpeg.
 */
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { analyse } from '@skipback/core/beats/analyse';
import { DEFAULT_ENVELOPES } from '@skipback/core/beats/envelope';
import { musicFrom } from '@skipback/core/beats/music';
import type { FrameTable } from '@skipback/core/clip/frame-table';
import { flashingIn } from '@skipback/core/looks/flashing';
import { type Look, LookSchema } from '@skipback/core/looks/look';
import { looksOfPiece } from '@skipback/core/looks/resolve';
import { recipesOf } from '@skipback/core/looks/recipes';
import { moveById } from '@skipback/core/moves/registry';
import { newProject } from '@skipback/core/project/new-project';
import { compilePiece, compileProject, projectMusic } from '@skipback/core/project/compile';
import { type Clip, DEFAULT_MADE, type Piece, type Project, pieceOf } from '@skipback/core/project/schema';
import { RegionSchema } from '@skipback/core/regions/region';
import { SteadySchema } from '@skipback/core/steady/steady';
import { rational } from '@skipback/core/time/rational';
import { followed } from './follow';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
const BPM = 108;
const LENGTH_S = 77.57;

const raw = execFileSync(
  'ffmpeg',
  [
    '-loglevel',
    'error',
    '-i',
    here('../media/lamplighter.ogg'),
    '-ac',
    '1',
    '-ar',
    '24000',
    '-f',
    'f32le',
    '-',
  ],
  { maxBuffer: 64 << 20 },
);
const mono = new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.length));
const { accents } = analyse(mono, 24_000);

const table = (num: number, den: number, count: number): FrameTable => ({
  kind: 'constant',
  rate: rational(num, den),
  count,
});
const TABLES: Record<string, FrameTable> = {
  drummer: table(60, 1, 300),
  pinwheels: table(30, 1, 150),
  tea: table(120, 1, 360),
  lantern: table(30_000, 1001, 120),
  tram: table(30, 1, 180),
  runner: table(30, 1, 90),
};
const clip = (id: string, file: string, marks: [string, number][]): Clip => ({
  id,
  mediaId: file,
  name: file,
  marks: marks.map(([name, frame]) => ({ id: name, name, frame })),
  readAt: null,
  tracks: [],
  framing: 'fit',
});
const clips = [
  clip('drummer', 'drummer.mp4', [
    ['left hand', 72],
    ['right hand', 144],
    ['both', 216],
  ]),
  clip('pinwheels', 'pinwheels.webm', [['whip', 67]]),
  clip('tea', 'tea.mp4', [['touches', 168]]),
  clip('lantern', 'lantern.mp4', [
    ['throw', 27],
    ['catch', 87],
  ]),
  clip('tram', 'tram.webm', []),
];

let steps = 0;
const step = (move: string, values: object = {}) => ({
  id: `s${++steps}`,
  move,
  on: true,
  values: { ...moveById(move)!.defaults, ...values } as Record<string, unknown>,
});
/** Brings a piece to so many beats, to the frame. */
const fit = (beats: number) => step('fit', { length: { beats }, by: 'repeats' });
const pieces: Piece[] = [
  ['tea', 60, 330, [step('speed', { percent: 30 }), fit(8)]],
  ['lantern', 0, 118, [step('land', { mark: 87, beat: 4, before: 70, after: 45 }), fit(8)]],
  ['drummer', 100, 260, [step('land', { mark: 144, beat: 2, before: 60, after: 40 }), fit(4)]],
  ['drummer', 112, 162, [step('boomerang', { trips: 3, backPercent: 200 }), fit(8)]],
  [
    'pinwheels',
    0,
    150,
    [step('boomerang', { trips: 1 }), step('surge', { rest: 40, peak: 500, fall: 7 }), fit(8)],
  ],
  [
    'tram',
    0,
    178,
    [step('speed', { percent: 40 }), step('push', { band: 'low', amount: 500, fall: 9, least: 35 }), fit(8)],
  ],
  [
    'pinwheels',
    40,
    100,
    [
      step('pattern', {
        slices: 6,
        length: { beats: 0.5 },
        steps: '1> 1< 1> 2> 2< 2> 3= 3> 4> 4< 5> 5< 6> 6< 6= .'.split(' ').map((word) => {
          const ways = { '>': 'forward', '<': 'backward', '=': 'hold' } as const;
          return word === '.'
            ? { slice: 1, way: 'off' }
            : { slice: Number(word[0]), way: ways[word[1] as keyof typeof ways] };
        }),
      }),
      fit(8),
    ],
  ],
  [
    'drummer',
    60,
    240,
    [step('bounce', { instants: [144, 72, 144, 216], leg: 16, soft: 80, on: 'every' }), fit(2)],
  ],
].map(([clipId, first, end, chain], i) =>
  pieceOf({
    id: `p${i + 1}`,
    clipId: clipId as string,
    span: { in: first as number, out: end as number },
    chain: chain as Piece['chain'],
  }),
);

const project: Project = {
  ...newProject('demo-music', 'Lamplighter, thirty seconds', 0),
  clips,
  pieces,
  song: {
    mediaId: 'lamplighter.ogg',
    name: 'lamplighter.ogg',
    lengthS: LENGTH_S,
    startFrame: 0,
    fromS: 0,
    gainDb: 0,
    grid: {
      beats: Array.from({ length: 139 }, (_, i) => Number(((i * 60) / BPM).toFixed(5))),
      firstBar: 0,
      beatsPerBar: 4,
    },
    accents: [...accents],
    accentsGone: [],
    likely: null,
    barsLikely: null,
    second: null,
    envelopes: DEFAULT_ENVELOPES,
  },
  // A climb into the surges, and a swell that ends where the frantic pattern begins.
  placed: [
    { id: 'climb', kind: 'riser', on: true, with: 'song', at: 400, frames: 67, gainDb: -12 },
    { id: 'into-the-break', kind: 'swell', on: true, with: 'song', at: 683, frames: 50, gainDb: -10 },
  ],
  made: {
    ...DEFAULT_MADE,
    whoosh: { on: true, gainDb: -14 },
    scratch: { on: true, gainDb: -16 },
    thump: { on: true, gainDb: -15 },
  },
};

const SIZES = { picture: { width: 1280, height: 720 }, frame: { width: 1280, height: 720 } };
/** Rows of numbers that stand on many lines. */
const NUMBERS = /\[\s+(-?[\d.]+(?:,\s+-?[\d.]+)*)\s+\]/g;

/** Works a project out, says what there is to say of its pieces and looks, and writes it. */
function write(project: Project, file: string): void {
  const music = projectMusic(project);
  const compiled = compileProject(project, (piece, c, start) =>
    compilePiece(piece, c, TABLES[c.id]!, project.rate, music && musicFrom(music, start), SIZES),
  );
  for (const { startFrame, compiled: p } of compiled.pieces) {
    const looks = looksOfPiece(p, false).results;
    const said = [...p.steps, ...looks].flatMap((s) => s.notices.map((n) => `${n.level}: ${n.text}`));
    console.log(`${p.clip.id} at ${startFrame}, ${p.shown.length} frames. ${said.join(' ')}`);
  }
  const { recipes, ofResult } = recipesOf(compiled, project.looks, music);
  const said = ofResult.flatMap((l) => l.notices.map((n) => n.text));
  console.log(`${compiled.totalFrames} frames, ${recipes.stacks.length - 1} recipes. ${said.join(' ')}`);
  const flashing = flashingIn(recipes, 30);
  if (flashing) console.log(`flashes ${flashing.flashes} times within a second at ${flashing.atFrame}`);
  const text = JSON.stringify(project, null, 1).replace(
    NUMBERS,
    (_, row: string) => `[${row.replace(/\s+/g, ' ')}]`,
  );
  writeFileSync(here(`../projects/${file}`), `${text}\n`);
}

write(project, 'thirty-seconds.json');

let looks = 0;
const look = (id: string, values: object, scope: object = {}, more: object = {}): Look =>
  LookSchema.parse({ id: `l${++looks}`, look: id, values, scope, ...more });
const on = (kind: string, values: object) => ({ all: [{ kind, ...values }] });
const piece = (id: string, clipId: string, span: Piece['span'], chain: Piece['chain'], own: Look[]): Piece =>
  pieceOf({ id, clipId, span, chain, looks: own });

write(
  {
    ...project,
    id: 'demo-looks',
    name: 'Lamplighter, looks',
    pieces: [
      // The way back falls apart in colour; every kick shakes it.
      piece(
        'q1',
        'drummer',
        { in: 112, out: 162 },
        [step('boomerang', { trips: 3, backPercent: 200 }), fit(8)],
        [
          look(
            'split',
            { redX: { kind: 'random', rest: 16, within: 14, every: 3, seed: 4 }, blueX: -16, turn: 1.5 },
            { ...on('way', { way: 'backward' }), fadeIn: 3, fadeOut: 3 },
          ),
          look('shake', { amount: 20, fall: 10 }, on('accents', { band: 'low', before: 0, after: 11 })),
        ],
      ),
      // Slow parts glow with the kick; the outline wanders off the cups and comes home.
      piece(
        'q2',
        'tea',
        { in: 60, out: 330 },
        [step('speed', { percent: 30 }), fit(8)],
        [
          look('grade', { contrast: 125, warmth: -22, saturation: 80 }),
          look(
            'outline',
            {
              gain: { kind: 'pulse', rest: 1.2, depth: 5, on: 'low', hold: 2, fall: 10 },
              soft: 5,
              colour: '#ffb35c',
              laid: 'screen',
              zoom: {
                kind: 'keys',
                keys: [
                  { at: 0, value: 100 },
                  { at: 60, value: 118, ease: 'both' },
                  { at: 132, value: 100 },
                ],
              },
              x: { kind: 'random', rest: 0, within: 60, every: 22 },
            },
            on('slower', { percent: 60 }),
          ),
        ],
      ),
      // As fast as it runs, so far it is blurred; every beat comes closer.
      piece(
        'q3',
        'pinwheels',
        { in: 0, out: 150 },
        [step('boomerang', { trips: 1 }), step('surge', { rest: 40, peak: 500, fall: 7 }), fit(8)],
        [
          look('blur', {
            kind: 'zoom',
            amount: { kind: 'speed', fromPercent: 100, from: 0, toPercent: 500, to: 14 },
          }),
          look('punch', { zoom: { kind: 'pulse', rest: 100, depth: 14, on: 'beats', fall: 8 } }),
        ],
      ),
      // Thrown and caught: the negative flashes at the turn.
      piece(
        'q4',
        'lantern',
        { in: 20, out: 80 },
        [step('boomerang', { trips: 2, turn: 'twice' }), fit(8)],
        [
          look('flash', { kind: 'inverted', fall: 5 }, on('turns', { before: 0, after: 6 })),
          look('vignette', { amount: { kind: 'progress', from: 0, to: 90 }, colour: '#2a0d3a' }),
        ],
      ),
    ],
    song: { ...project.song!, fromS: Number(((16 * 60) / BPM).toFixed(5)) },
    placed: [],
    looks: [
      look('grade', { contrast: 116, saturation: 112 }),
      look('vignette', { amount: 55 }),
      look(
        'flash',
        { amount: 55, fall: 6 },
        on('beats', { of: 'bars', every: 2, from: 1, before: 0, after: 7 }),
      ),
    ],
  },
  'looks.json',
);

write(
  {
    ...project,
    id: 'demo-between',
    name: 'Lamplighter, in between',
    song: null,
    made: DEFAULT_MADE,
    placed: [],
    pieces: [
      // A pour eight times slower: what lies between frames is moved along the motion.
      pieceOf({
        ...{ id: 'b1', clipId: 'tea', span: { in: 150, out: 210 }, between: 'flow' },
        chain: [step('speed', { percent: 12.5 })],
      }),
      // A street held at seven pictures a second, each the mean of the fourteen around it; the pour runs into it.
      pieceOf({
        ...{ id: 'b2', clipId: 'tram', span: { in: 20, out: 140 }, chain: [], dissolve: 24 },
        looks: [look('smear', { back: 7, on: 6, rate: 7 }), look('grade', { contrast: 118 })],
      }),
      // The lantern flies with copies behind it, which leave one by one before the catch.
      pieceOf({
        ...{ id: 'b3', clipId: 'lantern', span: { in: 30, out: 87 }, between: 'flow' },
        chain: [step('speed', { percent: 60 })],
        looks: [
          look('trail', { copies: 5, spacing: 3, fade: 14, stagger: 6, dissolve: 4, blend: 'lighten' }),
        ],
      }),
      // Fast there and back, each picture as long as it lasts.
      pieceOf({
        ...{ id: 'b4', clipId: 'pinwheels', span: { in: 0, out: 150 }, shutter: 360 },
        chain: [step('speed', { percent: 400 }), step('boomerang', { trips: 2 })],
      }),
    ],
    looks: [],
  },
  'in-between.json',
);

/** Where the post stands in the runner's picture. */
const POST = { x: 724, width: 128 };

const media = (file: string) => here(`../media/${file}`);
const lamp = followed(media('lantern.mp4'), {
  ...{ kind: 'box', name: 'the lantern', frame: 60, x: 625, y: 180, width: 170, height: 190 },
});
const head = followed(media('drummer.mp4'), {
  ...{ kind: 'point', name: 'the head', frame: 144, x: 640, y: 160, width: 56, height: 56 },
});
const withTracks = project.clips.map((c) => ({
  ...c,
  tracks: c.id === 'lantern' ? [lamp] : c.id === 'drummer' ? [head] : [],
}));

write(
  {
    ...project,
    id: 'demo-held',
    name: 'Lamplighter, held and carried',
    clips: [...withTracks, clip('runner', 'runner.webm', [])],
    song: null,
    made: DEFAULT_MADE,
    placed: [],
    pieces: [
      // There and back the lantern stands still, and the pier swings.
      pieceOf({
        ...{ id: 'h1', clipId: 'lantern', span: { in: 38, out: 84 } },
        chain: [step('boomerang', { trips: 2 })],
        steady: SteadySchema.parse({ track: lamp.id, how: 'stays', turns: false }),
        looks: [
          look(
            'backdrop',
            { blur: 10, dark: 20, saturation: 60 },
            {},
            {
              region: RegionSchema.parse({
                shape: 'ellipse',
                keys: [{ at: 60, values: [625, 190, 260, 300, 0] }],
                feather: 120,
                carried: { track: lamp.id, from: 60, turns: false },
              }),
            },
          ),
        ],
      }),
      // Beside the drummer a copy of another colour at the strike, gone nine frames later.
      pieceOf({
        ...{ id: 'h2', clipId: 'drummer', span: { in: 112, out: 176 } },
        chain: [step('speed', { percent: 50 })],
        looks: [-1, 1].map((side) =>
          look(
            'tint',
            { colour: side < 0 ? '#4fb6d8' : '#ff7a4d', x: side * 230 },
            { ...on('mark', { name: 'right hand', before: 0, after: 10 }), fadeOut: 9 },
            {
              region: RegionSchema.parse({
                shape: 'ellipse',
                keys: [{ at: 144, values: [640, 260, 330, 460, 0] }],
                feather: 60,
                carried: { track: head.id, from: 144, turns: false },
              }),
            },
          ),
        ),
      }),
      // Spooled back: the tape shows it, and a sign says it.
      pieceOf({
        ...{ id: 'h3', clipId: 'pinwheels', span: { in: 0, out: 150 } },
        chain: [step('spool', { factor: 4, direction: 'backward', ease: 8 })],
        looks: [
          look('worn-tape', {}, on('faster', { percent: 150 })),
          look('sign', { size: 96 }, on('faster', { percent: 150 })),
        ],
      }),
      // The runner's light draws copies after itself; they pass behind the post, which a plate lays on top.
      pieceOf({
        ...{ id: 'h4', clipId: 'runner', span: { in: 8, out: 88 } },
        chain: [step('speed', { percent: 80 })],
        looks: [
          look('trail', { copies: 8, spacing: 5, fade: 8, blend: 'lighten', counts: 'clip' }),
          look(
            'plate',
            { frame: 0 },
            {},
            {
              region: RegionSchema.parse({
                shape: 'rectangle',
                keys: [{ at: 0, values: [POST.x, 360, POST.width, 760, 0] }],
                feather: 3,
              }),
            },
          ),
        ],
      }),
    ],
    looks: [],
  },
  'held.json',
);
