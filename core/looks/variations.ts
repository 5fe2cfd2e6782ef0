import { type Random, seeded } from '../moves/random';
import { type Driver, DriverSchema, isDriver } from './driver';
import { shownValues } from './moments';
import type { AnyTreatment, LookField } from './treatment';

type Values = Record<string, unknown>;
type NumberField = Extract<LookField, { kind: 'number' }>;

/** Attempts at a variation that differs from those before it. */
const TRIES = 12;

/**
 * Other values of a treatment, none alike: `count` of them, as far from the present ones as `wildness` says (0
 * hardly, 1 anything). The same seed gives the same ones. What is driven stays driven, by other numbers; colour
 * tables stay. Fewer come back where there are no more.
 */
export function lookVariations(
  treatment: AnyTreatment,
  values: Readonly<Values>,
  { seed, wildness, count }: { readonly seed: number; readonly wildness: number; readonly count: number },
): Values[] {
  const random = seeded(seed);
  const now = shownValues(treatment, values);
  const known = new Set([JSON.stringify(now)]);
  const found: Values[] = [];
  for (let tries = 0; found.length < count && tries < count * TRIES; tries++) {
    const next = vary(treatment, now, random, wildness);
    const key = JSON.stringify(next);
    if (known.has(key)) continue;
    known.add(key);
    found.push(next);
  }
  return found;
}

function vary(treatment: AnyTreatment, values: Values, random: Random, wildness: number): Values {
  const next: Values = { ...values };
  for (const field of treatment.fields) {
    const value = next[field.key];
    if (field.when && !field.when(next)) continue;
    if (field.kind === 'choice') {
      if (random() < 0.1 + 0.4 * wildness)
        next[field.key] = field.options[Math.floor(random() * field.options.length)]!.value;
    } else if (field.kind === 'colour') {
      if (random() < 0.1 + 0.5 * wildness) next[field.key] = anyColour(random);
    } else if (field.kind === 'number' && random() < 0.75)
      next[field.key] = isDriver(value)
        ? drivenOtherwise(value, field, random, wildness)
        : moved(Number(value), field, usual(treatment, field), random, wildness);
  }
  return next;
}

/** The ways in which a treatment is used, as values over the present ones, with their words; those that are so already are left out. */
export function lookUses(
  treatment: AnyTreatment,
  values: Readonly<Values>,
): { readonly words: string; readonly values: Values }[] {
  const now = shownValues(treatment, values);
  return (treatment.uses ?? [])
    .map((use) => ({ words: use.words, values: { ...now, ...use.values } }))
    .filter((use) => JSON.stringify(use.values) !== JSON.stringify(now));
}

/** How large a value usually is, for what stands near nothing and has nowhere to go by a factor. */
function usual({ defaults, shownWith }: AnyTreatment, { key, min, max }: NumberField): number {
  const size = Math.max(Math.abs(Number(defaults[key])), Math.abs(Number(shownWith?.[key] ?? 0)));
  return size || Math.min(8, (max - min) / 10);
}

/** A number some way off, in whole steps where its range is wide, within its limits. */
function moved(
  value: number,
  { min, max }: NumberField,
  size: number,
  random: Random,
  wildness: number,
): number {
  const factor = 2 ** ((random() * 2 - 1) * (0.3 + 1.7 * wildness));
  const shift = (random() * 2 - 1) * wildness * 0.5 * size;
  const step = size >= 5 ? 1 : size >= 0.5 ? 0.1 : 0.02;
  const next = Math.round((value * factor + shift) / step) * step;
  return Math.min(max, Math.max(min, Number(next.toFixed(2))));
}

/** The same kind of driver: its swing and its lengths changed, where it rests kept. */
function drivenOtherwise(driver: Driver, field: NumberField, random: Random, wildness: number): Driver {
  const swing = 2 ** ((random() * 2 - 1) * (0.3 + 1.2 * wildness)) * (random() < 0.15 * wildness ? -1 : 1);
  const longer = 2 ** ((random() * 2 - 1) * (0.2 + 1.2 * wildness));
  const length = (frames: number, least = 0) => Math.max(least, Math.round(frames * longer));
  const off = (value: number, from: number) =>
    Number(Math.min(field.max, Math.max(field.min, from + (value - from) * swing)).toFixed(2));
  switch (driver.kind) {
    case 'keys': {
      const from = driver.keys[0]!.value;
      return DriverSchema.parse({
        ...driver,
        keys: driver.keys.map((k) => ({ ...k, value: off(k.value, from) })),
      });
    }
    case 'pulse': {
      const depth = Number((off(driver.rest + driver.depth, driver.rest) - driver.rest).toFixed(2));
      return { ...driver, depth, hold: length(driver.hold), fall: length(driver.fall) };
    }
    case 'steps': {
      const [from] = driver.values as [number];
      return {
        ...driver,
        values: driver.values.map((v) => off(v, from)),
        every: length(driver.every, 1),
      };
    }
    case 'speed':
    case 'progress':
      return { ...driver, to: off(driver.to, driver.from) };
    case 'random':
      return {
        ...driver,
        within: Number(Math.abs(driver.within * swing).toFixed(2)),
        every: length(driver.every, 1),
        seed: Math.floor(random() * 1e6),
      };
  }
}

function anyColour(random: Random): string {
  const channel = () =>
    Math.floor(random() * 256)
      .toString(16)
      .padStart(2, '0');
  return `#${channel()}${channel()}${channel()}`;
}
