import { setFormat } from '@skipback/core/project/actions';
import type { Between } from '@skipback/core/gather/gather';
import { setNewBetween } from '@skipback/core/project/gather-actions';
import type { Project } from '@skipback/core/project/schema';
import { STANDARD_RATES, rateText } from '@skipback/core/time/rational';
import { BETWEEN } from '../bench/in-between';
import { ChoiceField } from '../parts/choice-field';
import { Line } from '../parts/line';
import { act } from '../state/project-store';

const HEIGHTS = [2160, 1440, 1080, 720, 540, 360];

/** Sizes that people post: wide, tall, square. */
const POSTED = [
  { width: 1920, height: 1080, words: 'wide' },
  { width: 1080, height: 1920, words: 'tall' },
  { width: 1080, height: 1350, words: 'portrait' },
  { width: 1080, height: 1080, words: 'square' },
] as const;

/** Sizes on offer: the usual ones in the project's shape, and the one it has. */
function sizesFor({ width, height }: Project['size']) {
  const even = (n: number) => 2 * Math.round(n / 2);
  const usual = HEIGHTS.map((h) => ({ width: even((h * width) / height), height: h }));
  const all = usual.some((s) => s.width === width && s.height === height)
    ? usual
    : [{ width, height }, ...usual];
  const own = all.filter((s) => s.width <= 8192).map((s) => ({ ...s, words: '' }));
  const known = (s: { width: number; height: number }) =>
    own.some((o) => o.width === s.width && o.height === s.height);
  return [...own, ...POSTED.filter((s) => !known(s))];
}

/** Frame rate and picture size of the whole project: what results are counted in. */
export function ProjectFormat({ project }: { readonly project: Project }) {
  const text = (s: Project['size']) => `${s.width}×${s.height}`;
  const sizes = sizesFor(project.size);
  const rates = STANDARD_RATES.filter((r) => r.num / r.den <= 60);
  const own = rateText(project.rate);
  const words = rates.map(rateText);
  const options = (words.includes(own) ? words : [own, ...words]).map((w) => ({
    value: w,
    label: `${w} frames/s`,
  }));
  return (
    <>
      <Line tall label="Project rate">
        <ChoiceField
          label="Project rate"
          value={own}
          options={options}
          onChange={(value) => {
            const rate = rates.find((r) => rateText(r) === value);
            if (rate) act('change the project rate', (p) => setFormat(p, { rate, size: p.size }));
          }}
        />
      </Line>
      <Line tall label="Project picture">
        <ChoiceField
          label="Project picture"
          value={text(project.size)}
          options={sizes.map((s) => ({
            value: text(s),
            label: s.words === '' ? text(s) : `${text(s)}, ${s.words}`,
          }))}
          onChange={(value) => {
            const found = sizes.find((s) => text(s) === value);
            const size = found && { width: found.width, height: found.height };
            if (size) act('change the picture size', (p) => setFormat(p, { rate: p.rate, size }));
          }}
        />
      </Line>
      <Line tall label="In-between frames of new pieces">
        <ChoiceField
          label="In-between frames of new pieces"
          value={project.between}
          options={BETWEEN}
          onChange={(value) =>
            act(`new pieces ${value} between frames`, (p) => setNewBetween(p, value as Between))
          }
        />
      </Line>
    </>
  );
}
