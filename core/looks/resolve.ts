import { aroundPiece } from '../gather/around';
import { type Notice, failure, warning } from '../notice';
import type { CompiledPiece } from '../project/compile';
import { type ColourTable, ColourTableSchema } from './cube';
import { type Driver, DriverSchema, isDriver, valueAt } from './driver';
import { type Facts, factsOfPiece } from './facts';
import type { Look } from './look';
import { treatmentById } from './registry';
import { type Stretch, fadeAt, stretchesOf } from './scope';
import type { AnyTreatment, Around, Moment } from './treatment';

/** One treatment as it is drawn on one frame: plain data, equal data equal pixels. */
export interface Drawn {
  readonly look: string;
  readonly drawing: Record<string, unknown>;
  /** How much of the treated picture is seen, above 0 up to 1. */
  readonly share: number;
}

/** What a look comes to: its strength at every frame (for its lane), and what is wrong with it. */
export interface LookResult {
  readonly look: Look;
  readonly stretches: readonly Stretch[];
  readonly strengths: Float32Array;
  readonly notices: readonly Notice[];
}

/** A list of looks resolved over its frames. */
interface Resolved {
  readonly drawn: readonly (readonly Drawn[])[];
  readonly results: readonly LookResult[];
  readonly tables: ReadonlyMap<string, string>;
}

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
  }: { readonly tables?: Map<string, string>; readonly within?: Stretch } = {},
): Generator<Moment & { readonly values: Record<string, unknown> }> {
  const { still, driven } = prepare(treatment, look.values, tables);
  if (!look.on) return;
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
      yield { frame, stretch, facts, strength, values };
    }
}

/** Resolves a list of looks: what is drawn on every frame, in the list's order. `around` says what lies around one. */
export function resolveLooks(
  looks: readonly Look[],
  facts: Facts,
  around?: (frame: number) => Around | undefined,
): Resolved {
  const tables = new Map<string, string>();
  const drawn: Drawn[][] = Array.from({ length: facts.frames }, () => []);
  const results = looks.map((look): LookResult => {
    const treatment = treatmentById(look.look);
    const strengths = new Float32Array(facts.frames);
    const stretches = stretchesOf(look.scope, facts);
    const notices = noticesOf(look, treatment, stretches, facts);
    if (treatment)
      for (const { values, ...moment } of momentsOf(look, treatment, stretches, facts, { tables })) {
        const { frame, strength } = moment;
        strengths[frame] = strength;
        const drawing = treatment.drawing(values, { ...moment, around: around?.(frame) });
        if (drawing) drawn[frame]!.push({ look: look.look, drawing, share: treatment.scales ? 1 : strength });
      }
    return { look, stretches, strengths, notices };
  });
  return { drawn, results, tables };
}

function noticesOf(
  look: Look,
  treatment: AnyTreatment | undefined,
  stretches: readonly Stretch[],
  facts: Facts,
): Notice[] {
  if (!treatment)
    return [
      failure(
        'unknown-look',
        `This version does not know the look "${look.look}".`,
        'It is kept and left out.',
      ),
    ];
  if (!look.on) return [];
  const listens =
    look.scope.all.some((c) => c.kind === 'beats' || c.kind === 'accents') ||
    [...Object.values(look.values), look.strength].some((v) => isDriver(v) && v.kind === 'pulse');
  if (listens && !facts.music)
    return [
      warning(
        'no-beats',
        `${treatment.name} listens to the song, but there is none.`,
        'Add a song on Beats.',
      ),
    ];
  if (stretches.length === 0)
    return [warning('nowhere', 'No frame is as this look asks.', 'Change where it applies.')];
  return [];
}

/** A list of looks, its own or others, resolved on a piece. */
export function resolvePieceLooks(compiled: CompiledPiece, looks: readonly Look[], loops: boolean): Resolved {
  const around = aroundPiece(compiled, 0);
  return resolveLooks(looks, factsOfPiece(compiled, loops), () => around);
}

const pieces = new WeakMap<CompiledPiece, Map<boolean, Resolved>>();

/** The looks of a piece, resolved; kept as long as the piece stays as it is. */
export function looksOfPiece(compiled: CompiledPiece, loops: boolean): Resolved {
  const mine = pieces.get(compiled) ?? new Map<boolean, Resolved>();
  pieces.set(compiled, mine);
  let resolved = mine.get(loops);
  if (!resolved) mine.set(loops, (resolved = resolvePieceLooks(compiled, compiled.piece.looks, loops)));
  return resolved;
}
