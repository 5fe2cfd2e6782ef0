import { type z } from 'zod';
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
    if (parsed.success) return { project: parsed.data, left };
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

/** Takes out the nearest element of a list around a place, or else what may be missing there; says of what it was. */
function leaveOut(document: Holder, path: Path): { what: string; path: Path } | undefined {
  for (let end = path.length; end > 1; end--) {
    const index = path[end - 1];
    const list = holderOf(document, path.slice(0, end));
    if (typeof index !== 'number' || !Array.isArray(list)) continue;
    list.splice(index, 1);
    return { what: String(path[end - 2]), path: path.slice(0, end) };
  }
  const top = String(path[0]);
  if (!(top in STANDS_IN)) return undefined;
  const known = top in document && JSON.stringify(document[top]) === JSON.stringify(STANDS_IN[top]);
  if (known) return undefined;
  document[top] = copyOf(STANDS_IN[top]);
  return { what: top, path: [top] };
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
  flashingIsMeant: undefined,
};
