import { z } from 'zod';
import { seeded } from '../../moves/random';
import { CHANNELS, placed } from '../../pixels/surface';
import { gainOf } from '../../sound/stereo';
import { LUMA } from '../colours';
import type { LookField, Treatment } from '../treatment';

const schema = z.object({
  streaks: z.number(),
  length: z.number(),
  wobble: z.number(),
  noise: z.number(),
  grey: z.number(),
  bleed: z.number(),
  seed: z.number(),
  sound: z.enum(['yes', 'no']),
});
type Values = z.infer<typeof schema>;
/** What is drawn at a frame: its values, and the number that its chance comes from. */
type Drawing = Omit<Values, 'sound'> & { readonly at: number };

/** Speed from which tape is heard being spooled, and the one at which it is loudest. */
const HEARD_FROM = 2;
const LOUDEST_AT = 4;
const LEVEL_DB = -10;

const field = (
  key: keyof Values,
  label: string,
  help: string,
  [min, max]: readonly [number, number],
  unit: '%' | 'px' | '×',
): LookField => ({ key, kind: 'number', label, help, min, max, unit });

/** Height of a streak, pixels of the project's picture. */
const THICK = 3;
/** Rows between which a wobble swings once. */
const SWING = 90;

export const wornTape: Treatment<Values, Drawing> = {
  id: 'worn-tape',
  name: 'Worn tape',
  also: 'VHS, glitch, noise, tracking lines',
  summary: 'Streaks, swaying lines, grain and bleeding colours, as tape that is spooled shows them.',
  schema,
  defaults: { streaks: 14, length: 60, wobble: 6, noise: 12, grey: 40, bleed: 8, seed: 1, sound: 'yes' },
  cost: 'middle',
  scales: true,
  fields: [
    field('streaks', 'Streaks', 'How many, other ones at every frame.', [0, 200], '×'),
    field('length', 'Their length', 'Of the picture’s width, at most.', [1, 100], '%'),
    field('wobble', 'Wobble', 'How far lines are pulled aside.', [0, 400], 'px'),
    field('noise', 'Grain', 'How much each point is lighter or darker.', [0, 100], '%'),
    field('grey', 'Grey', '100 has no colour left.', [0, 100], '%'),
    field('bleed', 'Colours bleed', 'Red and blue aside, each its way.', [0, 200], 'px'),
    field('seed', 'Number', 'Another number, other streaks.', [0, 100_000], '×'),
    {
      key: 'sound',
      kind: 'choice',
      label: 'Tape is heard',
      help: 'The chatter of tape that is spooled, where it runs at more than twice the speed.',
      options: [
        { value: 'yes', label: 'where it runs fast' },
        { value: 'no', label: 'not at all' },
      ],
    },
  ],
  drawing({ streaks, length, wobble, noise, grey, bleed, seed }, { strength, frame }) {
    const by = (value: number) => value * strength;
    return {
      ...{ streaks: Math.round(by(streaks)), length, wobble: by(wobble), noise: by(noise) },
      ...{ grey: by(grey), bleed: by(bleed), seed, at: Math.round(seed) * 1_000_003 + frame },
    };
  },
  startsWhere: [
    { kind: 'faster', not: false, percent: 400 },
    { kind: 'way', not: false, way: 'backward' },
  ],
  heard({ sound }, { facts, frame, strength }) {
    if (sound === 'no') return undefined;
    const fast = (Math.abs(facts.speeds[frame]!) - HEARD_FROM) / (LOUDEST_AT - HEARD_FROM);
    const gain = gainOf(LEVEL_DB) * strength * Math.min(1, fast);
    return gain > 0 ? { made: 'spool', gain } : undefined;
  },
  draw(surface, { streaks, length, wobble, noise, grey, bleed, at }, unit) {
    const { width, height } = surface;
    const random = seeded(at);
    const aside = (x: number, channels: number) =>
      surface.affine(placed(surface, { zoom: 1, degrees: 0, x, y: 0 }), 'stretched', channels);
    if (bleed > 0) {
      aside(bleed * unit, CHANNELS.red);
      aside(-bleed * unit, CHANNELS.blue);
    }
    if (wobble > 0) {
      const [one, two] = [random(), random()].map((v) => 2 * Math.PI * v) as [number, number];
      const torn = random() * height;
      surface.rowsAside(
        Int32Array.from({ length: height }, (_, y) => {
          const phase = (2 * Math.PI * y) / (SWING * unit);
          // A slow sway, a quick one, and near one place a pull to the side.
          const sway = 0.6 * Math.sin(phase + one) + 0.4 * Math.sin(3.7 * phase + two);
          const pull = 2.5 * Math.exp(-(((y - torn) / (12 * unit)) ** 2));
          return Math.round(wobble * unit * (sway + pull));
        }),
      );
    }
    if (grey > 0) {
      const share = grey / 100;
      const row = (own: number) =>
        LUMA.map((l, k) => share * l + (k === own ? 1 - share : 0)) as [number, number, number];
      surface.matrix([row(0), row(1), row(2)]);
    }
    if (noise > 0) surface.grain(at, noise * 1.28);
    if (streaks > 0)
      surface.fillMask([236, 236, 230], `streaks ${at} ${streaks} ${length} ${unit}`, (mask) => {
        mask.fill(0);
        const thick = Math.max(1, Math.round(THICK * unit));
        for (let i = 0; i < streaks; i++) {
          const long = Math.max(1, Math.round(((0.2 + 0.8 * random()) * length * width) / 100));
          const [x, y] = [Math.round(random() * (width + long)) - long, Math.floor(random() * height)];
          const bright = 120 + 135 * random();
          const end = Math.min(width, x + long);
          for (let row = y; row < Math.min(height, y + thick); row++)
            for (let k = Math.max(0, x); k < end; k++)
              // It fades towards its tail.
              mask[row * width + k] = Math.round(bright * Math.min(1, (1.2 * (end - k)) / long));
        }
      });
  },
};
