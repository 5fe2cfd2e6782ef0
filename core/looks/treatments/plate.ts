import { z } from 'zod';
import { type Gather, wholeFrame } from '../../gather/gather';
import { affineOf } from '../../pixels/surface';
import { type Similar, both } from '../../steady/similar';
import { broughtId, framesIn } from '../brought';
import type { Treatment } from '../treatment';

const schema = z.object({ clip: z.string().max(100), frame: z.number(), x: z.number(), y: z.number() });
type Values = z.infer<typeof schema>;

/** The picture that is laid on top, and how it is moved: to lie on the one below, and with a held one. */
interface Drawing {
  readonly layers: readonly Gather[];
  readonly put?: Similar;
}

/** How far a plate may be moved to lie on the picture, pixels. */
const NEAR = 24;

export const plate: Treatment<Values, Drawing> = {
  id: 'plate',
  name: 'Plate',
  also: 'clean plate, remove, mask',
  summary: 'A clean picture of the place on top, through a region, so that things pass behind it.',
  schema,
  defaults: { clip: '', frame: 0, x: 0, y: 0 },
  cost: 'light',
  through: true,
  fields: [
    {
      ...{ key: 'clip', kind: 'clip', label: 'Picture of', own: true },
      help: 'The clip that shows the place without what passes behind.',
    },
    {
      ...{
        key: 'frame',
        kind: 'number',
        label: 'Its frame',
        unit: 'f',
        numbered: true,
        min: 0,
        max: 10_000_000,
      },
      help: 'Which of its frames is laid on top.',
    },
    {
      ...{ key: 'x', kind: 'number', label: 'Aside', unit: 'px', min: -NEAR, max: NEAR },
      help: 'Right is positive: for a camera that was not quite still.',
    },
    {
      ...{ key: 'y', kind: 'number', label: 'Down', unit: 'px', min: -NEAR, max: NEAR },
      help: 'Down is positive.',
    },
  ],
  placed: { x: 'x', y: 'y' },
  brings: ({ clip }) => [clip],
  drawing({ clip, frame, x, y }, { frame: at, around, brought }) {
    if (!around) return undefined;
    const id = clip === '' ? around.clipId : clip;
    const frames = clip === '' ? around.clipFrames : framesIn(brought(id));
    if (frames === 0) return undefined;
    const n = Math.min(frames - 1, Math.max(0, Math.round(frame)));
    const aside = x === 0 && y === 0 ? undefined : { a: 1, b: 0, x, y };
    const held = around.held(at);
    const put = held && aside ? both(held, aside) : (held ?? aside);
    // As the picture that it lies on is framed, so that both lie on one another.
    return { layers: [{ ...wholeFrame(n), of: broughtId(id, around.framing) }], ...(put && { put }) };
  },
  draw(surface, { put }, unit, _, [layer]) {
    if (!layer) return;
    surface.lay(layer);
    if (put) surface.affine(affineOf(put, unit), 'mirrored');
  },
};
