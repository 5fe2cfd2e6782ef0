import type { Field } from '@skipback/core/moves/move';
import { type ChainStep, moveById, valuesOf } from '@skipback/core/moves/registry';
import { beatsText } from '@skipback/core/places/beats-text';
import { type Place, isInBeats, isPlace } from '@skipback/core/places/place';
import { type Telling, placeText, segmentText } from '@skipback/core/places/words';
import { percentText } from '@skipback/core/time/entry';

/** How many values a folded card tells. */
const MOST = 3;

function told(field: Field<Record<string, unknown>>, value: unknown, telling: Telling): string {
  if (field.kind === 'choice') return field.options.find((o) => o.value === value)?.label ?? String(value);
  if (field.kind === 'text') return field.summary(value, telling);
  if (isPlace(value) || field.kind === 'place') return placeText(value as Place, telling);
  if (isInBeats(value)) return beatsText(value);
  const n = Number(value);
  if (field.kind === 'percent')
    return field.label === 'Speed' ? percentText(n) : `${field.label.toLowerCase()} ${percentText(n)}`;
  if (field.kind === 'length') return `${Number(n.toFixed(2))} f`;
  if (field.kind === 'count') return `${n} ${field.label.toLowerCase().replace(n === 1 ? /s$/ : /$^/, '')}`;
  return String(Number(n.toFixed(2)) + (field.kind === 'beat' ? 0 : telling.first));
}

/** What a move is set to, in a few words: what is not as it begins first; and the part it is limited to. */
export function stepBrief(step: ChainStep, telling: Telling): string {
  const move = moveById(step.move);
  if (!move) return '';
  const values = valuesOf(step);
  const seen = move.fields.filter((f) => f.when?.(values, step.zone !== undefined) ?? true);
  const changed = (f: (typeof seen)[number]) =>
    JSON.stringify(values[f.key]) !== JSON.stringify(move.defaults[f.key]);
  // How it is set is seen by what it is set to.
  const worth = seen.filter((f) => !(move.views && f.kind === 'choice'));
  const set = worth.filter(changed);
  const chosen = new Set((set.length > 0 ? set : worth).slice(0, MOST));
  const { zone } = step;
  const only = !zone
    ? []
    : 'segment' in zone
      ? [segmentText(zone.segment, telling)]
      : [`${placeText(zone.from, telling)} to ${placeText(zone.to, telling)}`];
  return [...only, ...seen.filter((f) => chosen.has(f)).map((f) => told(f, values[f.key], telling))].join(
    ', ',
  );
}
