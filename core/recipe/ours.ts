import { type Recipe, RECIPE_VERSION, RecipeSchema } from './recipe';

/** Ours are written for two seconds of a clip of 30 frames a second. */
const MADE_ON = { span: { in: 0, out: 60 }, clipHz: 30, picture: { width: 1280, height: 720 }, frames: 60 };

interface Written {
  readonly name: string;
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

const written = (given: Written): Recipe =>
  RecipeSchema.parse({
    format: 'skip-back-recipe',
    version: RECIPE_VERSION,
    madeOn: MADE_ON,
    ...given,
    chain: chained(given.chain),
    looks: numbered(given.looks),
    ...(given.unheard && {
      unheard: { chain: chained(given.unheard.chain), looks: numbered(given.unheard.looks ?? given.looks) },
    }),
  });

const backward = { all: [{ kind: 'way', way: 'backward' }] };
const held = { all: [{ kind: 'way', way: 'held' }] };
const fast = (percent: number) => ({ all: [{ kind: 'faster', percent }] });
const slow = (percent: number) => ({ all: [{ kind: 'slower', percent }] });

/** The recipes that come with the program, in the order of the gallery. */
export const OUR_RECIPES: readonly Recipe[] = [
  written({
    name: 'Soft tide',
    says: 'A soft boomerang: it comes to rest at each turn and loops for good.',
    chain: [{ move: 'bounce', values: { instants: [0, 59, 0], leg: share(0.7), soft: 100 } }],
    between: 'flow',
  }),
  written({
    name: 'Prism wake',
    says: 'There and back; the way back falls apart into its colours.',
    chain: [{ move: 'boomerang', values: { trips: 2 } }],
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
    name: 'Drum needle',
    says: 'A record scratch on the second beat, with its sound.',
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
    name: 'Tram surge',
    says: 'Crawls, and surges on every second beat with an open shutter and a whoosh.',
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
    name: 'Struck lamp',
    says: 'The hit rests for eight frames under a flash, with a coloured copy beside it.',
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
    name: 'Broken neon',
    says: 'A stuck slice under torn bars and jumping colours.',
    chain: [{ move: 'stutter', values: { at: share(0.4), slice: 4, repeats: 6 } }],
    looks: [
      {
        look: 'worn-tape',
        scope: { all: [{ kind: 'joins', before: 2, after: 4 }] },
        values: { streaks: 46, length: 100, wobble: 26, noise: 8, grey: 0, bleed: 14, sound: 'no' },
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
    name: 'Lantern trail',
    says: 'There and back with copies that leave one by one and come home again.',
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
    name: 'Pier smear',
    says: 'Slow, and printed in smears at nine pictures a second.',
    chain: [{ move: 'speed', values: { by: 'percent', percent: 60 } }],
    looks: [{ look: 'smear', values: { back: 5, on: 5, rate: 9 } }],
  }),
  written({
    name: 'Chalk jump',
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
    name: 'Reel home',
    says: 'Plays, then runs back as worn tape to where it began.',
    chain: [{ move: 'rewind', values: { from: 'end', to: 0, percent: 500 } }],
    looks: [
      { look: 'worn-tape', scope: { all: [{ kind: 'way', way: 'backward' }] } },
      { look: 'sign', scope: { all: [{ kind: 'way', way: 'backward' }] } },
    ],
    sounds: ['spool'],
  }),
  written({
    name: 'Out of oil',
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
    name: 'Pier kick',
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
    name: 'Wall poster',
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
    name: 'Still swing',
    says: 'Swings to and fro, held still by what is followed in the clip.',
    chain: [{ move: 'bounce', values: { instants: [0, 42, 14, 59, 0], leg: share(0.45), soft: 80 } }],
    steady: { track: 'any', how: 'stays', edges: 'zoom' },
    between: 'flow',
  }),
  written({
    name: 'Last tram',
    says: 'Winds forward at three times the speed under lines, the arrow blinking.',
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
    name: 'Puppet step',
    says: 'Stop motion: eight pictures a second, each shaken a little.',
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
    name: 'Market roll',
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
    name: 'Pinwheels',
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
];
