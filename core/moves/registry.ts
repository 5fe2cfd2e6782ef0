import { z } from 'zod';
import { type Notice, failure } from '../notice';
import type { TimePath } from '../path/path';
import { boomerang } from './boomerang';
import { fit } from './fit';
import type { Move, MoveContext } from './move';
import { speed } from './speed';

/** A move whose values are only known to fit its own schema. */
export type AnyMove = Move<Record<string, unknown>>;

const widen = <V>(move: Move<V>): AnyMove => move as unknown as AnyMove;

/** All moves, in the order of the cards. Adding one: its file, and a line here. */
export const MOVES: readonly AnyMove[] = [widen(speed), widen(boomerang), widen(fit)];

export function moveById(id: string): AnyMove | undefined {
  return MOVES.find((m) => m.id === id);
}

/** One link of a chain: which move, with which values, on or off. */
export const ChainStepSchema = z.object({
  id: z.string().min(1),
  move: z.string().min(1),
  on: z.boolean(),
  values: z.record(z.string(), z.unknown()),
});
export type ChainStep = z.infer<typeof ChainStepSchema>;

export interface AppliedStep {
  readonly stepId: string;
  readonly notices: readonly Notice[];
}

/** A chain applied to a path, link by link. Links that are off, unknown or ill-valued leave the path as it was and say so. */
export function applyChain(
  start: TimePath,
  chain: readonly ChainStep[],
  context: MoveContext,
): { path: TimePath; steps: AppliedStep[] } {
  let path = start;
  const steps = chain.map((step): AppliedStep => {
    const stepId = step.id;
    if (!step.on) return { stepId, notices: [] };
    const move = moveById(step.move);
    if (!move)
      return {
        stepId,
        notices: [
          failure(
            'unknown-move',
            `This version does not know the move "${step.move}".`,
            'It is kept and left out.',
          ),
        ],
      };
    const values = move.schema.safeParse(step.values);
    if (!values.success) {
      const field = move.fields.find((f) => f.key === values.error.issues[0]?.path[0]);
      return {
        stepId,
        notices: [
          failure('bad-value', `${field?.label ?? 'A value'} is out of range.`, 'Type another value.'),
        ],
      };
    }
    const result = move.apply(path, values.data, context);
    path = result.path;
    return { stepId, notices: result.notices };
  });
  return { path, steps };
}
