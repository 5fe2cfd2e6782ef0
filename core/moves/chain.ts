import type { z } from 'zod';
import { type Notice, failure, warning } from '../notice';
import { musicFrom } from '../beats/music';
import { tooMuch } from '../path/limits';
import { AFTER, BEFORE, asPart, madeBy, runsMadeBy } from '../path/makers';
import {
  type TimePath,
  cutToPath,
  joinPaths,
  pathFrames,
  pathLength,
  slicePath,
  speedUp,
} from '../path/path';
import { resolveTurns, stillResolved } from '../path/turns';
import { type Ground, resolvePlace } from '../places/resolve';
import type { AnyMove, LeftOut, MoveContext, MoveResult } from './move';
import { beatsIn, withoutPlaces, workOut } from './place-values';
import { type ChainStep, type Zone, moveById, valuesOf } from './registry';

export interface AppliedStep {
  readonly stepId: string;
  /** Length of what came into this link, result frames with fractions. */
  readonly incoming: number;
  /** The same of what comes out of it. */
  readonly outgoing?: number;
  readonly notices: readonly Notice[];
  /** Where it works, result positions of what comes in, where it is limited to a part. */
  readonly zone?: { readonly from: number; readonly to: number };
  /** Where each of its places lies in that, the first time; by the values' keys. */
  readonly places?: Readonly<Record<string, number>>;
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
    const zone = zoneOf(step.zone, groundOf(path, context));
    const told = zone && { zone: { from: zone.from, to: zone.to } };
    const result = applyInZone(path, zone, move, (part, from) =>
      applyMove(move, step, part, {
        ...context,
        music: context.music && musicFrom(context.music, from),
        limited: step.zone !== undefined,
      }),
    );
    // Turns that nothing was done to stay as they were found.
    const settled = longEnough(move.onlyCuts ? result.path : resolveTurns(result.path, context.table));
    const next = stillResolved(settled, madeBy(step.id, settled));
    const refused = tooMuch(next);
    if (refused) return { stepId, incoming, notices: [refused] };
    const out = step.zone ? undefined : result.values && move.leavesOut?.(path, result.values);
    if (out)
      leftOut = {
        before: joinPaths(path.rate, [...(leftOut ? [leftOut.before] : []), out.before]),
        after: joinPaths(path.rate, [out.after, ...(leftOut ? [leftOut.after] : [])]),
        whole: leftOut ? leftOut.whole : path,
      };
    // From here on it is not simply a part of that any more.
    else if (leftOut) leftOut = { ...leftOut, whole: undefined };
    path = next;
    return {
      ...{ stepId, incoming, outgoing: pathLength(path), notices: result.notices, ...told },
      ...(result.places && { places: result.places }),
    };
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
    const { zone } = step;
    contexts[i] = here;
    const move = moveById(step.move);
    if (!step.on || !move?.skips || (zone && !('from' in zone && zone.from === 0))) continue;
    const values = move.schema.safeParse(skippedValues(move, step, here));
    if (values.success) skipped += move.skips(values.data);
  }
  return contexts;
}

/** Values whose places lie along what comes in, or in the music: known before anything came in. */
function skippedValues(move: AnyMove, step: ChainStep, { table, music, marks = [] }: MoveContext) {
  const path: TimePath = { rate: { num: 1, den: 1 }, segments: [] };
  const worked = workOut(move, valuesOf(step), { path, table, marks, music });
  return 'sets' in worked ? worked.sets[0] : undefined;
}

const groundOf = (path: TimePath, { table, music, marks = [] }: MoveContext): Ground => ({
  path,
  table,
  marks,
  music,
});

/** What a link made of what it works on; and its values as they were worked out, where they made sense. */
type Applied = MoveResult & {
  readonly values?: Record<string, unknown>;
  readonly places?: Readonly<Record<string, number>>;
};

function outOfRange(move: AnyMove, { issues }: z.ZodError): Notice {
  const field = move.fields.find((f) => f.key === issues[0]?.path[0]);
  return failure('bad-value', `${field?.label ?? 'A value'} is out of range.`, 'Type another value.');
}

/** A move carried out on a path, everywhere its places lie. */
function applyMove(move: AnyMove, step: ChainStep, path: TimePath, context: MoveContext): Applied {
  const values = valuesOf(step);
  const checked = move.schema.safeParse(withoutPlaces(move, values));
  if (!checked.success) return { path, notices: [outOfRange(move, checked.error)] };
  const worked = workOut(move, values, groundOf(path, context));
  if (!('sets' in worked)) return { path, notices: [worked] };
  const inside = { ...context, inBeats: beatsIn(values), instants: worked.instants };
  const notices = [...worked.notices];
  let made = path;
  let used: Record<string, unknown> | undefined;
  for (const set of worked.sets) {
    const read = move.schema.safeParse(set);
    if (!read.success) {
      notices.push(outOfRange(move, read.error));
      continue;
    }
    used = read.data;
    const result = move.apply(made, read.data, inside);
    made = result.path;
    notices.push(...result.notices.filter((n) => !notices.some((m) => m.text === n.text)));
  }
  // The last set is the first time it happens.
  const places = Object.fromEntries(
    move.fields.flatMap((f) => (f.kind === 'place' && used ? [[f.key, Number(used[f.key])]] : [])),
  );
  return { path: made, notices, ...(used && { values: used, places }) };
}

/** Where a link works: result positions of what comes in; nothing where it works everywhere. */
interface ZoneHere {
  readonly from: number;
  readonly to: number;
  readonly notices: readonly Notice[];
}

function zoneOf(zone: Zone | undefined, ground: Ground): ZoneHere | undefined {
  if (!zone) return undefined;
  if ('segment' in zone) {
    const runs = runsMadeBy(ground.path, zone.segment.makers);
    const run = runs[Math.min(zone.segment.nth, runs.length - 1)];
    if (run) return { from: run.from, to: run.to, notices: [] };
    const said = warning(
      'segment-gone',
      'What it is limited to is not there now: it works where that was.',
      'Switch that move on, or limit it anew.',
    );
    return { ...zone.was, notices: [said] };
  }
  const [from, to] = [resolvePlace(zone.from, ground), resolvePlace(zone.to, ground)];
  const notices = [from, to].flatMap(({ said }) => (said ? [said] : []));
  if (from.at.length === 0 || to.at.length === 0) return { from: 0, to: 0, notices };
  const [a, b] = [Math.max(0, from.at[0]!), Math.max(0, to.at[0]!)];
  if (b > a || notices.length > 0) return { from: a, to: b, notices };
  const said = warning(
    'zone-turned',
    'Its zone ends before it begins.',
    'Choose an earlier beginning or a later end.',
  );
  return { from: a, to: a, notices: [said] };
}

/** Result frames a path lasts at least, so that speeds piled upon speeds leave something to show. */
const SHORTEST = 0.05;

const longEnough = (path: TimePath): TimePath => {
  const length = pathLength(path);
  return length < SHORTEST ? speedUp(path, length / SHORTEST) : path;
};

/** Applies a move to a stretch only; what is before and after it stays, shifted but not lost. */
function applyInZone(
  path: TimePath,
  zone: ZoneHere | undefined,
  move: AnyMove,
  apply: (part: TimePath, from: number) => Applied,
): Applied {
  if (!zone) return apply(path, 0);
  const total = pathFrames(path);
  const end = pathLength(path);
  const from = Math.min(zone.from, end);
  const to = zone.to >= total ? end : zone.to;
  if (to - from < 1e-3)
    return {
      path,
      notices:
        zone.notices.length > 0
          ? zone.notices
          : [
              warning(
                'zone-outside',
                `What comes in has only ${total} frames; its zone begins after them.`,
                'Move the zone earlier.',
              ),
            ],
    };
  const { path: inside, notices, places } = apply(slicePath(path, from, to), from);
  const before = asPart(slicePath(path, 0, from), BEFORE);
  const after = asPart(slicePath(path, to, end), AFTER);
  const parts = move.jumps
    ? [before, before.segments.length > 0 ? cutToPath(inside) : inside, cutToPath(after)]
    : [before, inside, after];
  return {
    path: joinPaths(path.rate, parts),
    notices: [...zone.notices, ...notices],
    ...(places && { places }),
  };
}

/** What places of a link are worked out on: what comes in, for where it works; and that part of it, for its values. */
export function stepGround(
  base: TimePath,
  chain: readonly ChainStep[],
  stepId: string,
  context: MoveContext,
): { readonly incoming: Ground; readonly inside: Ground } | undefined {
  const place = chain.findIndex((s) => s.id === stepId);
  const step = chain[place];
  if (!step) return undefined;
  const here = contextsOf(chain, context)[place]!;
  const incoming = groundOf(applyChain(base, chain.slice(0, place), here).path, here);
  const zone = zoneOf(step.zone, incoming);
  if (!zone || zone.to <= zone.from) return { incoming, inside: incoming };
  const inside = {
    ...incoming,
    path: slicePath(incoming.path, zone.from, zone.to),
    music: here.music && musicFrom(here.music, zone.from),
  };
  return { incoming, inside };
}

/** Where a path has what a link made, the first time: all of its parts in a row, or one of them. */
export function partOf(
  path: TimePath,
  stepId: string,
  part?: number,
): { from: number; to: number } | undefined {
  let found: { from: number; to: number } | undefined;
  let start = 0;
  for (const segment of path.segments) {
    let { maker } = segment;
    while (maker && maker.step !== stepId) maker = maker.of;
    const mine = maker && (part === undefined ? maker.part >= 0 : maker.part === part);
    const end = start + segment.length;
    if (mine) found = { from: found?.from ?? start, to: end };
    else if (found) return found;
    start = end;
  }
  return found;
}
