import { type Brought, NOTHING_BROUGHT } from './brought';
import { type ColourTable, ColourTableSchema } from './cube';
import { type Driver, DriverSchema, valueAt } from './driver';
import type { Facts } from './facts';
import type { Look } from './look';
import { type Stretch, fadeAt } from './scope';
import type { AnyTreatment, Moment } from './treatment';

/** A look's values, read once: those that stand still, and those that are driven. */
interface Prepared {
  readonly still: Readonly<Record<string, unknown>>;
  readonly driven: readonly { readonly key: string; readonly limits: Limits; readonly driver: Driver }[];
}
interface Limits {
  readonly min: number;
  readonly max: number;
}

const within = (value: number, { min, max }: Limits): number => Math.min(max, Math.max(min, value));

/** Reads a look's values; one that is missing or makes no sense takes its default. */
function prepare(
  treatment: AnyTreatment,
  values: Readonly<Record<string, unknown>>,
  tables: Map<string, string>,
): Prepared {
  let still: Record<string, unknown> = { ...treatment.defaults };
  const driven: { key: string; limits: Limits; driver: Driver }[] = [];
  for (const field of treatment.fields) {
    const value = values[field.key];
    if (value === undefined) continue;
    if (field.kind === 'number') {
      const driver = DriverSchema.safeParse(value);
      if (driver.success) driven.push({ key: field.key, limits: field, driver: driver.data });
      else if (typeof value === 'number' && Number.isFinite(value)) still[field.key] = within(value, field);
      continue;
    }
    const read = treatment.schema.safeParse({ ...still, [field.key]: value });
    if (read.success) still = read.data;
  }
  for (const field of treatment.fields)
    if (field.kind === 'table' && still[field.key]) {
      const { kind, size, data } = still[field.key] as ColourTable;
      const key = keyOf(data);
      tables.set(key, data);
      still[field.key] = { key, kind, size };
    }
  return { still, driven };
}

/**
 * A look's values as its card shows them: plain ones, drivers with all their fields, colour tables whole; what is
 * missing or makes no sense is its default.
 */
export function shownValues(
  treatment: AnyTreatment,
  values: Readonly<Record<string, unknown>>,
): Record<string, unknown> {
  const { still, driven } = prepare(treatment, values, new Map());
  const shown = { ...still };
  for (const field of treatment.fields)
    if (field.kind === 'table')
      shown[field.key] = ColourTableSchema.safeParse(values[field.key]).data ?? null;
  for (const { key, driver } of driven) shown[key] = driver;
  return shown;
}

const keys = new Map<string, string>();

/** A short name for a table's data: equal data, equal name. */
function keyOf(data: string): string {
  let key = keys.get(data);
  if (key === undefined) keys.set(data, (key = `table ${keys.size}`));
  return key;
}

/** Of a look's strength, percent. */
const LIMITS = { min: 0, max: 100 };

/** Every frame that a look applies to, or those of them within a stretch, with how strongly and with its values there, in order. */
export function* momentsOf(
  look: Look,
  treatment: AnyTreatment,
  stretches: readonly Stretch[],
  facts: Facts,
  {
    tables = new Map(),
    within: asked = { first: 0, end: facts.frames },
    brought = NOTHING_BROUGHT,
  }: {
    readonly tables?: Map<string, string>;
    readonly within?: Stretch;
    readonly brought?: Brought;
  } = {},
): Generator<Moment & { readonly values: Record<string, unknown> }> {
  const { still, driven } = prepare(treatment, look.values, tables);
  if (!look.on) return;
  const sums = new Sums();
  for (const stretch of stretches)
    for (
      let frame = Math.max(stretch.first, asked.first);
      frame < Math.min(stretch.end, asked.end);
      frame++
    ) {
      const at = (driver: Driver, limits: Limits) => within(valueAt(driver, frame, stretch, facts), limits);
      const own = typeof look.strength === 'number' ? look.strength : at(look.strength, LIMITS);
      const strength = (fadeAt(look.scope, stretch, frame) * within(own, LIMITS)) / 100;
      if (strength <= 0) continue;
      const values = { ...still };
      for (const { key, limits, driver } of driven) values[key] = at(driver, limits);
      const before = (key: string) => {
        const moving = driven.find((d) => d.key === key);
        if (!moving) return Number(still[key]) * (frame - stretch.first);
        return sums.of(moving, stretch, frame, facts);
      };
      yield { frame, stretch, facts, strength, values, brought, before };
    }
}

/** Sums of driven values from a stretch's first frame on: each value is worked out once. */
class Sums {
  private readonly known = new Map<string, { stretch: Stretch; sums: number[] }>();

  of(
    { key, driver, limits }: Prepared['driven'][number],
    stretch: Stretch,
    frame: number,
    facts: Facts,
  ): number {
    let mine = this.known.get(key);
    if (mine?.stretch !== stretch) this.known.set(key, (mine = { stretch, sums: [0] }));
    const { sums } = mine;
    for (let n = sums.length; n <= frame - stretch.first; n++)
      sums.push(sums[n - 1]! + within(valueAt(driver, stretch.first + n - 1, stretch, facts), limits));
    return sums[frame - stretch.first]!;
  }
}
