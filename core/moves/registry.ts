import { z } from 'zod';
import { type Notice, failure, warning } from '../notice';
import { musicFrom } from '../beats/music';
import { tooMuch } from '../path/limits';
import {
  type TimePath,
  cutToPath,
  joinPaths,
  pathFrames,
  pathLength,
  slicePath,
  speedUp,
} from '../path/path';
import { resolveTurns } from '../path/turns';
import { boomerang } from './boomerang';
import { beatsIn, resolveBeats } from './beat-values';
import { bounce } from './bounce';
import { coast } from './coast';
import { curve } from './curve';
import { fit } from './fit';
import { hold } from './hold';
import type { AnyMove, LeftOut, Move, MoveContext, MoveResult } from './move';
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

/** One link of a chain: which move, with which values, on or off. */
export const ChainStepSchema = z.object({
  id: z.string().min(1),
  move: z.string().min(1),
  on: z.boolean(),
  values: z.record(z.string(), z.unknown()),
  /** Result positions [from, to) of what comes in, in frames, that it works on; everything when left out. */
  zone: z
    .object({ from: z.number().min(0).max(10_000_000), to: z.number().min(0).max(10_000_000) })
    .refine((zone) => zone.to > zone.from, 'a zone ends after it begins')
    .optional(),
});
export type ChainStep = z.infer<typeof ChainStepSchema>;

export interface AppliedStep {
  readonly stepId: string;
  /** Length of what came into this link, result frames with fractions. */
  readonly incoming: number;
  readonly notices: readonly Notice[];
}

/** A chain applied to a path, link by link. Links that are off, unknown or ill-valued leave the path as it was and say so. */
export function applyChain(
  start: TimePath,
  chain: readonly ChainStep[],
  given: MoveContext,
): {
  path: TimePath;
  steps: AppliedStep[];
  /** What links left out that looks still count; `whole` is the path with it, where nothing but that was done. */
  leftOut: (LeftOut & { readonly whole: TimePath | undefined }) | undefined;
} {
  let path = start;
  let leftOut: (LeftOut & { readonly whole: TimePath | undefined }) | undefined;
  const contexts = contextsOf(chain, given);
  const steps = chain.map((step, place): AppliedStep => {
    const context = contexts[place]!;
    const stepId = step.id;
    const incoming = pathLength(path);
    if (!step.on) return { stepId, incoming, notices: [] };
    const move = moveById(step.move);
    if (!move)
      return {
        stepId,
        incoming,
        notices: [
          failure(
            'unknown-move',
            `This version does not know the move "${step.move}".`,
            'It is kept and left out.',
          ),
        ],
      };
    const inBeats = resolveBeats(move, valuesOf(step), zoneMusic(context, step.zone));
    if (!inBeats)
      return {
        stepId,
        incoming,
        notices: [
          warning(
            'no-beats',
            `${move.name} has a value in beats, but there is no song with beats.`,
            'Add a song on Beats, or type frames.',
          ),
        ],
      };
    const values = move.schema.safeParse(inBeats);
    if (!values.success) {
      const field = move.fields.find((f) => f.key === values.error.issues[0]?.path[0]);
      return {
        stepId,
        incoming,
        notices: [
          failure('bad-value', `${field?.label ?? 'A value'} is out of range.`, 'Type another value.'),
        ],
      };
    }
    const inZone = {
      ...context,
      music: zoneMusic(context, step.zone),
      inBeats: beatsIn(step.values),
    };
    const result = applyInZone(path, step.zone, move, (part) => move.apply(part, values.data, inZone));
    // Turns that nothing was done to stay as they were found.
    const next = longEnough(move.onlyCuts ? result.path : resolveTurns(result.path, context.table));
    const refused = tooMuch(next);
    if (refused) return { stepId, incoming, notices: [refused] };
    const out = step.zone ? undefined : move.leavesOut?.(path, values.data);
    if (out)
      leftOut = {
        before: joinPaths(path.rate, [...(leftOut ? [leftOut.before] : []), out.before]),
        after: joinPaths(path.rate, [out.after, ...(leftOut ? [leftOut.after] : [])]),
        whole: leftOut ? leftOut.whole : path,
      };
    // From here on it is not simply a part of that any more.
    else if (leftOut) leftOut = { ...leftOut, whole: undefined };
    path = next;
    return { stepId, incoming, notices: result.notices };
  });
  return { path, steps, leftOut };
}

/**
 * What each link is worked out in. The music is counted from where what comes out begins: where a later link leaves
 * frames out at the beginning, it lies so much later under what comes in before that.
 */
export function contextsOf(chain: readonly ChainStep[], context: MoveContext): MoveContext[] {
  const contexts: MoveContext[] = [];
  let skipped = 0;
  for (let i = chain.length - 1; i >= 0; i--) {
    const step = chain[i]!;
    const here = context.music ? { ...context, music: musicFrom(context.music, -skipped) } : context;
    contexts[i] = here;
    const move = moveById(step.move);
    if (!step.on || !move?.skips || (step.zone && step.zone.from > 0)) continue;
    const inBeats = resolveBeats(move, valuesOf(step), here.music);
    const values = inBeats && move.schema.safeParse(inBeats);
    if (values?.success) skipped += move.skips(values.data);
  }
  return contexts;
}

/** The music counted from where a zone begins. */
const zoneMusic = (context: MoveContext, zone: ChainStep['zone']) =>
  context.music && zone ? musicFrom(context.music, zone.from) : context.music;

/** Result frames a path lasts at least, so that speeds piled upon speeds leave something to show. */
const SHORTEST = 0.05;

const longEnough = (path: TimePath): TimePath => {
  const length = pathLength(path);
  return length < SHORTEST ? speedUp(path, length / SHORTEST) : path;
};

/** Applies a move to a stretch only; what is before and after it stays, shifted but not lost. */
function applyInZone(
  path: TimePath,
  zone: ChainStep['zone'],
  move: AnyMove,
  apply: (part: TimePath) => MoveResult,
): MoveResult {
  if (!zone) return apply(path);
  const total = pathFrames(path);
  const end = pathLength(path);
  const from = Math.min(zone.from, end);
  const to = zone.to >= total ? end : zone.to;
  if (to - from < 1e-3)
    return {
      path,
      notices: [
        warning(
          'zone-outside',
          `What comes in has only ${total} frames; its zone begins after them.`,
          'Move the zone earlier.',
        ),
      ],
    };
  const { path: inside, notices } = apply(slicePath(path, from, to));
  const [before, after] = [slicePath(path, 0, from), slicePath(path, to, end)];
  const parts = move.jumps
    ? [before, before.segments.length > 0 ? cutToPath(inside) : inside, cutToPath(after)]
    : [before, inside, after];
  return { path: joinPaths(path.rate, parts), notices };
}
