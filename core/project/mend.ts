import type { z } from 'zod';
import { withWhatIsNotKnown } from './not-known';
import { type Project, ProjectSchema } from './schema';

type Path = readonly PropertyKey[];
type Holder = Record<PropertyKey, unknown>;

/** Rounds of mending at most: each takes away or changes something, so this is never reached in earnest. */
const MOST_ROUNDS = 400;

/** What became of a document that its schema refused: the nearest one it takes, and what was lost of it. */
export interface Mended {
  readonly project: Project;
  /** Places that were left out, in the words of the document: `pieces`, `marks`, `song`. */
  readonly left: readonly string[];
}

/**
 * A project from data its schema refuses: numbers and lengths are brought within their limits, what makes no
 * sense is left out with the least that holds it (a mark, a move, a piece). Undefined where nothing of it can
 * be read.
 */
export function mendProject(data: unknown): Mended | undefined {
  if (typeof data !== 'object' || data === null) return undefined;
  const document = copyOf(data);
  const left: string[] = [];
  const tried = new Set<string>();
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const parsed = ProjectSchema.safeParse(document);
    if (parsed.success) return { project: withWhatIsNotKnown(parsed.data, document), left };
    // From the last place to the first, so that what is taken out of a list moves nothing still to be mended.
    const issues = parsed.error.issues.toSorted((a, b) => comparePaths(b.path, a.path));
    const gone: Path[] = [];
    for (const issue of issues) {
      const place = issue.path.join('\u0000');
      if (gone.some((path) => path.every((key, i) => issue.path[i] === key))) continue;
      const again = tried.has(`${place} ${issue.code}`);
      tried.add(`${place} ${issue.code}`);
      if (!again && bringWithin(document as Holder, issue)) continue;
      const lost = leaveOut(document as Holder, issue.path);
      if (lost === undefined) return undefined;
      left.push(lost.what);
      gone.push(lost.path);
    }
  }
  return undefined;
}

function comparePaths(a: Path, b: Path): number {
  for (let i = 0; i < Math.min(a.length, b.length); i++) {
    const [x, y] = [a[i]!, b[i]!];
    if (x === y) continue;
    return typeof x === 'number' && typeof y === 'number' ? x - y : String(x) < String(y) ? -1 : 1;
  }
  return a.length - b.length;
}

function holderOf(document: Holder, path: Path): Holder | undefined {
  let at: unknown = document;
  for (const key of path.slice(0, -1)) {
    if (typeof at !== 'object' || at === null) return undefined;
    at = (at as Holder)[key];
  }
  return typeof at === 'object' && at !== null ? (at as Holder) : undefined;
}

/** Brings a value within the limit an issue names; false where that is not what is wrong. */
function bringWithin(document: Holder, issue: z.core.$ZodIssue): boolean {
  const key = issue.path[issue.path.length - 1];
  const holder = holderOf(document, issue.path);
  if (key === undefined || !holder) return false;
  const value = holder[key];
  if (issue.code === 'too_big' && typeof value === 'number') holder[key] = Number(issue.maximum);
  else if (issue.code === 'too_small' && typeof value === 'number') holder[key] = Number(issue.minimum);
  else if (issue.code === 'too_big' && typeof value === 'string')
    holder[key] = value.trim().slice(0, Number(issue.maximum));
  else if (issue.code === 'too_small' && typeof value === 'string' && key === 'name') holder[key] = 'Unnamed';
  else if (issue.code === 'too_big' && Array.isArray(value)) value.length = Number(issue.maximum);
  else if (issue.code === 'invalid_type' && typeof value === 'number' && Number.isFinite(value))
    holder[key] = Math.round(value);
  else if (issue.code === 'not_multiple_of' && typeof value === 'number')
    holder[key] = Math.round(value / Number(issue.divisor)) * Number(issue.divisor);
  else return false;
  return true;
}

/**
 * Leaves out the least that holds a place: the value itself where something stands in for it, else the nearest element
 * of a list, or what may be missing at the top; says of what it was. A condition that is not known stays as one that
 * holds nowhere: without it its look would be everywhere.
 */
function leaveOut(document: Holder, path: Path): { what: string; path: Path } | undefined {
  for (let end = path.length; end > 1; end--) {
    const key = path[end - 1]!;
    const here = path.slice(0, end);
    const holder = holderOf(document, here);
    if (!holder) continue;
    if (typeof key === 'number' && Array.isArray(holder)) {
      const was: unknown = holder[key];
      const known = (was as { kind?: unknown } | null)?.kind === 'unknown';
      if (path[end - 2] === 'all' && path[end - 3] === 'scope' && !known) {
        holder[key] = { kind: 'unknown', not: false, was };
        return { what: 'all', path: here };
      }
      holder.splice(key, 1);
      return { what: String(path[end - 2]), path: here };
    }
    if (key in holder && mayBeMissing(document, holder, here))
      return { what: `value ${String(key)}`, path: here };
  }
  const top = String(path[0]);
  if (!(top in STANDS_IN)) return undefined;
  const known = top in document && JSON.stringify(document[top]) === JSON.stringify(STANDS_IN[top]);
  if (known) return undefined;
  document[top] = copyOf(STANDS_IN[top]);
  return { what: top, path: [top] };
}

/** Takes a value away where its schema has another for it; puts it back and gives false where not. */
function mayBeMissing(document: Holder, holder: Holder, path: Path): boolean {
  const key = path[path.length - 1]!;
  const was = holder[key];
  delete holder[key];
  const issues = ProjectSchema.safeParse(document).error?.issues ?? [];
  // Of a union the place is the union's.
  const missed = issues.some(
    (i) => i.path.every((k, n) => k === path[n]) && i.path.length >= path.length - 1,
  );
  if (missed) holder[key] = was;
  return !missed;
}

const copyOf = (data: unknown): unknown =>
  data === undefined ? undefined : (JSON.parse(JSON.stringify(data)) as unknown);

/** What stands in for a part of the document that cannot be read at all. */
const STANDS_IN: Record<string, unknown> = {
  name: 'Unnamed',
  createdAt: 0,
  rate: { num: 30, den: 1 },
  size: { width: 1280, height: 720 },
  clips: [],
  pieces: [],
  song: null,
  clipSound: undefined,
  made: undefined,
  placed: undefined,
  looks: undefined,
  between: undefined,
  flashingIsMeant: undefined,
};
