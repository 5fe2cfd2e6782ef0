import { timeAt } from '../state/time-at';
import { parseLength, parseShare } from '@skipback/core/time/amount';
import { Box, Button, IconButton, ToggleButton } from '@mui/material';
import { type Condition, ConditionSchema, type Scope } from '@skipback/core/looks/scope';
import type { SourcePlace } from '@skipback/core/places/place';
import type { LookPlace } from '@skipback/core/project/look-actions';
import { percentText } from '@skipback/core/time/entry';
import type { Rational } from '@skipback/core/time/rational';
import { Plus, X } from 'lucide-react';
import { ChoiceField } from '../parts/choice-field';
import { Line } from '../parts/line';
import { PlaceField } from '../parts/place-field';
import { InsidePanel } from '../parts/inside';
import { ValueField } from '../parts/value-field';
import { colors } from '../theme';

interface Props {
  /** The look's. */
  readonly card: string;
  readonly name: string;
  readonly scope: Scope;
  readonly rate: Rational;
  /** Marks there are, by name. */
  readonly marks: readonly string[];
  /** The place in the clip that is looked at, if any. */
  readonly begins: () => SourcePlace | undefined;
  /** Frames that what the look does lasts, from where it begins; 0 where it does not fade by itself. */
  readonly lasts: number;
  /** The piece whose look it is; null for one of the whole result. */
  readonly where: LookPlace;
  readonly onChange: (scope: Scope) => void;
}

/** A condition that a newer version wrote. */
const NOT_KNOWN = { value: 'unknown', label: 'not known to this version' } as const;

const KINDS: readonly { value: Condition['kind']; label: string; fresh: object }[] = [
  { value: 'way', label: 'parts that play', fresh: { way: 'backward' } },
  { value: 'first', label: 'the first frames of parts', fresh: { frames: 6, way: 'backward' } },
  { value: 'last', label: 'the last frames of parts', fresh: { frames: 6, way: 'forward' } },
  { value: 'slower', label: 'slower than', fresh: { percent: 100 } },
  { value: 'faster', label: 'faster than', fresh: { percent: 100 } },
  { value: 'turns', label: 'around turns', fresh: { before: 2, after: 2 } },
  { value: 'joins', label: 'around joins', fresh: { before: 2, after: 2 } },
  { value: 'beats', label: 'on beats', fresh: { of: 'beats', every: 1, from: 1, before: 0, after: 6 } },
  { value: 'accents', label: 'on accents', fresh: { band: 'low', before: 0, after: 6 } },
  { value: 'mark', label: 'around a mark', fresh: { name: '', before: 0, after: 12 } },
  { value: 'range', label: 'from one place to another', fresh: { from: 0, to: 30 } },
];
const JOINS = ['and', 'or'].map((value) => ({ value, label: value }));
const WAYS = ['forward', 'backward', 'held'].map((value) => ({ value, label: value }));

/** Where a look applies, built of short choices: all of them must hold. */
export function ScopePanel({ card, name, scope, rate, marks, begins, lasts, where, onChange }: Props) {
  const set = (i: number, next: Condition) => onChange({ ...scope, all: scope.all.with(i, next) });
  const frames = (label: string, value: number, change: (n: number) => void) => (
    <ValueField
      label={label}
      text={String(value)}
      width={54}
      hint="Frames"
      onEnter={(typed) => {
        const n = parseLength(typed, rate, { least: 0, most: 10_000_000, beat: timeAt().beat });
        if (typeof n === 'string') return n;
        change(n);
        return true;
      }}
      onStep={(by) => change(Math.max(0, value + by))}
    />
  );
  return (
    <InsidePanel card={card} what="scope" name={`Where ${name} applies`}>
      {scope.all.length === 0 && (
        <Box sx={{ color: colors.quiet, mb: 1 }}>Applies everywhere. Add a condition to limit it.</Box>
      )}
      {scope.all.map((condition, i) => (
        <Box key={i} sx={{ display: 'flex', alignItems: 'center', gap: 0.75, flexWrap: 'wrap', pb: 1 }}>
          {i > 0 && (
            <ChoiceField
              label={`${name}: condition ${i + 1} joins by`}
              value={scope.either ? 'or' : 'and'}
              options={JOINS}
              hint="And: where all of them hold. Or: where one of them is enough."
              onChange={(how) => onChange({ ...scope, either: how === 'or' })}
            />
          )}
          <ToggleButton
            size="small"
            value="not"
            selected={condition.not}
            aria-label={`not: condition ${i + 1} of ${name} turned round`}
            onChange={() => set(i, { ...condition, not: !condition.not })}
            sx={{
              px: 0.75,
              py: 0,
              fontSize: 12,
              borderRadius: 1.5,
              '&.Mui-selected': { color: colors.attention },
            }}
          >
            not
          </ToggleButton>
          <ChoiceField
            label={`${name}: condition ${i + 1}`}
            value={condition.kind}
            options={condition.kind === 'unknown' ? [NOT_KNOWN, ...KINDS] : KINDS}
            onChange={(kind) =>
              kind !== NOT_KNOWN.value &&
              set(
                i,
                ConditionSchema.parse({
                  kind,
                  not: condition.not,
                  ...KINDS.find((k) => k.value === kind)!.fresh,
                  ...(kind === 'range' && rangeAt(begins())),
                  // The first mark there is.
                  ...(kind === 'mark' && { name: marks[0] ?? '' }),
                  // As long as what the look does there lasts.
                  ...((kind === 'beats' || kind === 'accents') && lasts > 6 && { after: lasts }),
                }),
              )
            }
          />
          <Box sx={{ flex: 1 }} />
          <IconButton
            size="small"
            aria-label={`Remove condition ${i + 1} of ${name}`}
            onClick={() => onChange({ ...scope, all: scope.all.filter((_, j) => j !== i) })}
          >
            <X size={14} />
          </IconButton>
          <Box
            sx={{
              flexBasis: '100%',
              display: 'flex',
              alignItems: 'center',
              flexWrap: 'wrap',
              gap: 0.75,
              pl: 1,
            }}
          >
            <ConditionFields
              name={`${name}: condition ${i + 1}`}
              condition={condition}
              marks={marks}
              where={where}
              frames={frames}
              onChange={(next) => set(i, next)}
            />
          </Box>
        </Box>
      ))}
      <Button
        size="small"
        color="inherit"
        startIcon={<Plus size={14} />}
        disabled={scope.all.length >= 12}
        onClick={() =>
          onChange({
            ...scope,
            all: [...scope.all, ConditionSchema.parse({ kind: 'way', way: 'backward' })],
          })
        }
      >
        Add a condition
      </Button>
      <Box sx={{ borderTop: `1px solid ${colors.line}`, mt: 1, pt: 1 }}>
        <Line label="Fades in over">
          {frames(`${name}: fades in over`, scope.fadeIn, (fadeIn) => onChange({ ...scope, fadeIn }))} f
        </Line>
        <Line label="Fades out over">
          {frames(`${name}: fades out over`, scope.fadeOut, (fadeOut) => onChange({ ...scope, fadeOut }))} f
        </Line>
      </Box>
    </InsidePanel>
  );
}

/** A second from a place on; from the first frame without one. */
const rangeAt = (place: SourcePlace | undefined) =>
  place ? { from: place, to: { ...place, plus: 30 } } : {};

/** What a condition says besides its kind. */
function ConditionFields({
  name,
  condition: c,
  marks,
  where,
  frames,
  onChange,
}: {
  name: string;
  condition: Condition;
  marks: readonly string[];
  where: LookPlace;
  frames: (label: string, value: number, change: (n: number) => void) => React.ReactNode;
  onChange: (next: Condition) => void;
}) {
  const around = 'before' in c && (
    <>
      {frames(`${name}, frames before`, c.before, (before) => onChange({ ...c, before }))} before,
      {frames(`${name}, frames after`, c.after, (after) => onChange({ ...c, after }))} after
    </>
  );
  return (
    <>
      {(c.kind === 'first' || c.kind === 'last') &&
        frames(`${name}, frames`, c.frames, (n) => onChange({ ...c, frames: Math.max(1, n) }))}
      {'way' in c && (
        <ChoiceField
          label={`${name}, way`}
          value={c.way}
          options={WAYS}
          onChange={(way) => onChange({ ...c, way: way as typeof c.way })}
        />
      )}
      {'percent' in c && (
        <ValueField
          label={`${name}, speed`}
          text={percentText(c.percent)}
          width={64}
          onEnter={(typed) => {
            const percent = parseShare(typed, 0, 10_000);
            if (typeof percent === 'string') return percent;
            onChange({ ...c, percent });
            return true;
          }}
          onStep={(by) => onChange({ ...c, percent: Math.max(0, c.percent + 5 * by) })}
        />
      )}
      {c.kind === 'range' && (
        <>
          <PlaceField
            label={`${name}, from`}
            value={c.from}
            pieceId={where}
            width={typeof c.from === 'number' ? 54 : 136}
            onChange={(from) => onChange({ ...c, from })}
          />
          to
          <PlaceField
            label={`${name}, to`}
            value={c.to}
            pieceId={where}
            width={typeof c.to === 'number' ? 54 : 136}
            onChange={(to) => onChange({ ...c, to })}
          />
        </>
      )}
      {c.kind === 'beats' && (
        <>
          <ChoiceField
            label={`${name}, of`}
            value={c.of}
            options={[
              { value: 'beats', label: 'beats' },
              { value: 'bars', label: 'bars' },
            ]}
            onChange={(of) => onChange({ ...c, of: of as typeof c.of })}
          />
          every
          {frames(`${name}, every`, c.every, (n) => onChange({ ...c, every: Math.min(64, Math.max(1, n)) }))}
          from
          {frames(`${name}, first`, c.from, (n) => onChange({ ...c, from: Math.min(64, Math.max(1, n)) }))}
        </>
      )}
      {c.kind === 'accents' && (
        <ChoiceField
          label={`${name}, accents`}
          value={c.band}
          options={[
            { value: 'low', label: 'low: kicks' },
            { value: 'mid', label: 'mid: snares' },
            { value: 'high', label: 'high: hats' },
          ]}
          onChange={(band) => onChange({ ...c, band: band as typeof c.band })}
        />
      )}
      {c.kind === 'mark' && (
        <ChoiceField
          label={`${name}, mark`}
          value={c.name}
          options={[{ value: '', label: 'choose' }, ...marks.map((m) => ({ value: m, label: m }))]}
          onChange={(mark) => onChange({ ...c, name: mark })}
        />
      )}
      {around}
    </>
  );
}
