import { type Driver, valueAt } from '../looks/driver';
import { type Facts, factsOfPiece } from '../looks/facts';
import type { Look } from '../looks/look';
import { treatmentById } from '../looks/registry';
import { momentsOf } from '../looks/resolve';
import { stretchesOf } from '../looks/scope';
import type { Shares } from '../looks/treatment';
import { sampleInstants, sampleSpeeds } from '../path/path';
import type { CompiledPiece } from '../project/compile';
import { toNumber } from '../time/rational';
import { aroundPiece } from './around';
import { type Gather, MOST_GATHERED, WHOLE, WIDEST_SHUTTER, gatherAt, weighed } from './gather';

/** What each frame of a piece is made of; undefined where it is a source frame as it is. */
export type Gathers = readonly (Gather | undefined)[];

const known = new WeakMap<CompiledPiece, Map<boolean, Gathers | undefined>>();

/** Looks that make pictures of other frames, and what they are worked out from. */
export interface GatheringLooks {
  readonly looks: readonly Look[];
  readonly facts: Facts;
  /** The frame of `facts` that is the piece's first. */
  readonly from: number;
}

/**
 * What the frames of a piece are made of, its own looks included; undefined where all are source frames. Kept while
 * the piece stays as it is. `whole` are the looks of the whole result, which come after.
 */
export function gathersOf(
  compiled: CompiledPiece,
  loops: boolean,
  whole?: GatheringLooks,
): Gathers | undefined {
  const mine = known.get(compiled) ?? new Map<boolean, Gathers | undefined>();
  known.set(compiled, mine);
  if (!mine.has(loops)) mine.set(loops, workedOut(compiled, loops));
  const own = mine.get(loops);
  return whole?.looks.some(gathersFrames) ? smeared(compiled, own, whole) : own;
}

function workedOut(compiled: CompiledPiece, loops: boolean): Gathers | undefined {
  const between = betweenFrames(compiled, loops);
  const { looks } = compiled.piece;
  if (!looks.some(gathersFrames)) return between;
  return smeared(compiled, between, { looks, facts: factsOfPiece(compiled, loops), from: 0 });
}

const gathersFrames = (look: Look): boolean => look.on && treatmentById(look.look)?.gather !== undefined;

/** Pictures with the looks that are made of other frames, one look after the other. */
function smeared(
  compiled: CompiledPiece,
  before: Gathers | undefined,
  { looks, facts, from }: GatheringLooks,
): Gathers | undefined {
  const { shown } = compiled;
  let made: (Shares | undefined)[] = Array.from(shown, (_, i) => sharesOf(before?.[i]));
  for (const look of looks) {
    const treatment = treatmentById(look.look);
    if (!treatment?.gather) continue;
    const last = made;
    const plain = (i: number): Shares => last[i] ?? new Map([[shown[i]!, 1]]);
    const around = aroundPiece(compiled, from, (frame) => plain(frame - from));
    made = [...last];
    const stretches = stretchesOf(look.scope, facts);
    const within = { first: from, end: from + shown.length };
    for (const { values, ...moment } of momentsOf(look, treatment, stretches, facts, { within })) {
      const i = moment.frame - from;
      made[i] = mixed(plain(i), treatment.gather(values, moment, around), moment.strength);
    }
  }
  const gathered = made.map((shares, i) => shares && gatherOf(shares, shown[i]!));
  return gathered.some(Boolean) ? gathered : undefined;
}

const sharesOf = (gather: Gather | undefined): Shares | undefined =>
  gather && new Map(gather.frames.map((f, i) => [f, gather.weights[i]! / WHOLE]));

function mixed(a: Shares, b: Shares, share: number): Shares {
  if (share >= 1) return b;
  const sum = new Map([...a].map(([frame, part]) => [frame, part * (1 - share)]));
  for (const [frame, part] of b) sum.set(frame, (sum.get(frame) ?? 0) + part * share);
  return sum;
}

/** Shares in whole weights; undefined where they are the frame shown, as it is. */
function gatherOf(shares: Shares, shown: number): Gather | undefined {
  const { frames, parts } = thinned(shares);
  const gather = weighed(frames, parts);
  if (gather) return gather;
  const [only] = frames.reduce((a, b) => (shares.get(b)! > shares.get(a[0]!)! ? [b] : a), [frames[0]!]);
  return only === shown ? undefined : { frames: [only!], weights: [WHOLE] };
}

/** At most as many frames as a picture may have, evenly spread, each with the shares of those left out after it. */
function thinned(shares: Shares): { frames: number[]; parts: number[] } {
  const all = [...shares.keys()].sort((a, b) => a - b);
  const step = Math.ceil(all.length / MOST_GATHERED);
  const frames = all.filter((_, i) => i % step === 0);
  const parts = frames.map((_, k) =>
    all.slice(k * step, (k + 1) * step).reduce((sum, f) => sum + shares.get(f)!, 0),
  );
  return { frames, parts };
}

/** A number for the picture of every frame of a piece: equal numbers, equal pictures. */
export function picturesOf(compiled: CompiledPiece): Int32Array {
  const gathers = gathersOf(compiled, false);
  if (!gathers) return compiled.shown;
  const known = new Map<string, number>();
  return compiled.shown.map((n, i) => {
    const gather = gathers[i];
    if (!gather) return n;
    const key = `${gather.frames.join()} ${gather.weights.join()}`;
    let number = known.get(key);
    if (number === undefined) known.set(key, (number = -1 - known.size));
    return number;
  });
}

function betweenFrames(compiled: CompiledPiece, loops: boolean): Gathers | undefined {
  const { piece, path, table } = compiled;
  const { between, shutter } = piece;
  if (between === 'repeat' && shutter === 0) return undefined;
  const rateHz = toNumber(path.rate);
  const instants = sampleInstants(path);
  const speeds = sampleSpeeds(path);
  const angles = anglesOf(piece.shutter, compiled, loops);
  const gathers = Array.from(instants, (at, i) =>
    gatherAt(table, at, speeds[i]!, { between, shutter: angles(i) }, rateHz),
  );
  return gathers.some(Boolean) ? gathers : undefined;
}

/** The shutter's angle at every frame: it may be driven, over the whole piece. */
function anglesOf(shutter: number | Driver, compiled: CompiledPiece, loops: boolean): (i: number) => number {
  const within = (angle: number) => Math.min(WIDEST_SHUTTER, Math.max(0, angle));
  if (typeof shutter === 'number') return () => within(shutter);
  const facts = factsOfPiece(compiled, loops);
  const whole = { first: 0, end: facts.frames };
  return (i) => within(valueAt(shutter, i, whole, facts));
}
