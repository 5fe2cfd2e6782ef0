import { loopsOf } from '../project/parts';
import type { Music } from '../beats/music';
import { aroundPiece } from '../gather/around';
import { dissolvesOf, laterShare } from '../gather/dissolve';
import { type Gather, WHOLE, gatherKey } from '../gather/gather';
import { gathersOf, runOn } from '../gather/gathers';
import { type CompiledPiece, type CompiledProject, sourceIdOf } from '../project/compile';
import { factsOfResult } from './facts';
import type { Look } from './look';
import type { Around } from './treatment';
import { type Drawn, type LookResult, looksOfPiece, resolveResultLooks } from './resolve';

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
  /** What runs into a picture at a join, each there once, after an empty one that stands for nothing. */
  readonly others: readonly OtherSide[];
  /** For every result frame its place in `others`. */
  readonly otherOf: Int32Array;
}

/** The picture of the other piece at a join; there `stackOf` is that of the frame's own piece alone. */
export interface OtherSide {
  /** As in `sourceIdOf`. */
  readonly clipId: string;
  /** The frame of its clip, its place in `gathers`, and its own treatments' in `stacks`. */
  readonly frame: number;
  readonly gather: number;
  readonly stack: number;
  /** How much it has of the picture, in 32768ths. */
  readonly share: number;
  /** The place in `stacks` of what is drawn on both together. */
  readonly over: number;
}

/** The recipes of a result without looks. */
export const untouched = (frames: number): Recipes => ({
  stacks: [[]],
  stackOf: new Int32Array(frames),
  tables: {},
  gathers: [NONE],
  gatherOf: new Int32Array(frames),
  others: [NOBODY],
  otherOf: new Int32Array(frames),
});

/** Whether some frame of a result is not a source frame as it is. */
export const isTreated = ({ stacks, gathers, others }: Recipes): boolean =>
  stacks.length > 1 || gathers.length > 1 || others.length > 1;

const NOBODY: OtherSide = { clipId: '', frame: 0, gather: 0, stack: 0, share: 0, over: 0 };
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
  const stacks = new Places<readonly Drawn[]>([], (stack) => JSON.stringify(stack));
  const gathers = new Places(NONE, gatherKey);
  const others = new Places<OtherSide>(NOBODY, (other) => JSON.stringify(other));
  const stackOf = new Int32Array(project.totalFrames);
  const gatherOf = new Int32Array(project.totalFrames);
  const otherOf = new Int32Array(project.totalFrames);
  const tables: Record<string, string> = {};
  const loops = loopsOf(project);
  const facts = looks.length > 0 ? factsOfResult(project, music) : undefined;
  const whole = facts && resolveResultLooks(looks, facts, aroundIn(project), project.brought);
  for (const [key, data] of whole?.tables ?? []) tables[key] = data;
  const drawnOn = new Map<CompiledPiece, readonly (readonly Drawn[] | undefined)[]>();
  for (const { startFrame, compiled } of project.pieces) {
    gathersOf(compiled, loops, facts && { looks, facts, from: startFrame })?.forEach((gather, i) => {
      if (gather) gatherOf[startFrame + i] = gathers.of(gather);
    });
    const own = compiled.piece.looks.length > 0 ? looksOfPiece(compiled, loops) : undefined;
    if (own) drawnOn.set(compiled, own.drawn);
    if (!own && !whole) continue;
    for (const [key, data] of own?.tables ?? []) tables[key] = data;
    for (let i = 0; i < compiled.shown.length; i++) {
      const stack = [...(own?.drawn[i] ?? []), ...(whole?.drawn[startFrame + i] ?? [])];
      if (stack.length > 0) stackOf[startFrame + i] = stacks.of(stack);
    }
  }
  for (const dissolve of dissolvesOf(project.pieces)) {
    const { at, first, end, before, after } = dissolve;
    for (let frame = first; frame < end; frame++) {
      const isLater = frame >= at;
      const [own, other] = isLater ? [after, before] : [before, after];
      const later = Math.round(laterShare(dissolve, frame) * WHOLE);
      const side = runOn(other, isLater ? frame - at + 1 : frame - at, loops);
      const drawn = drawnOn.get(other);
      const ownFrame = isLater ? frame - at : own.shown.length - (at - frame);
      stackOf[frame] = stacks.of(drawnOn.get(own)?.[ownFrame] ?? []);
      otherOf[frame] = others.of({
        ...{ clipId: sourceIdOf(other), frame: side.frame, share: isLater ? WHOLE - later : later },
        gather: side.gather ? gathers.of(side.gather) : 0,
        stack: stacks.of((isLater ? drawn?.[drawn.length - 1] : drawn?.[0]) ?? []),
        over: stacks.of(whole?.drawn[frame] ?? []),
      });
    }
  }
  return {
    recipes: {
      ...{ stacks: stacks.all, stackOf, tables, gathers: gathers.all, gatherOf },
      ...{ others: others.all, otherOf },
    },
    ofResult: whole?.results ?? [],
  };
}

/** Things that are the same under one key, each kept once; the first stands for none. */
class Places<T> {
  readonly all: T[];
  private readonly known: Map<string, number>;

  constructor(
    none: T,
    private readonly keyOf: (thing: T) => string,
  ) {
    this.all = [none];
    this.known = new Map([[keyOf(none), 0]]);
  }

  /** The place of a thing. */
  of(thing: T): number {
    const key = this.keyOf(thing);
    const known = this.known.get(key);
    if (known !== undefined) return known;
    this.known.set(key, this.all.length);
    return this.all.push(thing) - 1;
  }
}
