/**
 * Writes the demo project cut to the first thirty seconds of *Lamplighter*: every piece is a rule that listens
 * to the song. Beats are those the song was made with; accents are found from its sound. `npm run demo:cut`;
 * needs Debian's ffmpeg.
 */
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { analyse } from '@skipback/core/beats/analyse';
import { DEFAULT_ENVELOPES } from '@skipback/core/beats/envelope';
import { musicFrom } from '@skipback/core/beats/music';
import type { FrameTable } from '@skipback/core/clip/frame-table';
import { moveById } from '@skipback/core/moves/registry';
import { newProject } from '@skipback/core/project/new-project';
import { compilePiece, compileProject, projectMusic } from '@skipback/core/project/compile';
import { type Clip, DEFAULT_MADE, type Piece, type Project } from '@skipback/core/project/schema';
import { rational } from '@skipback/core/time/rational';

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
};
const clip = (id: string, file: string, marks: [string, number][]): Clip => ({
  id,
  mediaId: file,
  name: file,
  marks: marks.map(([name, frame]) => ({ id: name, name, frame })),
  readAt: null,
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
].map(([clipId, first, end, chain], i) => ({
  id: `p${i + 1}`,
  clipId: clipId as string,
  span: { in: first as number, out: end as number },
  chain: chain as Piece['chain'],
  looks: [],
}));

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

const music = projectMusic(project)!;
const compiled = compileProject(project, (piece, c, start) =>
  compilePiece(piece, c, TABLES[c.id]!, project.rate, musicFrom(music, start)),
);
for (const { startFrame, compiled: p } of compiled.pieces) {
  const said = p.steps.flatMap((s) => s.notices.map((n) => `${n.level}: ${n.text}`));
  console.log(`${p.clip.id} at ${startFrame}, ${p.shown.length} frames. ${said.join(' ')}`);
}
console.log(`${compiled.totalFrames} frames`);
writeFileSync(here('../projects/thirty-seconds.json'), `${JSON.stringify(project, null, 1)}\n`);
