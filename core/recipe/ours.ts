import { ANY_TRACK } from '../regions/on-track';
import { MOVE_GROUPS, type MoveGroup } from '../moves/move';
import { type Recipe, RECIPE_VERSION, RecipeSchema } from './recipe';

/** Ours are written for two seconds of a clip of 30 frames a second. */
const MADE_ON = { span: { in: 0, out: 60 }, clipHz: 30, picture: { width: 1280, height: 720 }, frames: 60 };

interface Written {
  readonly name: string;
  readonly group: MoveGroup;
  readonly says: string;
  readonly chain: readonly Step[];
  readonly looks?: readonly LookGiven[];
  readonly unheard?: { readonly chain: readonly Step[]; readonly looks?: readonly LookGiven[] };
  readonly between?: Recipe['between'];
  readonly shutter?: number | object;
  readonly steady?: object;
  readonly sounds?: Recipe['sounds'];
}
type Step = { readonly move: string; readonly values: object };
type LookGiven = { readonly look: string } & Record<string, unknown>;

const share = (of: number) => ({ share: of });
const beats = (count: number) => ({ beats: count });
const numbered = (looks: readonly LookGiven[] = []) => looks.map((l, i) => ({ id: `${i + 1}`, ...l }));
const chained = (chain: readonly Step[]) => chain.map((step) => ({ incoming: 60, ...step }));

/** A recipe of ours, and what it is for among the cards. */
export interface OurRecipe {
  readonly group: MoveGroup;
  readonly recipe: Recipe;
}

const written = ({ group, ...given }: Written): OurRecipe => ({
  group,
  recipe: RecipeSchema.parse({
    format: 'skip-back-recipe',
    version: RECIPE_VERSION,
    madeOn: MADE_ON,
    ...given,
    chain: chained(given.chain),
    looks: numbered(given.looks),
    ...(given.unheard && {
      unheard: { chain: chained(given.unheard.chain), looks: numbered(given.unheard.looks ?? given.looks) },
    }),
  }),
});

const backward = { all: [{ kind: 'way', way: 'backward' }] };
const held = { all: [{ kind: 'way', way: 'held' }] };
const fast = (percent: number) => ({ all: [{ kind: 'faster', percent }] });
const slow = (percent: number) => ({ all: [{ kind: 'slower', percent }] });

/** The recipes that come with the program, each with what it is for. */
export const GROUPED_RECIPES: readonly OurRecipe[] = [
  written({
    name: 'Soft boomerang',
    group: 'there',
    says: 'It comes to rest at each turn and loops for good.',
    chain: [{ move: 'bounce', values: { instants: [0, 59, 0], leg: share(0.7), soft: 100 } }],
    between: 'flow',
  }),
  written({
    name: 'Colours split on the way back',
    group: 'there',
    says: 'There and back; the way back falls apart into its colours.',
    chain: [{ move: 'boomerang', values: { trips: 2, backPercent: 200 } }],
    looks: [
      {
        look: 'split',
        scope: { ...backward, fadeIn: 4, fadeOut: 4 },
        values: {
          redX: { kind: 'progress', from: 8, to: 46, ease: 'in' },
          blueX: { kind: 'progress', from: -8, to: -46, ease: 'in' },
          greenY: 6,
        },
      },
      { look: 'trail', scope: backward, values: { copies: 3, spacing: 2, fade: 35 } },
    ],
  }),
  written({
    name: 'Scratch on the second beat',
    group: 'stop',
    says: 'A record scratch, with its sound.',
    chain: [{ move: 'scratch', values: { at: beats(1), slice: 7, strokes: 3, shape: 'snap' } }],
    unheard: {
      chain: [{ move: 'scratch', values: { at: share(0.5), slice: 7, strokes: 3, shape: 'snap' } }],
    },
    looks: [
      { look: 'shake', scope: { all: [{ kind: 'turns', before: 0, after: 3 }] }, values: { amount: 12 } },
    ],
    sounds: ['scratch'],
  }),
  written({
    name: 'Surge on every second beat',
    group: 'music',
    says: 'Crawls, and surges with an open shutter and a whoosh.',
    chain: [{ move: 'surge', values: { rest: 45, peak: 420, rise: 2, fall: 9, which: 'second' } }],
    unheard: {
      chain: [
        {
          move: 'ramp',
          values: {
            points: [
              { at: 0, percent: 45 },
              { at: 18, percent: 420 },
              { at: 36, percent: 45 },
            ],
            ...{ before: 4, after: 6, soft: 'both' },
          },
        },
      ],
    },
    between: 'flow',
    shutter: { kind: 'speed', fromPercent: 60, from: 0, toPercent: 300, to: 320 },
    sounds: ['whoosh'],
  }),
  written({
    name: 'Hit with flash and shifted copy',
    group: 'stop',
    says: 'The hit rests for eight frames under a flash, a coloured copy beside it.',
    chain: [{ move: 'hold', values: { at: share(0.5), length: 8 } }],
    looks: [
      {
        look: 'tint',
        scope: held,
        values: { colour: '#e0703c', x: { kind: 'progress', from: 110, to: 0, ease: 'out' }, depth: 90 },
      },
      { look: 'punch', scope: held, values: { zoom: { kind: 'progress', from: 116, to: 100, ease: 'out' } } },
      {
        look: 'flash',
        scope: { all: [{ kind: 'first', frames: 6, way: 'held' }] },
        values: { amount: 90, fall: 5 },
      },
    ],
    sounds: ['thump'],
  }),
  written({
    name: 'Torn stutter',
    group: 'stop',
    says: 'A stuck slice under torn bars and jumping colours.',
    chain: [{ move: 'stutter', values: { at: share(0.4), slice: 4, repeats: 6 } }],
    looks: [
      {
        look: 'torn-bars',
        scope: { all: [{ kind: 'joins', before: 2, after: 4 }] },
        values: { bars: 7, shift: 220, hold: 2, often: 100 },
      },
      {
        look: 'split',
        scope: { all: [{ kind: 'joins', before: 2, after: 4 }] },
        values: {
          redX: { kind: 'steps', values: [60, -24, 8, -70], every: 2 },
          blueX: { kind: 'steps', values: [-40, 52, -12, 30], every: 2 },
        },
      },
    ],
  }),
  written({
    name: 'Trail there and back',
    group: 'there',
    says: 'Copies leave one by one on the way and come back again.',
    chain: [{ move: 'boomerang', values: { trips: 1 } }],
    looks: [
      {
        look: 'trail',
        values: { copies: 6, spacing: 4, fade: 12, stagger: 5 },
        scope: { all: [], fadeIn: 6, fadeOut: 6 },
      },
    ],
  }),
  written({
    name: 'Slow smear',
    group: 'pace',
    says: 'Slow, and printed in smears at nine pictures a second.',
    chain: [{ move: 'speed', values: { by: 'percent', percent: 60 } }],
    looks: [{ look: 'smear', values: { back: 5, on: 5, rate: 9 } }],
  }),
  written({
    name: 'Slow middle, outlined',
    group: 'pace',
    says: 'The middle slows down, and its outlines come and go.',
    chain: [
      {
        move: 'ramp',
        values: {
          points: [
            { at: 0, percent: 130 },
            { at: 20, percent: 35 },
            { at: 40, percent: 130 },
          ],
          ...{ before: 5, after: 5, soft: 'both' },
        },
      },
    ],
    looks: [
      {
        look: 'outline',
        scope: { ...slow(75), fadeIn: 3, fadeOut: 3 },
        strength: { kind: 'steps', values: [100, 35], every: 6, smooth: true },
        values: { colour: '#ffd08a', gain: 5, width: 3 },
      },
      {
        look: 'grade',
        scope: { ...slow(75), fadeIn: 3, fadeOut: 3 },
        values: { exposure: -0.8, saturation: 45 },
      },
    ],
    between: 'flow',
  }),
  written({
    name: 'Tape way back',
    group: 'there',
    says: 'Plays, then runs back as worn tape to where it began.',
    chain: [{ move: 'rewind', values: { from: 'end', to: 0, percent: 500 } }],
    looks: [
      { look: 'worn-tape', scope: { all: [{ kind: 'way', way: 'backward' }] } },
      { look: 'sign', scope: { all: [{ kind: 'way', way: 'backward' }] } },
    ],
    sounds: ['spool'],
  }),
  written({
    name: 'Run down and darken',
    group: 'pace',
    says: 'Runs down like a wheel let go, nearly to a stop, and darkens.',
    chain: [{ move: 'coast', values: { from: 160, to: 3, over: share(1.2) } }],
    looks: [
      {
        look: 'grade',
        values: { exposure: { kind: 'speed', fromPercent: 5, from: -1.4, toPercent: 90, to: 0 } },
      },
    ],
    between: 'flow',
  }),
  written({
    name: 'Kicks push and punch',
    group: 'music',
    says: 'Every kick shoves time forward and brings the picture closer.',
    chain: [
      { move: 'speed', values: { by: 'percent', percent: 60 } },
      { move: 'push', values: { band: 'low', least: 30, amount: 420, fall: 7 } },
    ],
    looks: [{ look: 'punch', values: { zoom: { kind: 'pulse', rest: 100, depth: 12, on: 'low', fall: 7 } } }],
    unheard: {
      chain: [
        {
          move: 'ramp',
          values: {
            points: [0, 12, 16, 28, 32, 44, 48].map((at, i) => ({ at, percent: i % 2 === 0 ? 45 : 380 })),
            ...{ before: 1, after: 3, soft: 'out' },
          },
        },
      ],
      looks: [
        {
          look: 'punch',
          values: { zoom: { kind: 'speed', fromPercent: 60, from: 100, toPercent: 360, to: 112 } },
        },
      ],
    },
    between: 'mix',
  }),
  written({
    name: 'Freeze behind a title',
    group: 'stop',
    says: 'Freezes for two seconds, quiet behind a title, and plays on.',
    chain: [{ move: 'hold', values: { at: share(0.55), length: 60 } }],
    looks: [
      {
        look: 'backdrop',
        scope: { ...held, fadeIn: 8, fadeOut: 8 },
        values: { blur: 14, dark: 55, saturation: 25 },
        // Everything but the outermost tenth: inside it titles are safe.
        region: {
          shape: 'rectangle',
          keys: [{ at: 0, values: [640, 360, 1024, 576, 0] }],
          ...{ feather: 60, inverted: true },
        },
      },
      {
        look: 'punch',
        scope: held,
        values: { zoom: { kind: 'progress', from: 100, to: 106, ease: 'both' } },
      },
    ],
    sounds: ['thump'],
  }),
  written({
    name: 'Locked swing',
    group: 'there',
    says: 'Swings to and fro, locked on what is tracked in the clip.',
    chain: [{ move: 'bounce', values: { instants: [0, 42, 14, 59, 0], leg: share(0.45), soft: 80 } }],
    steady: { track: 'any', how: 'stays', edges: 'zoom' },
    between: 'flow',
  }),
  written({
    name: 'Fast-forward under tape lines',
    group: 'pace',
    says: 'Three times the speed under lines, the arrow blinking.',
    chain: [{ move: 'spool', values: { factor: 3, ease: 3 } }],
    looks: [
      { look: 'blur', scope: fast(140), values: { kind: 'along', angle: 0, length: 70 } },
      {
        look: 'worn-tape',
        scope: fast(140),
        values: { streaks: 30, length: 200, wobble: 3, noise: 6, grey: 0 },
      },
      { look: 'sign', scope: fast(140) },
    ],
    sounds: ['spool'],
  }),
  written({
    name: 'Stop motion',
    group: 'stop',
    says: 'Eight pictures a second, each shaken a little.',
    chain: [{ move: 'step', values: { rate: 8 } }],
    looks: [
      {
        look: 'punch',
        values: {
          zoom: 104,
          x: { kind: 'random', rest: 0, within: 5, every: 4, smooth: false },
          y: { kind: 'random', rest: 0, within: 4, every: 4, smooth: false, seed: 5 },
        },
      },
      { look: 'grade', values: { contrast: 122, saturation: 120, warmth: 8 } },
    ],
  }),
  written({
    name: 'Shortening stutter',
    group: 'stop',
    says: 'A slice comes again and again, each time shorter and closer.',
    chain: [{ move: 'stutter', values: { at: share(0.5), slice: 10, repeats: 6, shorter: 22 } }],
    looks: [
      {
        look: 'punch',
        scope: { all: [{ kind: 'joins', before: 0, after: 5 }] },
        values: { zoom: { kind: 'progress', from: 118, to: 100, ease: 'out' } },
      },
    ],
  }),
  written({
    name: 'Half-beat pattern',
    group: 'music',
    says: 'Slices forward, backward and held in half beats, the negative at every turn.',
    chain: [{ move: 'pattern', values: { slices: 4, length: beats(0.5) } }],
    unheard: { chain: [{ move: 'pattern', values: { slices: 4, length: 8 } }] },
    looks: [
      {
        look: 'flash',
        scope: { all: [{ kind: 'turns', before: 0, after: 2 }] },
        values: { kind: 'negative', amount: 100, fall: 2 },
      },
    ],
  }),
  written({
    name: 'Locked out and back',
    group: 'there',
    says: 'Out further each time and back, softened, locked in the middle on what is tracked.',
    chain: [
      { move: 'bounce', values: { instants: [15, 32, 15, 45, 15, 59, 15], leg: share(0.3), soft: 60 } },
    ],
    steady: { track: 'any', how: 'centre', edges: 'zoom' },
    between: 'flow',
  }),
  written({
    name: 'Trail behind a post',
    group: 'pace',
    says: 'A quick pass with a trail around what is tracked, all of it behind a post or a wall of the place.',
    chain: [{ move: 'speed', values: { percent: 200 } }],
    looks: [
      {
        look: 'trail',
        values: { copies: 4, spacing: 4, fade: 20 },
        region: {
          ...{ shape: 'ellipse', feather: 40, carried: { track: ANY_TRACK, from: 0 } },
          keys: [{ at: 0, values: [640, 360, 520, 520, 0] }],
        },
      },
      {
        look: 'plate',
        values: {},
        region: { shape: 'rectangle', feather: 2, keys: [{ at: 0, values: [640, 360, 110, 720, 0] }] },
      },
    ],
  }),
  written({
    name: 'Surge on every beat, graded',
    group: 'music',
    says: 'Short surges on the beats, an open shutter where they run, more contrast, dark corners.',
    chain: [{ move: 'surge', values: { rest: 60, peak: 300, rise: 1, fall: 5, which: 'every' } }],
    unheard: {
      chain: [
        {
          move: 'ramp',
          values: {
            points: [0, 12, 15, 27, 30, 42, 45].map((at, i) => ({ at, percent: i % 2 === 0 ? 60 : 300 })),
            ...{ before: 1, after: 3, soft: 'out' },
          },
        },
      ],
    },
    shutter: { kind: 'speed', fromPercent: 80, from: 0, toPercent: 280, to: 300 },
    looks: [
      { look: 'grade', values: { contrast: 140 } },
      { look: 'vignette', values: {} },
    ],
  }),
  written({
    name: 'Turns on the beats, two soft',
    group: 'music',
    says: 'Turns on every second beat, hard but for two; blurred and shaken where it runs fast.',
    chain: [
      {
        move: 'bounce',
        values: {
          instants: [0, 40, { to: 12, soft: 100 }, 59, { to: 20, soft: 100 }, 50, 0],
          ...{ on: 'second', leg: share(0.3), soft: 0 },
        },
      },
    ],
    looks: [
      { look: 'blur', scope: { ...fast(130), fadeIn: 2, fadeOut: 2 }, values: { kind: 'along', length: 36 } },
      { look: 'shake', scope: fast(130), values: { amount: 14, fall: 0 } },
    ],
  }),
  written({
    name: 'Fast, slow, fast, outlined',
    group: 'pace',
    says: 'Slow in the middle under an outline that pulses and wanders; bursts of blur where it runs fast.',
    chain: [
      {
        move: 'ramp',
        values: {
          points: [
            { at: 0, percent: 260 },
            { at: 12, percent: 40 },
            { at: 40, percent: 260 },
          ],
          ...{ before: 4, after: 4, soft: 'both' },
        },
      },
    ],
    looks: [
      {
        look: 'outline',
        scope: { ...slow(70), fadeIn: 3, fadeOut: 3 },
        strength: { kind: 'pulse', rest: 45, depth: 55, on: 'beats', rise: 0, hold: 2, fall: 6 },
        values: { x: { kind: 'random', rest: 0, within: 60, every: 5, homeOver: 8 } },
      },
      {
        look: 'blur',
        scope: { ...fast(180), fadeIn: 2, fadeOut: 2 },
        strength: { kind: 'steps', values: [100, 25], every: 3, smooth: true },
        values: { kind: 'along', length: 40 },
      },
    ],
    between: 'flow',
  }),
  written({
    name: 'Crawl, burst, bump back',
    group: 'pace',
    says: 'Crawls, bursts forward under torn bars with a whoosh, bumps back and goes on.',
    chain: [
      {
        move: 'ramp',
        values: {
          points: [
            { at: 0, percent: 12 },
            { at: 30, percent: 420 },
            { at: 40, percent: -160 },
            { at: 47, percent: 100 },
          ],
          ...{ before: 2, after: 2, soft: 'both' },
        },
      },
    ],
    looks: [
      {
        look: 'torn-bars',
        scope: { ...fast(200), fadeOut: 2 },
        values: { bars: 6, shift: 200, hold: 2, often: 80 },
      },
      {
        look: 'punch',
        scope: fast(200),
        values: { x: { kind: 'random', rest: 0, within: 24, every: 3, homeOver: 6 } },
      },
    ],
    sounds: ['whoosh'],
  }),
  written({
    name: 'Trail on a quick pass',
    group: 'pace',
    says: 'Twice as fast, with copies that follow what moves.',
    chain: [{ move: 'speed', values: { by: 'percent', percent: 200 } }],
    looks: [
      {
        look: 'trail',
        values: { copies: 5, spacing: 3, fade: 14, stagger: 3 },
        scope: { all: [], fadeIn: 4, fadeOut: 6 },
      },
    ],
  }),
];

/** The recipes that come with the program, in the order of the gallery: what they are for, then as they are written. */
export const OUR_RECIPES: readonly Recipe[] = (Object.keys(MOVE_GROUPS) as MoveGroup[]).flatMap((group) =>
  GROUPED_RECIPES.filter((r) => r.group === group).map((r) => r.recipe),
);
