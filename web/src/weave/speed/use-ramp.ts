import { valuesOf } from '@skipback/core/moves/registry';
import { type RampLayout, type RampValues, ramp, rampLayout } from '@skipback/core/moves/ramp';
import { pathLength } from '@skipback/core/path/path';
import { addStep, setStepValues } from '@skipback/core/project/actions';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { useEffect, useMemo, useRef } from 'react';
import { freshId } from '../../state/ids';
import { select } from '../../state/selection';
import { act } from '../../state/project-store';

/** The speeds of a piece as hands see them: its last Ramp, or one that would be added. */
export interface HandRamp {
  readonly values: RampValues;
  readonly layout: RampLayout;
  /** Frames of what comes into it. */
  readonly incoming: number;
  /** The Ramp move they are of; undefined while there is none. */
  readonly stepId: string | undefined;
  /** Makes changed values part of the project; the first time, adds a Ramp to the end of the chain. */
  commit(words: string, change: Partial<RampValues>): void;
}

/** Everything at the speed it has: what a piece without a Ramp stands for. */
const EVEN: RampValues = { ...ramp.defaults, points: [{ at: 0, percent: 100 }] };

export function useRamp(piece: CompiledPiece | undefined): HandRamp | undefined {
  const newStep = useRef('');
  const pieceId = piece?.piece.id;
  useEffect(() => void (newStep.current = freshId()), [pieceId]);
  const found = useMemo(() => {
    if (!piece) return undefined;
    const place = piece.piece.chain.findLastIndex((s) => s.on);
    const step = piece.piece.chain[place];
    const mine = step?.move === 'ramp' && !step.zone;
    const values = mine ? (valuesOf(step) as RampValues) : EVEN;
    const incoming = mine ? piece.steps[place]!.incoming : pathLength(piece.path);
    return { values, incoming, stepId: mine ? step.id : undefined, layout: rampLayout(values, incoming) };
  }, [piece]);
  if (!found || !piece) return undefined;
  return {
    ...found,
    commit(words, change) {
      const id = found.stepId ?? newStep.current;
      act(words, (p) => {
        const there = p.pieces.find((q) => q.id === pieceId)?.chain.some((s) => s.id === id);
        return there
          ? setStepValues(p, piece.piece.id, id, change)
          : addStep(p, piece.piece.id, { id, move: 'ramp', values: { ...EVEN, ...change } });
      });
      if (found.stepId === undefined) select({ stepId: id });
      else newStep.current = freshId();
    },
  };
}
