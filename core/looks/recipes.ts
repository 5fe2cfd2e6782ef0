import type { Music } from '../beats/music';
import { aroundPiece } from '../gather/around';
import { type Gather, gatherKey } from '../gather/gather';
import { gathersOf } from '../gather/gathers';
import type { CompiledProject } from '../project/compile';
import { factsOfResult } from './facts';
import type { Look } from './look';
import type { Around } from './treatment';
import { type Drawn, type LookResult, looksOfPiece, resolveLooks } from './resolve';

/** All that is drawn on each frame of a result. */
export interface Recipes {
  /** Rows of treatments, each there once; the first is the empty one, a source frame as it is. */
  readonly stacks: readonly (readonly Drawn[])[];
  /** For every result frame its place in `stacks`. */
  readonly stackOf: Int32Array;
  /** The colour tables they name, in base64. */
  readonly tables: Readonly<Record<string, string>>;
  /** Means of source frames, each there once, after an empty one that stands for the frame as it is. */
  readonly gathers: readonly Gather[];
  /** For every result frame its place in `gathers`. */
  readonly gatherOf: Int32Array;
}

/** The recipes of a result without looks. */
export const untouched = (frames: number): Recipes => ({
  stacks: [[]],
  stackOf: new Int32Array(frames),
  tables: {},
  gathers: [NONE],
  gatherOf: new Int32Array(frames),
});

const NONE: Gather = { frames: [], weights: [] };

/** What lies around a frame of the whole result: its piece. */
function aroundIn({ pieces }: CompiledProject): (frame: number) => Around | undefined {
  const rows = pieces.map(({ startFrame, compiled }) => aroundPiece(compiled, startFrame));
  let at = 0;
  return (frame) => {
    const holds = (row: Around | undefined) => row !== undefined && frame >= row.first && frame < row.end;
    // Asked for in order, for the most part.
    if (!holds(rows[at])) at = rows.findIndex(holds);
    return rows[at];
  };
}

/** What every frame of a result is made of and what is drawn on it: each piece's looks, then those of the whole. */
export function recipesOf(
  project: CompiledProject,
  looks: readonly Look[],
  music: Music | undefined,
): { readonly recipes: Recipes; readonly ofResult: readonly LookResult[] } {
  const stacks: (readonly Drawn[])[] = [[]];
  const stackOf = new Int32Array(project.totalFrames);
  const places = new Map<string, number>([['[]', 0]]);
  const gathers = [NONE];
  const gatherOf = new Int32Array(project.totalFrames);
  const gathered = new Map<string, number>();
  const tables: Record<string, string> = {};
  const loops = project.pieces.length === 1;
  const facts = looks.length > 0 ? factsOfResult(project, music) : undefined;
  const whole = facts && resolveLooks(looks, facts, aroundIn(project));
  for (const [key, data] of whole?.tables ?? []) tables[key] = data;
  for (const { startFrame, compiled } of project.pieces) {
    gathersOf(compiled, loops, facts && { looks, facts, from: startFrame })?.forEach((gather, i) => {
      if (!gather) return;
      const key = `${compiled.clip.id} ${gatherKey(gather)}`;
      let place = gathered.get(key);
      if (place === undefined) gathered.set(key, (place = gathers.push(gather) - 1));
      gatherOf[startFrame + i] = place;
    });
    const own = compiled.piece.looks.length > 0 ? looksOfPiece(compiled, loops) : undefined;
    if (!own && !whole) continue;
    for (const [key, data] of own?.tables ?? []) tables[key] = data;
    for (let i = 0; i < compiled.shown.length; i++) {
      const stack = [...(own?.drawn[i] ?? []), ...(whole?.drawn[startFrame + i] ?? [])];
      if (stack.length === 0) continue;
      const key = JSON.stringify(stack);
      let place = places.get(key);
      if (place === undefined) {
        place = stacks.push(stack) - 1;
        places.set(key, place);
      }
      stackOf[startFrame + i] = place;
    }
  }
  return { recipes: { stacks, stackOf, tables, gathers, gatherOf }, ofResult: whole?.results ?? [] };
}
