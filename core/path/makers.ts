import type { TimePath } from './path';
import type { Maker, Segment } from './segment';

/** The part of a move that lies before the stretch it is limited to, and the one after it. */
export const BEFORE = -1;
export const AFTER = -2;

/** A path, or what a move puts into it, as one part of what that move makes. */
export const asPart = (path: TimePath, part: number): TimePath => ({
  rate: path.rate,
  segments: path.segments.map((s) => ({ ...s, part })),
});

/**
 * What a move made, by its parts (0 where it named none), with what was known of what it was given underneath.
 * Segments in a row of one making share the object, so that runs are told by identity.
 */
export function madeBy(step: string, path: TimePath): TimePath {
  let last: Maker | undefined;
  let of: Maker | undefined;
  const segments = path.segments.map((s): Segment => {
    const part = s.part ?? 0;
    if (!last || last.part !== part || of !== s.maker) last = { step, part, of: s.maker };
    of = s.maker;
    return { ...s, maker: last, part: undefined };
  });
  return { rate: path.rate, segments };
}

/** One maker of a stretch, without what it was given. */
export interface Making {
  readonly step: string;
  readonly part: number;
}

/** All makers of a segment, the last one first. */
export function makersOf(segment: Pick<Segment, 'maker'>): Making[] {
  const makers: Making[] = [];
  for (let maker = segment.maker; maker; maker = maker.of)
    makers.push({ step: maker.step, part: maker.part });
  return makers;
}

/** Whether a segment was made by all of these, in this order, the last one first. */
function madeByAll(segment: Segment, makers: readonly Making[]): boolean {
  let wanted = 0;
  for (let maker = segment.maker; maker && wanted < makers.length; maker = maker.of)
    if (maker.step === makers[wanted]!.step && maker.part === makers[wanted]!.part) wanted++;
  return wanted === makers.length;
}

/** A run of segments: its result positions, and its place among them. */
export interface Run {
  readonly from: number;
  readonly to: number;
  readonly first: number;
  /** The segment after its last. */
  readonly end: number;
}

/** Where a path has what was made by all of these, run by run; the whole of it for none. */
export function runsMadeBy(path: TimePath, makers: readonly Making[]): Run[] {
  const runs: { from: number; to: number; first: number; end: number }[] = [];
  // Segments in a row share their makers: each is asked once.
  let asked: Maker | undefined;
  let answer = makers.length === 0;
  let start = 0;
  path.segments.forEach((segment, i) => {
    if (segment.maker !== asked && makers.length > 0) {
      asked = segment.maker;
      answer = madeByAll(segment, makers);
    }
    const last = runs[runs.length - 1];
    if (answer && last?.end === i) Object.assign(last, { to: start + segment.length, end: i + 1 });
    else if (answer) runs.push({ from: start, to: start + segment.length, first: i, end: i + 1 });
    start += segment.length;
  });
  return runs;
}

/** The run of one making that a segment is in, and which of those of its making it is, 0 the first. */
export function runOf(path: TimePath, index: number): { run: Run; makers: readonly Making[]; nth: number } {
  const makers = makersOf(path.segments[index]!);
  if (makers.length === 0) {
    const run = ownRun(path, index);
    return { run, makers, nth: 0 };
  }
  const runs = runsMadeBy(path, makers);
  const nth = runs.findIndex((r) => index >= r.first && index < r.end);
  return { run: runs[nth]!, makers, nth };
}

function ownRun({ segments }: TimePath, index: number): Run {
  const from = segments.slice(0, index).reduce((sum, s) => sum + s.length, 0);
  return { from, to: from + segments[index]!.length, first: index, end: index + 1 };
}
