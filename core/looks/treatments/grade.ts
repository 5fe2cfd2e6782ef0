import { z } from 'zod';
import { LUMA, tableOf } from '../colours';
import { ColourTableSchema } from '../cube';
import type { LookField, Treatment } from '../treatment';

const schema = z.object({
  exposure: z.number(),
  contrast: z.number(),
  shadows: z.number(),
  middles: z.number(),
  highlights: z.number(),
  saturation: z.number(),
  warmth: z.number(),
  tint: z.number(),
  table: ColourTableSchema.nullable(),
  tableAmount: z.number(),
});
type Values = z.infer<typeof schema>;
type Drawing = Omit<Values, 'table'> & { readonly table: TableRef | null };

/** A colour table by the key under which its bytes are at hand. */
export interface TableRef {
  readonly key: string;
  readonly kind: '1d' | '3d';
  readonly size: number;
}

const number = (
  key: keyof Values,
  label: string,
  help: string,
  [min, max]: readonly [number, number],
  unit: '%' | 'st' = '%',
): LookField => ({ key, kind: 'number', label, help, min, max, unit });

const curveOf = ({ exposure, contrast, shadows, middles, highlights }: Drawing) => {
  const gain = 2 ** exposure;
  return (x: number): number => {
    const lit = Math.min(1, x * gain);
    // Contrast turns about the middle; the bumps leave black and white where they are.
    const turned = Math.min(1, Math.max(0, 0.5 + (lit - 0.5) * (contrast / 100)));
    const dark = 1 - turned;
    return (
      turned +
      (shadows / 100) * 1.7 * turned * dark * dark +
      (middles / 100) * turned * dark +
      (highlights / 100) * 1.7 * turned * turned * dark
    );
  };
};

export const grade: Treatment<Values, Drawing> = {
  id: 'grade',
  name: 'Grade',
  also: 'colour correction, LUT, contrast, saturation, levels',
  summary: 'Exposure, contrast, saturation, warmth, and colour tables from a .cube file.',
  schema,
  defaults: {
    exposure: 0,
    contrast: 115,
    shadows: 0,
    middles: 0,
    highlights: 0,
    saturation: 100,
    warmth: 0,
    tint: 0,
    table: null,
    tableAmount: 100,
  },
  cost: 'light',
  fields: [
    number('exposure', 'Exposure', 'Stops; 1 is twice the light.', [-6, 6], 'st'),
    number('contrast', 'Contrast', '100 is as it is.', [0, 400]),
    number('shadows', 'Shadows', 'Dark parts lighter or darker.', [-100, 100]),
    number('middles', 'Middles', 'Middle tones lighter or darker.', [-100, 100]),
    number('highlights', 'Highlights', 'Light parts lighter or darker.', [-100, 100]),
    number('saturation', 'Saturation', '0 is black and white, 100 as it is.', [0, 400]),
    number('warmth', 'Warmth', 'To orange, or to blue.', [-100, 100]),
    number('tint', 'Tint', 'To magenta, or to green.', [-100, 100]),
    { key: 'table', kind: 'table', label: 'Colour table', help: 'A .cube file, of one or three dimensions.' },
    {
      ...number('tableAmount', 'Table amount', 'How much of the table is seen.', [0, 100]),
      when: (v) => v['table'] !== null,
    },
  ],
  drawing(values) {
    const { exposure, contrast, shadows, middles, highlights, saturation, warmth, tint, table } = values;
    const plain =
      [exposure, shadows, middles, highlights, warmth, tint].every((v) => v === 0) &&
      contrast === 100 &&
      saturation === 100;
    return plain && !table ? undefined : (values as unknown as Drawing);
  },
  draw(surface, drawing, _unit, tables) {
    const { saturation, warmth, tint, table, tableAmount } = drawing;
    const curve = curveOf(drawing);
    const channel = (by: number) => tableOf((x) => curve(x) * by);
    surface.tables(
      channel(1 + warmth / 400 + tint / 600),
      channel(1 - tint / 400),
      channel(1 - warmth / 400 + tint / 600),
    );
    if (saturation !== 100) {
      const s = saturation / 100;
      const row = (c: number): [number, number, number] => [
        LUMA[0] * (1 - s) + (c === 0 ? s : 0),
        LUMA[1] * (1 - s) + (c === 1 ? s : 0),
        LUMA[2] * (1 - s) + (c === 2 ? s : 0),
      ];
      surface.matrix([row(0), row(1), row(2)]);
    }
    const bytes = table && tables(table.key);
    if (!table || !bytes) return;
    surface.share(tableAmount / 100, () => {
      if (table.kind === '3d') surface.cube(table.key, table.size, bytes);
      else surface.tables(bytes.subarray(0, 256), bytes.subarray(256, 512), bytes.subarray(512));
    });
  },
};
