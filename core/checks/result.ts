import { type Frame, frame } from '../time/units';
import type { CompiledProject } from '../project/compile';
import { type Join, joinBetween } from './joins';

/** The whole result judged as a loop. Frames are result frames. */
export interface LoopVerdict {
  /** The join from the last frame to the first; undefined where they are of different clips. */
  readonly end: Join | undefined;
  /** Whether the last frame leads to the first as any other leads to its next. */
  readonly closes: boolean;
  /** Whether it ends on a cut from one piece to another, which is nothing to mend. */
  readonly cut: boolean;
  /** Where the picture skips inside a piece. Where two pieces meet is a cut, not a skip. */
  readonly skips: readonly Frame[];
  /** Where a turn shows its frame twice. */
  readonly doubled: readonly Frame[];
}

/** Judges a result; an empty one closes nothing. */
export function loopVerdict(project: CompiledProject): LoopVerdict {
  const joins = project.pieces.flatMap((p) =>
    p.compiled.joins.map((j) => ({ ...j, atFrame: frame(j.atFrame + p.startFrame) })),
  );
  const first = project.pieces[0]?.compiled;
  const last = project.pieces[project.pieces.length - 1]?.compiled;
  const end =
    first && last && first.clip.id === last.clip.id
      ? joinBetween(last.path, first.path, first.table)
      : undefined;
  const doubled = joins.filter((j) => j.doubles).map((j) => j.atFrame);
  return {
    end,
    closes: end !== undefined && !end.skips,
    cut: project.pieces.length > 1 && (end === undefined || end.skips),
    skips: joins.filter((j) => j.skips).map((j) => j.atFrame),
    doubled: end?.doubles ? [...doubled, frame(0)] : doubled,
  };
}
