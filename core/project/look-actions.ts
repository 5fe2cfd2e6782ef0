import { current, produce } from 'immer';
import { type Look, LookSchema, MOST_LOOKS } from '../looks/look';
import { treatmentById } from '../looks/registry';
import { type Value, ValueSchema } from '../looks/driver';
import { type Scope, ScopeSchema } from '../looks/scope';
import { type Matte, MatteSchema } from '../regions/matte';
import { type Region, RegionSchema } from '../regions/region';
import type { Project } from './schema';

/**
 * Every change a person can make to looks. `where` is the piece whose list is meant, null for that of the whole
 * result. As with moves, each returns a new project, or the same where nothing changes.
 */
export type LookPlace = string | null;

const listIn = (project: Project, where: LookPlace): Look[] | undefined =>
  where === null ? project.looks : project.pieces.find((p) => p.id === where)?.looks;

export const looksAt = (project: Project, where: LookPlace): readonly Look[] => listIn(project, where) ?? [];

const changeLook = (project: Project, where: LookPlace, id: string, recipe: (look: Look) => void): Project =>
  produce(project, (d) => {
    const look = listIn(d, where)?.find((l) => l.id === id);
    if (look) recipe(look);
  });

/** Appends a look with its treatment's own values, or with `given` over them. */
export function addLook(
  project: Project,
  where: LookPlace,
  { id, look, given = {} }: { id: string; look: string; given?: Partial<Omit<Look, 'id' | 'look'>> },
): Project {
  if (!treatmentById(look)) return project;
  const made = LookSchema.safeParse({ ...given, id, look });
  if (!made.success) return project;
  return produce(project, (d) => {
    const list = listIn(d, where);
    if (list && list.length < MOST_LOOKS) list.push(made.data);
  });
}

/** Sets one value: a number, a driver, or whatever its field takes. One that its treatment refuses changes nothing. */
export function setLookValue(
  project: Project,
  where: LookPlace,
  id: string,
  key: string,
  value: unknown,
): Project {
  const look = listIn(project, where)?.find((l) => l.id === id);
  const treatment = look && treatmentById(look.look);
  const field = treatment?.fields.find((f) => f.key === key);
  if (!treatment || !field) return project;
  const takes =
    field.kind === 'number'
      ? ValueSchema.safeParse(value).success
      : treatment.schema.safeParse({ ...treatment.defaults, [key]: value }).success;
  if (!takes) return project;
  return changeLook(project, where, id, (l) => void (l.values[key] = value));
}

/** Takes a row of values together, as a variation gives them; those that its treatment refuses are passed over. */
export function setLookValues(
  project: Project,
  where: LookPlace,
  id: string,
  values: Readonly<Record<string, unknown>>,
): Project {
  return Object.entries(values).reduce((p, [key, value]) => setLookValue(p, where, id, key, value), project);
}

export function setLookScope(project: Project, where: LookPlace, id: string, scope: Scope): Project {
  const read = ScopeSchema.safeParse(scope);
  return read.success ? changeLook(project, where, id, (l) => void (l.scope = read.data)) : project;
}

export function setLookStrength(project: Project, where: LookPlace, id: string, strength: Value): Project {
  const takes = ValueSchema.safeParse(strength).success;
  return takes ? changeLook(project, where, id, (l) => void (l.strength = strength)) : project;
}

export function switchLook(project: Project, where: LookPlace, id: string, on: boolean): Project {
  return changeLook(project, where, id, (l) => void (l.on = on));
}

export function removeLook(project: Project, where: LookPlace, id: string): Project {
  return produce(project, (d) => {
    const list = listIn(d, where);
    const at = list?.findIndex((l) => l.id === id) ?? -1;
    if (at >= 0) list!.splice(at, 1);
  });
}

/** Moves a look by some places of its list, as far as that goes. */
export function shiftLook(project: Project, where: LookPlace, id: string, by: number): Project {
  return produce(project, (d) => {
    const list = listIn(d, where);
    const from = list?.findIndex((l) => l.id === id) ?? -1;
    if (!list || from < 0) return;
    const to = Math.min(list.length - 1, Math.max(0, from + by));
    const [look] = list.splice(from, 1);
    list.splice(to, 0, look!);
  });
}

/** Puts a copy right after a look, or at the end of another list. */
export function copyLook(
  project: Project,
  where: LookPlace,
  id: string,
  copyId: string,
  to: LookPlace = where,
): Project {
  return produce(project, (d) => {
    const list = listIn(d, where);
    const from = list?.findIndex((l) => l.id === id) ?? -1;
    const target = listIn(d, to);
    if (!list || from < 0 || !target || target.length >= MOST_LOOKS) return;
    const copy = { ...current(list[from]!), id: copyId };
    target.splice(to === where ? from + 1 : target.length, 0, copy);
  });
}

/** Dismisses the warning of fast flashing for this project, or lets it come again. */
export function setFlashingIsMeant(project: Project, meant: boolean): Project {
  return produce(project, (d) => void (d.flashingIsMeant = meant));
}

/** Sets where in the picture a look applies; null for all of it. What is no region changes nothing. */
export function setLookRegion(
  project: Project,
  where: LookPlace,
  id: string,
  region: Region | null,
): Project {
  const read = RegionSchema.nullable().safeParse(region);
  return read.success ? changeLook(project, where, id, (l) => void (l.region = read.data)) : project;
}

/** Sets on which points a look is drawn, by what is seen there; null for all. What is no matte changes nothing. */
export function setLookMatte(project: Project, where: LookPlace, id: string, matte: Matte | null): Project {
  const read = MatteSchema.nullable().safeParse(matte);
  return read.success ? changeLook(project, where, id, (l) => void (l.matte = read.data)) : project;
}
