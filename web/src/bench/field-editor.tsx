import { type Field, inFrames } from '@skipback/core/moves/move';
import { type ChainStep, valuesOf } from '@skipback/core/moves/registry';
import { beatsText, isInBeats, parseBeats } from '@skipback/core/moves/beat-values';
import { setStepValue } from '@skipback/core/project/actions';
import { parseFrames, parsePercent, percentText } from '@skipback/core/time/entry';
import { type Rational, toNumber } from '@skipback/core/time/rational';
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
          if (next === undefined) return false;
          set(next);
          return true;
        }}
      />
    );
  const frames = inFrames(field);
  const inBeats = frames && isInBeats(value) ? value : undefined;
  const clamp = (n: number) => Math.min(field.max, Math.max(field.min, n));
  const read = {
    count: (t: string) => (/^\d+(\.\d+)?$/.test(t.trim()) ? Number(t) : undefined),
    percent: parsePercent,
    length: (t: string) => parseFrames(t, rate),
    place: (t: string) => parseFrames(t, rate),
  }[field.kind];
  const framesText = (n: number) => `${n} f  ${Number((n / toNumber(rate)).toFixed(2))} s`;
  const text = {
    count: String,
    percent: percentText,
    length: framesText,
    place: framesText,
  }[field.kind];
  return (
    <ValueField
      label={label}
      text={inBeats ? beatsText(inBeats) : text(Number(value))}
      hint={field.help}
      width={frames ? 128 : 84}
      onEnter={(typed) => {
        const beats = frames ? parseBeats(typed, beatsPerBar()) : undefined;
        if (beats) {
          set(beats);
          return true;
        }
        const n = read(frames ? typed.replace(/\s{2}.*$/, '') : typed);
        if (n === undefined || n < field.min || n > field.max) return false;
        set(n);
        return true;
      }}
      onStep={(by) =>
        inBeats
          ? set({ beats: Math.max(0, inBeats.beats + by * 0.5) })
          : set(clamp(Math.round(Number(value) + by * (field.kind === 'percent' ? 5 : 1))))
      }
    />
  );
}
