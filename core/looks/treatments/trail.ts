import { z } from 'zod';
import { type Gather, smearedAlong, wholeFrame } from '../../gather/gather';
import { BLENDS, type Blend } from '../../pixels/surface';
import type { Around, Moment, Shares, Treatment } from '../treatment';

const blends = [...BLENDS, 'average'] as const;
const schema = z.object({
  copies: z.number(),
  spacing: z.number(),
  fade: z.number(),
  blend: z.enum(blends),
  stagger: z.number(),
  dissolve: z.number(),
  counts: z.enum(['clip', 'result']),
  smear: z.enum(['none', 'angle', 'motion']),
  angle: z.number(),
  length: z.number(),
  over: z.number(),
});
type Values = z.infer<typeof schema>;

/** What is drawn: how each copy is laid over the picture, in the order of the frames it asks for. */
interface Drawing {
  readonly blend: Blend;
  readonly opacities: readonly number[];
  readonly layers: readonly Gather[];
  /** The line over which each copy is blurred, pixels of the project's picture. */
  readonly line?: readonly [dx: number, dy: number];
}

/** Opacities below this are not seen. */
const UNSEEN = 1 / 512;
const MOST_COPIES = 12;
/** Frames over which a copy is smeared, at most. */
const MOST_OVER = 4;

/** Whether copies are laid over the picture, each by itself. */
const isLaid = (values: Record<string, unknown>): boolean => values['blend'] !== 'average';

export const trail: Treatment<Values, Drawing> = {
  id: 'trail',
  name: 'Trail',
  also: 'echo, ghost, motion trail',
  summary: 'Delayed copies, each fainter; they come and leave one after the other.',
  schema,
  defaults: {
    ...{ copies: 5, spacing: 4, fade: 20, blend: 'lighten', stagger: 0, dissolve: 0, counts: 'clip' },
    ...{ smear: 'none', angle: 0, length: 60, over: 2 },
  } as Values,
  cost: 'heavy',
  scales: true,
  shapes: true,
  onLight: { blend: 'darken' },
  uses: [
    {
      words: 'dark figures before a bright ground',
      values: { copies: 5, spacing: 4, fade: 15, blend: 'darken', smear: 'none' },
    },
    {
      words: 'one after the other, gone before the end',
      values: { copies: 6, spacing: 3, fade: 10, stagger: 5, dissolve: 4, smear: 'none' },
    },
    {
      words: 'lights drawn out along their way',
      values: { copies: 4, spacing: 3, fade: 25, blend: 'screen', smear: 'motion', over: 3 },
    },
  ],
  fields: [
    {
      ...{ key: 'copies', kind: 'number', label: 'Copies', unit: '×' },
      ...{ help: 'How many are seen behind the picture.', min: 0, max: MOST_COPIES },
    },
    {
      ...{ key: 'spacing', kind: 'number', label: 'Spacing', unit: 'f' },
      ...{ help: 'Frames from one to the next.', min: 1, max: 240 },
    },
    {
      ...{ key: 'fade', kind: 'number', label: 'Fainter by', unit: '%' },
      ...{ help: 'Each copy than the one before it.', min: 0, max: 100 },
    },
    {
      key: 'blend',
      kind: 'choice',
      label: 'Laid over',
      help: 'Darken for dark figures before light, lighten or screen for lights, average for a ghost.',
      options: [
        { value: 'lighten', label: 'lighter shows' },
        { value: 'darken', label: 'darker shows' },
        { value: 'screen', label: 'screened' },
        { value: 'add', label: 'added' },
        { value: 'average', label: 'averaged' },
      ],
    },
    {
      ...{ key: 'stagger', kind: 'number', label: 'One after the other', unit: 'f' },
      ...{
        help: 'Frames between the copies as they come, nearest first, and leave, farthest first.',
        min: 0,
        max: 240,
      },
    },
    {
      ...{ key: 'dissolve', kind: 'number', label: 'Each dissolves over', unit: 'f' },
      ...{ help: 'Frames that a copy takes to come or to leave.', min: 0, max: 240 },
    },
    {
      key: 'counts',
      kind: 'choice',
      label: 'Counts frames of',
      help: 'Of the clip: the trail as it was filmed, however fast it plays. Of the result: it follows what was seen, backward too.',
      options: [
        { value: 'clip', label: 'the clip' },
        { value: 'result', label: 'the result' },
      ],
    },
    {
      key: 'smear',
      kind: 'choice',
      label: 'Copies smeared',
      help: 'Blurred along a line, or along the way that everything moves.',
      options: [
        { value: 'none', label: 'not at all' },
        { value: 'angle', label: 'along an angle' },
        { value: 'motion', label: 'along the motion' },
      ],
      when: isLaid,
    },
    {
      ...{ key: 'angle', kind: 'number', label: 'Smear angle', unit: '°', min: -3600, max: 3600 },
      ...{ help: '0 is level, 90 upright.', when: (v) => isLaid(v) && v['smear'] === 'angle' },
    },
    {
      ...{ key: 'length', kind: 'number', label: 'Smear length', unit: 'px', min: 0, max: 2000 },
      ...{ help: 'Of the line.', when: (v) => isLaid(v) && v['smear'] === 'angle' },
    },
    {
      ...{ key: 'over', kind: 'number', label: 'Smeared over', unit: 'f', min: 0.25, max: MOST_OVER },
      ...{ help: 'Frames of the clip around each copy.', when: (v) => isLaid(v) && v['smear'] === 'motion' },
    },
  ],
  drawing(values, moment) {
    if (values.blend === 'average' || !moment.around) return undefined;
    const { around } = moment;
    const copies = copiesAt(values, moment, around);
    if (copies.length === 0) return undefined;
    const turn = (values.angle * Math.PI) / 180;
    const over = Math.min(MOST_OVER, Math.max(0.25, values.over));
    return {
      blend: values.blend,
      opacities: copies.map((c) => c.opacity * moment.strength),
      layers: copies.map(({ frame }) =>
        values.smear === 'motion' ? smearedAlong(frame, over, around.shotOf(frame)) : wholeFrame(frame),
      ),
      ...(values.smear === 'angle' && {
        line: [Math.cos(turn) * values.length, Math.sin(turn) * values.length] as const,
      }),
    };
  },
  draw(surface, { blend, opacities, line }, unit, _, layers) {
    opacities.forEach((opacity, k) => {
      const layer = layers[k];
      if (layer) surface.blend(layer, blend, opacity, line && [line[0] * unit, line[1] * unit]);
    });
  },
  mixes: ({ blend, smear }) => blend === 'average' || smear === 'motion',
  gather(values, moment, around): Shares | undefined {
    if (values.blend !== 'average') return undefined;
    const sum = new Map(around.madeOf(moment.frame));
    let total = 1;
    for (const { frame, opacity } of copiesAt(values, moment, around)) {
      sum.set(frame, (sum.get(frame) ?? 0) + opacity);
      total += opacity;
    }
    return new Map([...sum].map(([frame, weight]) => [frame, weight / total]));
  },
};

/** The copies that are seen at a moment, nearest first. Where there is no frame so far back there is no copy. */
function copiesAt(values: Values, moment: Moment, around: Around): { frame: number; opacity: number }[] {
  const { frame, stretch } = moment;
  const spacing = Math.max(1, Math.round(values.spacing));
  return Array.from({ length: Math.min(MOST_COPIES, Math.round(values.copies)) }, (_, i) => i + 1).flatMap(
    (k) => {
      const opacity =
        (1 - values.fade / 100) ** k * presence(k, values, frame - stretch.first, stretch.end - 1 - frame);
      const source =
        values.counts === 'clip'
          ? around.shown(frame) - k * spacing
          : frame - k * spacing >= around.first
            ? around.shown(frame - k * spacing)
            : -1;
      return source < 0 || opacity < UNSEEN ? [] : [{ frame: source, opacity }];
    },
  );
}

/** How much of the k-th copy is there, `since` the look begins and with so many frames `left`. */
function presence(k: number, { stagger, dissolve }: Values, since: number, left: number): number {
  if (stagger === 0 && dissolve === 0) return 1;
  const ramp = (frames: number) =>
    Math.min(1, Math.max(0, (frames - (k - 1) * stagger + 1) / (dissolve + 1)));
  return Math.min(ramp(since), ramp(left));
}
