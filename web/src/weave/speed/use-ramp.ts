import { stepGround } from '@skipback/core/moves/chain';
import { valuesOf } from '@skipback/core/moves/registry';
import { isPlace } from '@skipback/core/places/place';
import { resolvePlace } from '@skipback/core/places/resolve';
import { ramp } from '@skipback/core/moves/ramp';
import { type RampLayout, type RampValues, rampLayout } from '@skipback/core/moves/ramp-layout';
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
  /** Whether it goes backward or stands still somewhere: then it is typed in its card. */
  readonly typed: boolean;
  /** Makes changed values part of the project; the first time, adds a Ramp to the end of the chain. */
  commit(words: string, change: Partial<RampValues>): void;
}

const contextOf = ({ table, music, clip }: CompiledPiece) => ({ table, music, marks: clip.marks });

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
    const stored = mine ? (valuesOf(step) as RampValues) : EVEN;
    const ground = mine
      ? stepGround(piece.base, piece.piece.chain, step.id, contextOf(piece))?.incoming
      : undefined;
    // Where its points are now; those on marks and beats keep that as long as they are not moved.
    const at = (place: unknown) =>
      isPlace(place) ? ((ground && resolvePlace(place, ground).at[0]) ?? 0) : (place as number);
    const values = { ...stored, points: stored.points.map((p) => ({ ...p, at: at(p.at) })) };
    const incoming = mine ? piece.steps[place]!.incoming : pathLength(piece.path);
    return {
      ...{ values, stored, incoming, stepId: mine ? step.id : undefined },
      // What goes backward or stands still is typed, not drawn.
      typed: values.points.some((p) => p.percent <= 0),
      layout: rampLayout(values, incoming),
    };
  }, [piece]);
  if (!found || !piece) return undefined;
  return {
    ...found,
    commit(words, { points, ...rest }) {
      const { values, stored } = found;
      const kept = points?.map((p) => {
        const same = values.points.findIndex((q) => q.at === p.at);
        return same < 0 ? p : { ...p, at: stored.points[same]!.at };
      });
      const change = { ...rest, ...(kept && { points: kept }) };
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
