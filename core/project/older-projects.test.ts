import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { musicFrom } from '../beats/music';
import type { FrameTable } from '../clip/frame-table';
import { looksOfPiece } from '../looks/resolve';
import { type CompiledProject, compilePiece, compileProject, listens, projectMusic } from './compile';
import { withDraggedSegments } from './older-fits';
import { readProject } from './read-project';
import type { Project } from './schema';

/** Projects as versions before this one saved them, and what they played then: lengths, and a hash of the frames. */
interface Older {
  readonly version: string;
  readonly clip: { readonly num: number; readonly den: number; readonly count: number };
  readonly project: unknown;
  readonly frames: readonly number[];
  readonly shown: string;
  readonly looks: string;
}

const file = join(__dirname, 'older-projects.json.gz');
const OLDER = JSON.parse(gunzipSync(readFileSync(file)).toString()) as Older[];

/** FNV-1a of a value's JSON. */
function hashOf(value: unknown): string {
  let hash = 2166136261;
  for (const letter of JSON.stringify(value)) hash = Math.imul(hash ^ letter.charCodeAt(0), 16777619) >>> 0;
  return hash.toString(16);
}

const tableOf = ({ num, den, count }: Older['clip']): FrameTable => ({
  kind: 'constant',
  rate: { num, den },
  count,
});

function played(project: Project, table: FrameTable): CompiledProject {
  const music = projectMusic(project);
  return compileProject(project, (piece, clip, at) =>
    compilePiece(piece, clip, table, project.rate, music && musicFrom(music, at)),
  );
}

/** Moves that reviews found wrong, and that play otherwise since: the reasons are in docs/decisions.md. */
const MENDED = new Set(['bounce', 'land', 'push', 'rewind', 'pattern']);

/** Before 0.20 a piece that was cut in two lost its place under the song. */
const lostItsPlace = (piece: Project['pieces'][number]): boolean =>
  listens(piece) && piece.chain.some((s) => s.on && s.move === 'trim');

const mended = (project: Project, version: string): boolean =>
  project.pieces.some(
    (p) =>
      (version < '020' && lostItsPlace(p)) ||
      p.chain.some(
        (s) =>
          s.on &&
          (MENDED.has(s.move) || (s.move === 'spool' && s.zone && s.values['direction'] === 'backward')),
      ),
  );

it.each(['017', '018', '019', '021'])('projects saved by 0.%s play the same frames', (version) => {
  const all = OLDER.filter((o) => o.version === version);
  let same = 0;
  const others: string[] = [];
  for (const { project, clip, shown, looks, frames } of all) {
    const read = readProject(project);
    if (!read.ok) throw new Error(read.sentence);
    expect(read.lost).toBeUndefined();
    const result = played(read.project, tableOf(clip));
    const pieces = result.pieces.map((p) => p.compiled);
    const equal =
      hashOf(pieces.map((p) => [...p.shown])) === shown &&
      hashOf(
        pieces.map((p) =>
          looksOfPiece(p, false).drawn.map((d) => d.map((x) => [x.look, x.share.toFixed(4)].join())),
        ),
      ) === looks;
    if (equal) same++;
    else if (!mended(read.project, version))
      others.push(`${read.project.name}: ${pieces.map((p) => p.shown.length).join()} for ${frames.join()}`);
  }
  expect(others).toEqual([]);
  expect(same).toBeGreaterThan(all.length / 3);
});

it('segments that were dragged then hold on to them now, and play the same frames', () => {
  let held = 0;
  let theirs = 0;
  for (const { project, clip } of OLDER) {
    const read = readProject(project);
    if (!read.ok) throw new Error(read.sentence);
    const table = tableOf(clip);
    const now = withDraggedSegments(read.project, () => table);
    const shown = (p: Project) => played(p, table).pieces.map((c) => [...c.compiled.shown]);
    expect(shown(now)).toEqual(shown(read.project));
    if (now === read.project) continue;
    const links = now.pieces.flatMap((p) => p.chain);
    if (links.length < read.project.pieces.flatMap((p) => p.chain).length) theirs++;
    else if (links.some((s) => s.zone && 'segment' in s.zone)) held++;
  }
  expect(theirs).toBeGreaterThan(2);
  expect(held).toBeGreaterThan(5);
});
