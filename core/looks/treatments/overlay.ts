import { z } from 'zod';
import { durationOf, frameAt, frameCount, startOf } from '../../clip/frame-table';
import { type Gather, wholeFrame } from '../../gather/gather';
import { LAYINGS, placed } from '../../pixels/surface';
import { gainOf } from '../../sound/stereo';
import { placeInFrame } from '../../steady/framing';
import { frame, seconds } from '../../time/units';
import { type BroughtClip, broughtId } from '../brought';
import type { Moment, Treatment } from '../treatment';

const schema = z.object({
  clip: z.string().max(100),
  blend: z.enum(LAYINGS),
  opacity: z.number(),
  fits: z.enum(['fill', 'fit', 'centre']),
  size: z.number(),
  x: z.number(),
  y: z.number(),
  turn: z.number(),
  speed: z.number(),
  from: z.number(),
  ends: z.enum(['repeats', 'once', 'stays']),
  sound: z.enum(['yes', 'no']),
  level: z.number(),
});
type Values = z.infer<typeof schema>;

/** What is laid on: a picture, and where it is partly transparent how much of each point is there. */
interface Drawing {
  readonly layers: readonly Gather[];
  readonly blend: Values['blend'];
  readonly opacity: number;
  /** Where it is put about the picture's middle, if elsewhere: lengths in pixels of the project's picture. */
  readonly put?: { readonly zoom: number; readonly degrees: number; readonly x: number; readonly y: number };
  /** Size of its own picture, and how that is framed, where it may leave borders that are not its own. */
  readonly own?: { readonly width: number; readonly height: number; readonly fits: Values['fits'] };
}

export const overlay: Treatment<Values, Drawing> = {
  id: 'overlay',
  name: 'Overlay',
  also: 'blend, double exposure, composite',
  summary:
    'A clip or a picture on top: dust, light, a burst of lines, a title; it repeats as long as it is wanted.',
  schema,
  defaults: {
    ...{ clip: '', blend: 'add', opacity: 100, fits: 'fill', size: 100, x: 0, y: 0, turn: 0 },
    ...{ speed: 100, from: 0, ends: 'repeats', sound: 'yes', level: -6 },
  } as Values,
  cost: 'middle',
  scales: true,
  fields: [
    {
      ...{ key: 'clip', kind: 'clip', label: 'Picture of', own: false },
      help: 'A clip of the project, one of ours, or a file: video, animated picture, PNG with transparency.',
    },
    {
      key: 'blend',
      kind: 'choice',
      label: 'Laid on',
      help: 'Added or screened, black vanishes; multiplied, white does.',
      options: [
        { value: 'add', label: 'added' },
        { value: 'screen', label: 'screened' },
        { value: 'multiply', label: 'multiplied' },
        { value: 'darken', label: 'darker shows' },
        { value: 'lighten', label: 'lighter shows' },
        { value: 'normal', label: 'as it is' },
      ],
    },
    {
      ...{ key: 'opacity', kind: 'number', label: 'Opacity', unit: '%', min: 0, max: 100 },
      help: 'How much of it is seen.',
    },
    {
      key: 'fits',
      kind: 'choice',
      label: 'Framing',
      help: 'How its picture stands in the project’s.',
      options: [
        { value: 'fill', label: 'fills the picture' },
        { value: 'fit', label: 'whole in it' },
        { value: 'centre', label: 'pixel for pixel' },
      ],
    },
    {
      ...{ key: 'size', kind: 'number', label: 'Size', unit: '%', min: 1, max: 1000 },
      help: 'About the middle.',
    },
    {
      ...{ key: 'x', kind: 'number', label: 'Aside', unit: 'px', min: -8000, max: 8000 },
      help: 'Right is positive.',
    },
    {
      ...{ key: 'y', kind: 'number', label: 'Down', unit: 'px', min: -8000, max: 8000 },
      help: 'Down is positive.',
    },
    {
      ...{ key: 'turn', kind: 'number', label: 'Turn', unit: '°', min: -3600, max: 3600 },
      help: 'Clockwise.',
    },
    {
      ...{ key: 'speed', kind: 'number', label: 'Speed', unit: '%', min: -2000, max: 2000 },
      help: 'Its own, whatever the piece does; negative plays it backward.',
    },
    {
      ...{ key: 'from', kind: 'number', label: 'From its frame', unit: 'f', min: 0, max: 10_000_000 },
      help: 'The frame that is seen first, wherever the look begins.',
    },
    {
      key: 'ends',
      kind: 'choice',
      label: 'At its end',
      help: 'What it does where the look goes on longer than it lasts.',
      options: [
        { value: 'repeats', label: 'begins again' },
        { value: 'stays', label: 'its last frame stays' },
        { value: 'once', label: 'is gone' },
      ],
    },
    {
      key: 'sound',
      kind: 'choice',
      label: 'Its sound',
      help: 'Mixed in, at its own speed, as long as it is seen.',
      options: [
        { value: 'yes', label: 'is heard' },
        { value: 'no', label: 'is not heard' },
      ],
    },
    {
      ...{ key: 'level', kind: 'number', label: 'Level', unit: 'dB', min: -60, max: 12 },
      ...{ help: 'Of its sound.', when: (v) => v['sound'] === 'yes' },
    },
  ],
  placed: { x: 'x', y: 'y', size: 'size', turn: 'turn' },
  brings: ({ clip }) => [clip],
  drawing(values, moment) {
    const clip = moment.brought(values.clip);
    const n = clip && frameSeen(clip, values, moment);
    if (n === undefined || values.opacity <= 0) return undefined;
    const { fits, size, x, y, turn } = values;
    const layer = wholeFrame(n);
    return {
      layers: [false, ...(clip!.clear ? [true] : [])].map((clear) => ({
        ...layer,
        of: broughtId(values.clip, fits, clear),
      })),
      blend: values.blend,
      opacity: (values.opacity / 100) * moment.strength,
      ...((size !== 100 || x !== 0 || y !== 0 || turn % 360 !== 0) && {
        put: { zoom: size / 100, degrees: turn, x, y },
      }),
      ...(fits !== 'fill' && !clip!.clear && { own: { ...clip!.size, fits } }),
    };
  },
  draw(surface, { blend, opacity, put, own }, unit, _, [layer, clear]) {
    if (!layer) return;
    surface.laid(layer, {
      blend,
      share: opacity,
      clear,
      box: own && placeInFrame(own, surface, own.fits, unit),
      map: put && placed(surface, { ...put, x: put.x * unit, y: put.y * unit }),
    });
  },
  heard(values, { brought, before, facts, strength }) {
    const clip = brought(values.clip);
    if (values.sound === 'no' || !clip?.hasSound) return undefined;
    const fromS = begins(clip, values) + before('speed') / 100 / facts.rateHz;
    const toS = fromS + values.speed / 100 / facts.rateHz;
    return {
      ...{ clip: values.clip, fromS, toS, repeats: values.ends === 'repeats' },
      gain: gainOf(values.level) * strength,
    };
  },
};

/** Seconds of an overlay's clip at which it begins. */
const begins = ({ table }: BroughtClip, { from }: Values): number =>
  startOf(table, frame(Math.min(frameCount(table) - 1, Math.round(from))));

/** The frame of the overlay's clip that is seen; undefined where there is none any more. */
function frameSeen(clip: BroughtClip, values: Values, moment: Moment): number | undefined {
  const { table } = clip;
  const lengthS = durationOf(table);
  const elapsed = (moment.before('speed') + values.speed / 2) / 100 / moment.facts.rateHz;
  const at = begins(clip, values) + elapsed;
  if (values.ends === 'repeats') return frameAt(table, seconds(at - lengthS * Math.floor(at / lengthS)));
  if (values.ends === 'once' && (at < 0 || at >= lengthS)) return undefined;
  return frameAt(table, seconds(at));
}
