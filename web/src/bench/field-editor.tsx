import { timeAt } from '../state/time-at';
import {
  parseAmount,
  parseLength,
  parseShare,
  framesAndSeconds,
  changedHalf,
} from '@skipback/core/time/amount';
import { type Field, inFrames } from '@skipback/core/moves/move';
import { type ChainStep, valuesOf } from '@skipback/core/moves/registry';
import { beatsText, parseBeats } from '@skipback/core/places/beats-text';
import { isInBeats } from '@skipback/core/places/place';
import { setStepValue } from '@skipback/core/project/actions';
import { percentText } from '@skipback/core/time/entry';
import type { Rational } from '@skipback/core/time/rational';
import { ChoiceField } from '../parts/choice-field';
import { ValueField } from '../parts/value-field';
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
}: {
  pieceId: string;
  step: ChainStep;
  name: string;
  field: Field<Values>;
  rate: Rational;
}) {
  const value = valuesOf(step)[field.key];
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
        onChange={set}
        hint={field.help}
      />
    );
  if (field.kind === 'text')
    return (
      <ValueField
        label={label}
        text={field.write(value)}
        hint={field.help}
        width="100%"
        lines
        onEnter={(typed) => {
          const next = field.read(typed);
          if (next === undefined)
            return `“${typed.trim().slice(0, 40)}” is not understood here. ${field.help}`;
          set(next);
          return true;
        }}
      />
    );
  const frames = inFrames(field);
  const inBeats = frames && isInBeats(value) ? value : undefined;
  const clamp = (n: number) => Math.min(field.max, Math.max(field.min, n));
  const limits = { least: field.min, most: field.max };
  const length = (typed: string) => parseLength(typed, rate, { ...limits, shown: text, beat: timeAt().beat });
  const read = {
    count: (typed: string) => parseAmount(typed, limits),
    percent: (typed: string) => parseShare(typed, field.min, field.max),
    length,
    place: length,
  }[field.kind];
  const framesText = (n: number) => framesAndSeconds(n, rate);
  const textOf = {
    count: String,
    percent: percentText,
    length: framesText,
    place: framesText,
  }[field.kind];
  const text = inBeats ? beatsText(inBeats) : textOf(Number(value));
  // Percents go by fives, and with Alt by halves.
  const stepped = (n: number, by: number) =>
    field.kind === 'percent' ? Number((n + by * 5).toFixed(1)) : Math.round(n + by);
  return (
    <ValueField
      label={label}
      text={text}
      hint={field.help}
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
