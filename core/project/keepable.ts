import { BeatGridSchema } from '../beats/grid';
import { mendProject } from './mend';
import { ClipSchema, PieceSchema, type Project, ProjectSchema, SongSchema } from './schema';

type List = 'clips' | 'pieces' | 'placed' | 'looks';
const LISTS: readonly List[] = ['clips', 'pieces', 'placed', 'looks'];
const ELEMENTS = { clips: ClipSchema, pieces: PieceSchema } as const;

/** A song but for its long lists, which are looked at only when they changed. */
const SongHead = SongSchema.omit({ grid: true, accents: true });

/**
 * Whether a changed project is one that can be saved and opened again. Only what changed is looked at: the
 * cost is that of the change, not of the project.
 */
export function isKeepable(next: Project, before: Project): boolean {
  if (next.clips !== before.clips || next.pieces !== before.pieces) {
    const clips = new Set(next.clips.map((c) => c.id));
    if (next.pieces.some((p) => !clips.has(p.clipId))) return false;
  }
  for (const list of LISTS) {
    if (next[list] === before[list]) continue;
    if (list === 'placed' || list === 'looks') {
      if (!ProjectSchema.shape[list].safeParse(next[list]).success) return false;
      continue;
    }
    const known = new Set<unknown>(before[list]);
    if (next[list].some((e) => !known.has(e) && !ELEMENTS[list].safeParse(e).success)) return false;
  }
  if (next.song !== before.song && next.song !== null) {
    const { song } = next;
    if (!SongHead.safeParse(song).success) return false;
    if (song.grid !== before.song?.grid && !BeatGridSchema.safeParse(song.grid).success) return false;
    if (song.accents !== before.song?.accents && !SongSchema.shape.accents.safeParse(song.accents).success)
      return false;
  }
  const rest = [
    'id',
    'name',
    'createdAt',
    'rate',
    'size',
    'clipSound',
    'made',
    'between',
    'flashingIsMeant',
  ] as const;
  return rest.every(
    (key) => next[key] === before[key] || ProjectSchema.shape[key].safeParse(next[key]).success,
  );
}

/**
 * The project that a change may leave: as it is, or brought within its limits, or the one before where that
 * cannot be. Whatever comes out can be saved and opened again.
 */
export function keepable(next: Project, before: Project): Project {
  if (isKeepable(next, before)) return next;
  return mendProject(next)?.project ?? before;
}
