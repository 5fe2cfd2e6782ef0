import { parseAmount } from '@skipback/core/time/amount';
import { Box, Button, IconButton, Switch } from '@mui/material';
import { type Driver, DriverSchema, EASES, type Ease } from '@skipback/core/looks/driver';
import { later } from '@skipback/core/places/moved';
import type { LookPlace } from '@skipback/core/project/look-actions';
import { Plus, X } from 'lucide-react';
import { ChoiceField } from '../parts/choice-field';
import { Line } from '../parts/line';
import { PlaceField } from '../parts/place-field';
import { InsidePanel } from '../parts/inside';
import { ValueField } from '../parts/value-field';
import { colors } from '../theme';
import { DriverCurve } from './driver-curve';
import type { Ground } from './ground';

interface Props {
  /** What is driven: "Punch: Zoom". */
  readonly label: string;
  /** The driver, or the number that stands still. */
  readonly value: Driver | number;
  readonly limits: { readonly min: number; readonly max: number };
  readonly ground: Ground;
  readonly onChange: (value: Driver | number) => void;
  /** The key of the value. */
  readonly what: string;
}

const KINDS: readonly { value: Driver['kind'] | 'constant'; label: string }[] = [
  { value: 'constant', label: 'constant' },
  { value: 'keys', label: 'keyframes' },
  { value: 'pulse', label: 'song' },
  { value: 'steps', label: 'steps' },
  { value: 'speed', label: 'clip speed' },
  { value: 'progress', label: 'start to end' },
  { value: 'random', label: 'random' },
];
const EASE_WORDS: Record<Ease, string> = {
  even: 'even',
  in: 'ease in',
  out: 'ease out',
  both: 'ease both',
  hold: 'hold',
};
const EASE_OPTIONS = EASES.map((value) => ({ value, label: EASE_WORDS[value] }));

/** A driver of a kind that begins where the value stands. */
function fresh(kind: Driver['kind'], at: number, { min, max }: Props['limits']): Driver {
  const other =
    at +
    (max - at > at - min ? 1 : -1) * Math.min(Math.max(max - at, at - min), Math.max(20, Math.abs(at) / 2));
  return DriverSchema.parse(
    {
      keys: {
        kind,
        keys: [
          { at: 0, value: at },
          { at: 30, value: other },
        ],
      },
      pulse: { kind, rest: at, depth: other - at, on: 'beats' },
      steps: { kind, values: [at, other], every: 4 },
      speed: { kind, fromPercent: 0, from: at, toPercent: 200, to: other },
      progress: { kind, from: at, to: other },
      random: { kind, rest: at, within: Math.abs(other - at), every: 4, homeOver: 8 },
    }[kind],
  );
}

/** What moves a value: its kind, its numbers, and its curve over the frames where the look applies. */
export function DriverPanel({ label, value, limits, ground, what, onChange }: Props) {
  const { facts, stretches, where, card } = ground;
  const driver = typeof value === 'number' ? undefined : value;
  const middle = typeof value === 'number' ? value : restOf(value);
  return (
    <InsidePanel card={card} what={what} name={`What moves ${label}`}>
      <Line label={label} quiet={false}>
        <ChoiceField
          label={`${label} moves`}
          value={driver?.kind ?? 'constant'}
          options={KINDS}
          onChange={(kind) =>
            onChange(kind === 'constant' ? middle : fresh(kind as Driver['kind'], middle, limits))
          }
        />
      </Line>
      {driver && (
        <>
          <Box sx={{ bgcolor: colors.ground, borderRadius: 1, my: 1, p: 0.5 }}>
            <DriverCurve {...{ driver, facts, stretches }} width={300} height={64} fills />
          </Box>
          <Fields
            label={label}
            driver={driver}
            where={where}
            onChange={(next) => onChange(DriverSchema.parse(next))}
          />
          {driver.kind === 'pulse' && !facts.music && (
            <Box sx={{ color: colors.attention, fontSize: 12.5, mt: 0.5 }}>
              There is no song with beats yet.
            </Box>
          )}
        </>
      )}
    </InsidePanel>
  );
}

/** The value a driver is at when it does nothing. */
function restOf(driver: Driver): number {
  if ('rest' in driver) return driver.rest;
  if (driver.kind === 'keys') return driver.keys[0]!.value;
  if (driver.kind === 'steps') return driver.values[0]!;
  return driver.from;
}

function Fields({
  label,
  driver,
  where,
  onChange,
}: {
  label: string;
  driver: Driver;
  where: LookPlace;
  onChange: (next: object) => void;
}) {
  const number = (words: string, key: string, unit = '', least = -1e6) => {
    const value = (driver as unknown as Record<string, number>)[key]!;
    return (
      <Line label={words}>
        <Amount
          label={`${label}, ${words.toLowerCase()}`}
          value={value}
          least={least}
          onChange={(n) => onChange({ ...driver, [key]: n })}
        />
        <Box sx={{ width: 14, color: colors.quiet }}>{unit}</Box>
      </Line>
    );
  };
  const whole = (words: string, key: string, unit = '') => number(words, key, unit, 1);
  const toggle = (words: string, key: string) => (
    <Line label={words}>
      <Switch
        size="small"
        checked={(driver as unknown as Record<string, boolean>)[key]!}
        slotProps={{ input: { 'aria-label': `${label}, ${words.toLowerCase()}` } }}
        onChange={(_, on) => onChange({ ...driver, [key]: on })}
      />
    </Line>
  );
  const ease = (value: Ease, change: (ease: string) => void, words: string) => (
    <ChoiceField label={words} value={value} options={EASE_OPTIONS} onChange={change} />
  );
  switch (driver.kind) {
    case 'keys':
      return (
        <>
          <Line label="Frames count from">
            <ChoiceField
              label={`${label}, frames count from`}
              value={driver.counts}
              options={[
                { value: 'stretch', label: 'where it begins' },
                { value: 'result', label: 'the first frame' },
              ]}
              onChange={(counts) => onChange({ ...driver, counts })}
            />
          </Line>
          {driver.keys.map((key, i) => (
            <Box key={i} sx={{ display: 'flex', alignItems: 'center', gap: 0.75, minHeight: 30 }}>
              <PlaceField
                label={`${label}, keyframe ${i + 1} at`}
                value={key.at}
                pieceId={where}
                lengths={driver.counts === 'stretch'}
                width={typeof key.at === 'number' ? 52 : 92}
                onChange={(at) =>
                  onChange({
                    ...driver,
                    keys: driver.keys.with(i, { ...key, at: typeof at === 'number' ? Math.round(at) : at }),
                  })
                }
              />
              {typeof key.at === 'number' && 'f'}
              <Amount
                label={`${label}, keyframe ${i + 1}`}
                value={key.value}
                least={-1e6}
                width={60}
                onChange={(n) => onChange({ ...driver, keys: driver.keys.with(i, { ...key, value: n }) })}
              />
              <Box sx={{ flex: 1 }} />
              {ease(
                key.ease,
                (next) => onChange({ ...driver, keys: driver.keys.with(i, { ...key, ease: next as Ease }) }),
                `${label}, keyframe ${i + 1} goes on`,
              )}
              <IconButton
                size="small"
                aria-label={`Remove keyframe ${i + 1} of ${label}`}
                disabled={driver.keys.length === 1}
                onClick={() => onChange({ ...driver, keys: driver.keys.filter((_, j) => j !== i) })}
              >
                <X size={14} />
              </IconButton>
            </Box>
          ))}
          <Button
            size="small"
            color="inherit"
            startIcon={<Plus size={14} />}
            onClick={() => {
              const last = driver.keys.at(-1)!;
              onChange({ ...driver, keys: [...driver.keys, { ...last, at: later(last.at, 15) }] });
            }}
          >
            Add a keyframe
          </Button>
        </>
      );
    case 'pulse':
      return (
        <>
          <Line label="On">
            <ChoiceField
              label={`${label}, on`}
              value={driver.on}
              options={[
                { value: 'beats', label: 'beats' },
                { value: 'bars', label: 'bars' },
                { value: 'low', label: 'kicks' },
                { value: 'mid', label: 'snares' },
                { value: 'high', label: 'hats' },
              ]}
              onChange={(on) => onChange({ ...driver, on })}
            />
          </Line>
          {whole('Every', 'every')}
          {whole('From the', 'from')}
          {number('At rest', 'rest')}
          {number('Up by', 'depth')}
          {number('Rises over', 'rise', 'f', 0)}
          {number('Holds', 'hold', 'f', 0)}
          {number('Falls over', 'fall', 'f', 0)}
          {toggle('Alternate direction', 'alternating')}
        </>
      );
    case 'steps':
      return (
        <>
          <Line label="Values">
            <ValueField
              label={`${label}, values`}
              text={driver.values.join(', ')}
              width={180}
              hint="Numbers with commas between them"
              onEnter={(typed) => {
                const values = typed
                  .split(/[,;]\s*|\s+/)
                  .filter(Boolean)
                  .map(Number);
                if (values.length === 0 || !values.every(Number.isFinite)) return false;
                onChange({ ...driver, values });
                return true;
              }}
            />
          </Line>
          {whole('Another every', 'every', 'f')}
          {toggle('Ease between values', 'smooth')}
        </>
      );
    case 'speed':
      return (
        <>
          {number('At a speed of', 'fromPercent', '%')}
          {number('it is', 'from')}
          {number('At', 'toPercent', '%')}
          {number('it is then', 'to')}
          {toggle('Backward speeds are negative', 'signed')}
        </>
      );
    case 'progress':
      return (
        <>
          {number('From', 'from')}
          {number('To', 'to')}
          <Line label="On the way">
            {ease(driver.ease, (next) => onChange({ ...driver, ease: next }), `${label}, on the way`)}
          </Line>
        </>
      );
    case 'random':
      return (
        <>
          {number('At rest', 'rest')}
          {number('Up to', 'within', '', 0)}
          {whole('Another every', 'every', 'f')}
          {number('Seed', 'seed', '', 0)}
          {toggle('Ease between values', 'smooth')}
          {toggle('Return to the start value', 'comesHome')}
          {driver.comesHome && whole('Eased over', 'homeOver', 'f')}
        </>
      );
  }
}

function Amount({
  label,
  value,
  least,
  width = 74,
  onChange,
}: {
  label: string;
  value: number;
  least: number;
  width?: number;
  onChange: (n: number) => void;
}) {
  return (
    <ValueField
      label={label}
      text={String(Number(value.toFixed(3)))}
      width={width}
      onEnter={(typed) => {
        const n = parseAmount(typed, { least, most: 1_000_000, whole: least === 1 });
        if (typeof n === 'string') return n;
        onChange(n);
        return true;
      }}
      onStep={(by) => onChange(Math.max(least, value + by))}
    />
  );
}
