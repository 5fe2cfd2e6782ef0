import { frameAndFraction } from '@skipback/core/clip/frame-table';
import type { CurveEdit, SourceLimits } from '@skipback/core/edit/curve-edits';
import { type HeldPoint, MOST_POINTS, heldPoints, storedPoints } from '@skipback/core/moves/curve';
import type { Ground } from '@skipback/core/places/resolve';
import { stepGround } from '@skipback/core/moves/chain';
import { valuesOf } from '@skipback/core/moves/registry';
import { pointsOfPath } from '@skipback/core/path/drawn';
import { addStep, setStepValues } from '@skipback/core/project/actions';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { seconds } from '@skipback/core/time/units';
import { useEffect, useMemo, useRef, useState } from 'react';
import { freshId } from '../../state/ids';
import { select } from '../../state/selection';
import { act } from '../../state/project-store';

/** The curve of a piece as hands see it. */
export interface DrawnCurve {
  readonly points: readonly HeldPoint[];
  /** Source frame that the points' `source` counts from. */
  readonly origin: number;
  /** What their places are worked out on. */
  readonly ground: Ground | undefined;
  readonly limits: SourceLimits;
  /** The Curve move they are of; undefined while they only stand for the path as it is. */
  readonly stepId: string | undefined;
  /** More joins than can be drawn by hand. */
  readonly tooMany: boolean;
  readonly chosen: readonly number[];
  choose(places: readonly number[]): void;
  /** Makes an edit part of the project; the first one adds a Curve to the end of the chain. */
  commit(words: string, edit: CurveEdit): void;
}

/** The points of a piece's curve, which of them are chosen, and how to change them. */
export function useCurve(piece: CompiledPiece | undefined, clipFrames: number): DrawnCurve {
  const [chosen, setChosen] = useState<readonly number[]>([]);
  const newStep = useRef('');
  const pieceId = piece?.piece.id;
  useEffect(() => {
    setChosen([]);
    newStep.current = freshId();
  }, [pieceId]);

  const drawn = useMemo(() => {
    if (!piece) return { points: [], origin: 0, ground: undefined, stepId: undefined, tooMany: false };
    const { chain } = piece.piece;
    const place = chain.findLastIndex((s) => s.on);
    const step = chain[place];
    if (step?.move === 'curve' && !step.zone) {
      const context = { table: piece.table, music: piece.music, marks: piece.clip.marks };
      const ground = stepGround(piece.base, chain, step.id, context)!.incoming;
      const origin = frameAndFraction(piece.table, seconds(ground.path.segments[0]!.from));
      const stored = valuesOf(step)['points'] as readonly unknown[];
      return { points: heldPoints(stored, ground, origin), origin, ground, stepId: step.id, tooMany: false };
    }
    const { path, table, music, clip } = piece;
    const ground = { path, table, music, marks: clip.marks };
    const { points, origin } = pointsOfPath(piece.path, piece.table);
    const tooMany = points.length > MOST_POINTS;
    return { points: tooMany ? [] : points, origin, ground, stepId: undefined, tooMany };
  }, [piece]);

  const inside = chosen.filter((i) => i < drawn.points.length);
  return {
    ...drawn,
    limits: { lowest: -drawn.origin, highest: clipFrames - drawn.origin },
    chosen: inside,
    choose: setChosen,
    commit(words, edit) {
      setChosen(edit.chosen);
      if (!piece) return;
      const id = drawn.stepId ?? newStep.current;
      const points = storedPoints(edit.points, drawn.ground!, drawn.origin);
      act(words, (p) => {
        const there = p.pieces.find((q) => q.id === pieceId)?.chain.some((s) => s.id === id);
        return there
          ? setStepValues(p, piece.piece.id, id, { points })
          : addStep(p, piece.piece.id, { id, move: 'curve', values: { points } });
      });
      if (drawn.stepId === undefined) select({ stepId: id });
      else newStep.current = freshId();
    },
  };
}
