import { z } from 'zod';
import { MadeSegmentSchema, StretchPlacesSchema } from '../places/place';
import { boomerang } from './boomerang';
import { bounce } from './bounce';
import { coast } from './coast';
import { curve } from './curve';
import { fit } from './fit';
import { hold } from './hold';
import type { AnyMove, Move } from './move';
import { land } from './land';
import { pattern } from './pattern';
import { push } from './push';
import { ramp } from './ramp';
import { rewind } from './rewind';
import { scratch } from './scratch';
import { speed } from './speed';
import { spool } from './spool';
import { step } from './step';
import { stutter } from './stutter';
import { surge } from './surge';
import { trim } from './trim';

const widen = <V>(move: Move<V>): AnyMove => move as unknown as AnyMove;

/** All moves, in the order of the cards. Adding one: its file, and a line here. */
export const MOVES: readonly AnyMove[] = [
  widen(speed),
  widen(ramp),
  widen(boomerang),
  widen(rewind),
  widen(scratch),
  widen(stutter),
  widen(hold),
  widen(spool),
  widen(coast),
  widen(step),
  widen(bounce),
  widen(pattern),
  widen(curve),
  widen(surge),
  widen(push),
  widen(land),
  widen(trim),
  widen(fit),
];

export function moveById(id: string): AnyMove | undefined {
  return MOVES.find((m) => m.id === id);
}

/** All values of a link: what it does not say itself is its move's default, as in a file of another version. */
export const valuesOf = ({ move, values }: Pick<ChainStep, 'move' | 'values'>): Record<string, unknown> => ({
  ...moveById(move)?.defaults,
  ...values,
});

/** From one place to another; or the whole of a segment that was made. */
export const ZoneSchema = z.union([
  StretchPlacesSchema.refine(
    ({ from, to }) => typeof from !== 'number' || typeof to !== 'number' || (to > from && from >= 0),
    'a zone ends after it begins',
  ),
  z.object({ segment: MadeSegmentSchema, was: z.object({ from: z.number(), to: z.number() }) }),
]);
export type Zone = z.infer<typeof ZoneSchema>;

/** One link of a chain: which move, with which values, on or off. */
export const ChainStepSchema = z.object({
  id: z.string().min(1),
  move: z.string().min(1),
  on: z.boolean(),
  values: z.record(z.string(), z.unknown()),
  /** The stretch of what comes in that it works on, or what an earlier move made; everything when left out. */
  zone: ZoneSchema.optional(),
});
export type ChainStep = z.infer<typeof ChainStepSchema>;
