import { timeAt } from '../state/time-at';
import {
  parseAmount,
  parseLength,
  parseShare,
  framesAndSeconds,
  changedHalf,
} from '@skipback/core/time/amount';
import type { Field } from '@skipback/core/moves/move';
import { type ChainStep, moveById, valuesOf } from '@skipback/core/moves/registry';
import { beatsText, parseBeats } from '@skipback/core/places/beats-text';
import { type Place, type SourcePlace, isInBeats, isPlace } from '@skipback/core/places/place';
import { readBeat, readSource } from '@skipback/core/places/read';
import { placeText } from '@skipback/core/places/words';
import { setStepValue, setStepValues } from '@skipback/core/project/actions';
import { percentText } from '@skipback/core/time/entry';
import type { Rational } from '@skipback/core/time/rational';
import { ChoiceField } from '../parts/choice-field';
import { PlaceField } from '../parts/place-field';
import { ValueField } from '../parts/value-field';
import { usePlaceWords } from '../state/place-words';
import { act } from '../state/project-store';
import { songNow } from '../state/song';

/** Beats in a bar of the song, for lengths typed in bars. */
const beatsPerBar = () => songNow()?.grid.beatsPerBar ?? 4;

type Values = Record<string, unknown>;

/** One value of a move, edited where it stands, in the way its kind is typed. */
export function FieldEditor({
  pieceId,
  step,
  name,
  field,
  rate,
  lasts,
}: {
  pieceId: string;
  step: ChainStep;
  /** How long what it works on lasts, and what it makes of it, frames. */
  lasts?: { readonly before: number; readonly after: number } | undefined;
  name: string;
  field: Field<Values>;
  rate: Rational;
}) {
  const value = valuesOf(step)[field.key];
  const words = usePlaceWords(pieceId);
  const label = `${name}: ${field.label}`;
  const set = (next: unknown) =>
    act(`change ${name}, ${field.label.toLowerCase()}`, (p) =>
      setStepValue(p, pieceId, step.id, field.key, next),
    );
  if (field.kind === 'choice')
    return (
      <ChoiceField
        label={label}
        value={String(value)}
        options={field.options}
        onChange={(next) => {
          // Another view of the same value shows what that is now: no picture changes.
          const views = lasts && moveById(step.move)?.views?.(valuesOf(step), field.key, next, lasts);
          act(`change ${name}, ${field.label.toLowerCase()}`, (p) =>
            setStepValues(p, pieceId, step.id, { ...views, [field.key]: next }),
          );
        }}
        hint={field.help}
      />
    );
  if (field.kind === 'text')
    return (
      <ValueField
        label={label}
        text={field.write(value, words.telling)}
        hint={field.help}
        width="100%"
        lines
        onEnter={(typed) => {
          const next = field.read(typed, words.reading());
          if (next === undefined)
            return `“${typed.trim().slice(0, 40)}” is not understood here. ${field.help}`;
          set(next);
          return true;
        }}
      />
    );
  if (field.kind === 'place')
    return (
      <PlaceField
        label={label}
        value={value as Place}
        pieceId={pieceId}
        least={field.min}
        most={field.max}
        rate={rate}
        counts={field.counts}
        hint={`${field.help} A frame or a time, source 93, a mark, beat 5, kick 3, 1/3, end - 12 f.`}
        onChange={set}
      />
    );
  if (field.kind === 'source' || field.kind === 'beat')
    return <NamedField label={label} field={field} value={value} pieceId={pieceId} onChange={set} />;
  const frames = field.kind === 'length';
  const inBeats = frames && isInBeats(value) ? value : undefined;
  const clamp = (n: number) => Math.min(field.max, Math.max(field.min, n));
  const limits = { least: field.min, most: field.max };
  const length = (typed: string) => parseLength(typed, rate, { ...limits, shown: text, beat: timeAt().beat });
  const read = {
    count: (typed: string) => parseAmount(typed, limits),
    percent: (typed: string) => parseShare(typed, field.min, field.max),
    length,
  }[field.kind];
  const framesText = (n: number) => framesAndSeconds(n, rate);
  const textOf = {
    count: String,
    percent: percentText,
    length: framesText,
  }[field.kind];
  const text = inBeats ? beatsText(inBeats) : textOf(Number(value));
  // Percents go by fives, and with Alt by halves.
  const stepped = (n: number, by: number) =>
    field.kind === 'percent' ? Number((n + by * 5).toFixed(1)) : Math.round(n + by);
  return (
    <ValueField
      label={label}
      text={text}
      hint={frames ? `${field.help} 40 f, 1.5 s, 2 beats, 1 bar.` : field.help}
      tells={frames}
      fine={field.kind === 'percent' || inBeats !== undefined}
      width={frames ? 128 : 84}
      onEnter={(typed) => {
        const beats = frames ? parseBeats(changedHalf(typed, text), beatsPerBar()) : undefined;
        if (beats) {
          set(beats);
          return true;
        }
        const n = read(typed);
        if (typeof n === 'string') return n;
        set(n);
        return true;
      }}
      onStep={(by) =>
        inBeats
          ? set({ beats: Math.max(0, inBeats.beats + by * 0.5) })
          : set(clamp(stepped(Number(value), by)))
      }
    />
  );
}

/** A frame of the clip or a mark of it; or a beat, a bar, an accent of the song. */
function NamedField({
  label,
  field,
  value,
  pieceId,
  onChange,
}: {
  readonly label: string;
  readonly field: Field<Values> & {
    readonly kind: 'source' | 'beat';
    readonly min: number;
    readonly max: number;
  };
  readonly value: unknown;
  readonly pieceId: string;
  readonly onChange: (value: unknown) => void;
}) {
  const { telling, reading, offers } = usePlaceWords(pieceId);
  const clip = field.kind === 'source';
  const plain = clip ? telling.first : 0;
  const text = isPlace(value) ? placeText(value, telling) : String(Number(value) + plain);
  const read = (typed: string): unknown => {
    if (!clip) return readBeat(typed, reading());
    const place = readSource(typed, reading()) as number | SourcePlace | undefined;
    if (place === undefined) return `“${typed.slice(0, 24)}” is no frame of the clip here. ${field.help}`;
    return typeof place === 'object' && 'source' in place ? place.source : place;
  };
  return (
    <ValueField
      label={label}
      text={text}
      hint={field.help}
      width={100}
      offers={offers.filter((o) => (clip ? o.startsWith('mark') : /^(beat|bar|kick|snare)/.test(o)))}
      onEnter={(typed) => {
        const next = read(typed);
        if (typeof next === 'string') return next;
        if (typeof next === 'number' && (next < field.min || next > field.max))
          return `From ${field.min} to ${field.max}.`;
        onChange(next);
        return true;
      }}
      onStep={(by) => {
        if (isPlace(value) && 'beat' in value) onChange({ ...value, beat: Math.max(1, value.beat + by) });
        else if (typeof value === 'number')
          onChange(Math.min(field.max, Math.max(field.min, Math.round(value + by))));
        else if (isPlace(value) && 'mark' in value)
          onChange({ ...value, plus: Math.round(Number(value.plus ?? 0) + by) });
      }}
    />
  );
}
