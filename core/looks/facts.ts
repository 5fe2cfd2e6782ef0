import { goesOn } from '../project/parts';
import type { Music } from '../beats/music';
import type { CompiledPiece, CompiledProject } from '../project/compile';
import { type TimePath, sampleMotion } from '../path/path';
import type { Place } from '../places/place';
import { type Ground, resolvePlace } from '../places/resolve';
import { framesBefore } from '../time/units';
import { holdSegment } from '../path/segment';
import { toNumber } from '../time/rational';

/** What looks know of a stretch of result: a piece, or all of them. Frames count from its beginning. */
export interface Facts {
  readonly frames: number;
  readonly rateHz: number;
  /** Speed at every frame's middle, source seconds a result second; negative backward. Stop motion has that of what it steps through. */
  readonly speeds: Float64Array;
  /** Frames at which something else begins: another segment, another piece. */
  readonly joins: readonly number[];
  /** Frames that are the first to go the other way. */
  readonly turns: readonly number[];
  /** Frames that show a mark, by its name. */
  readonly marks: ReadonlyMap<string, readonly number[]>;
  readonly music: Music | undefined;
  /** What places are worked out on; without it they are plain frames, or in the music. */
  readonly ground?: Ground;
}

const NO_CLIP = { kind: 'constant', rate: { num: 30, den: 1 }, count: 1 } as const;

/** The frames from which on a place is shown, in order; none where it is not. */
export function framesAt(place: Place, { ground, music, frames, rateHz }: Facts): number[] {
  if (typeof place === 'number') return [place];
  const here = ground ?? {
    path: { rate: { num: Math.round(rateHz * 1000), den: 1000 }, segments: [holdSegment(frames, 0)] },
    ...{ table: NO_CLIP, marks: [], music },
  };
  // Of the whole result nothing lies in one clip, or is of one move.
  if (!ground && ('source' in place || 'mark' in place || 'makers' in place)) return [];
  return resolvePlace(place, here).at.map((at) => framesBefore(at));
}

/** One frame that plays forward, for a look to be tried on. */
export const ONE_FRAME: Facts = {
  frames: 1,
  rateHz: 30,
  speeds: Float64Array.of(1),
  joins: [],
  turns: [],
  marks: new Map(),
  music: undefined,
};

/** A speed below this holds. */
const STILL = 1e-6;

export type Way = 'forward' | 'backward' | 'held';
export const wayOf = (speed: number): Way =>
  speed > STILL ? 'forward' : speed < -STILL ? 'backward' : 'held';

/** The first frames that go another way than the last moving one before; with `loops` also over the end. */
function turnsOf(speeds: Float64Array, loops: boolean): number[] {
  const turns: number[] = [];
  let before = loops ? speeds.findLast((s) => wayOf(s) !== 'held') : undefined;
  speeds.forEach((speed, i) => {
    if (wayOf(speed) === 'held') return;
    if (before !== undefined && before * speed < 0) turns.push(i);
    before = speed;
  });
  return turns;
}

/** The result frames that show each mark, by its name. */
function marksIn({ shown, clip }: CompiledPiece): Map<string, number[]> {
  const marks = new Map<string, number[]>();
  const at = new Map<number, number[][]>();
  for (const { name, frame } of clip.marks) {
    const list = marks.get(name) ?? [];
    marks.set(name, list);
    const here = at.get(frame) ?? [];
    if (!here.includes(list)) here.push(list);
    at.set(frame, here);
  }
  if (at.size > 0) shown.forEach((frame, i) => at.get(frame)?.forEach((list) => list.push(i)));
  return marks;
}

/** What is true of one piece. `loops` says whether its end leads to its own beginning. */
export function factsOfPiece(compiled: CompiledPiece, loops: boolean): Facts {
  const { path, shown } = compiled;
  const speeds = sampleMotion(path);
  return {
    frames: shown.length,
    rateHz: rateOf(path),
    speeds,
    joins: [...(loops ? [0] : []), ...compiled.joins.filter((j) => !j.smooth).map((j) => j.atFrame)],
    turns: turnsOf(speeds, loops),
    marks: marksIn(compiled),
    music: compiled.music,
    ground: { path, table: compiled.table, marks: compiled.clip.marks, music: compiled.music },
  };
}

/** What is true of the whole result; it loops. `music` counts from its first frame. */
export function factsOfResult(project: CompiledProject, music: Music | undefined): Facts {
  const speeds = new Float64Array(project.totalFrames);
  const joins: number[] = [];
  const marks = new Map<string, number[]>();
  for (const [i, { startFrame, compiled }] of project.pieces.entries()) {
    const facts = factsOfPiece(compiled, false);
    speeds.set(facts.speeds, startFrame);
    // Where a piece was cut in two nothing else begins, unless something did before.
    const cut = goesOn(project.pieces[i - 1]?.compiled, compiled);
    const own =
      cut && compiled.partOf!.whole.joins.some((j) => !j.smooth && j.atFrame === compiled.partOf!.from);
    if (!cut || own) joins.push(startFrame);
    for (const j of facts.joins) joins.push(j + startFrame);
    for (const [name, frames] of facts.marks) {
      const list = marks.get(name) ?? [];
      for (const f of frames) list.push(f + startFrame);
      marks.set(name, list);
    }
  }
  const first = project.pieces[0]?.compiled.path;
  return {
    frames: project.totalFrames,
    rateHz: first ? rateOf(first) : 30,
    speeds,
    joins,
    turns: turnsOf(speeds, true),
    marks,
    music,
  };
}

const rateOf = (path: TimePath): number => toNumber(path.rate);
