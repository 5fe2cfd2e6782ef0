import { durationOf, frameAt } from '../clip/frame-table';
import { type Driver, valueAt } from '../looks/driver';
import { type Facts, factsOfPiece } from '../looks/facts';
import type { Look } from '../looks/look';
import { treatmentById } from '../looks/registry';
import { momentsOf } from '../looks/moments';
import { stretchesOf } from '../looks/scope';
import type { Shares } from '../looks/treatment';
import { sampleInstants, sampleSpeeds } from '../path/path';
import type { CompiledPiece } from '../project/compile';
import type { Project } from '../project/schema';
import { toNumber } from '../time/rational';
import { seconds } from '../time/units';
import { aroundPiece } from './around';
import {
  type Gather,
  MOST_GATHERED,
  WHOLE,
  WIDEST_SHUTTER,
  flowShift,
  gatherAt,
  gatherKey,
  weighed,
  wholeFrame,
} from './gather';

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
  if (!mine.has(loops)) {
    const { partOf, shown } = compiled;
    const all = partOf ? gathersOf(partOf.whole, loops) : workedOut(compiled, loops);
    const here = partOf ? all?.slice(partOf.from, partOf.from + shown.length) : all;
    mine.set(loops, here?.some(Boolean) ? here : undefined);
  }
  const own = mine.get(loops);
  return whole?.looks.some(gathersFrames) ? smeared(compiled, own, whole) : own;
}

function workedOut(compiled: CompiledPiece, loops: boolean): Gathers | undefined {
  const between = betweenFrames(compiled, loops);
  const { looks } = compiled.piece;
  if (!looks.some(gathersFrames)) return between;
  return smeared(compiled, between, { looks, facts: factsOfPiece(compiled, loops), from: 0 });
}

/** In a region they are laid over the picture instead. */
const gathersFrames = (look: Look): boolean =>
  look.on && look.region === null && look.matte === null && treatmentById(look.look)?.gather !== undefined;

/** Pictures with the looks that are made of other frames, one look after the other. */
function smeared(
  compiled: CompiledPiece,
  before: Gathers | undefined,
  { looks, facts, from }: GatheringLooks,
): Gathers | undefined {
  const { shown } = compiled;
  let made: (Shares | undefined)[] = Array.from(shown, (_, i) => sharesOf(before?.[i]));
  const touched = new Set<number>();
  for (const look of looks) {
    const treatment = treatmentById(look.look);
    if (!treatment?.gather || !gathersFrames(look)) continue;
    const last = made;
    const plain = (i: number): Shares => last[i] ?? new Map([[shown[i]!, 1]]);
    const around = aroundPiece(compiled, from, (frame) => plain(frame - from));
    made = [...last];
    const stretches = stretchesOf(look.scope, facts);
    const within = { first: from, end: from + shown.length };
    for (const { values, ...moment } of momentsOf(look, treatment, stretches, facts, { within })) {
      const i = moment.frame - from;
      const gathered = treatment.gather(values, moment, around);
      if (!gathered) continue;
      touched.add(i);
      made[i] = mixed(plain(i), gathered, moment.strength);
    }
  }
  const gathered = made.map((shares, i) =>
    touched.has(i) ? shares && gatherOf(shares, shown[i]!) : before?.[i],
  );
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
export function gatherOf(shares: Shares, shown: number): Gather | undefined {
  const { frames, parts } = thinned(shares);
  const gather = weighed(frames, parts);
  if (gather) return gather;
  const [only] = frames.reduce((a, b) => (shares.get(b)! > shares.get(a[0]!)! ? [b] : a), [frames[0]!]);
  return asItIs(only!, shown);
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
    const key = gatherKey(gather);
    let number = known.get(key);
    if (number === undefined) known.set(key, (number = -1 - known.size));
    return number;
  });
}

/** The part of what moves in a picture whose motion has to be lost for it to be called weak. */
export const WEAK = 0.05;

/**
 * The pairs of frames of a piece, by their first ones, whose motion is weak, and how many pictures are made of them;
 * `lost` tells for frames of the piece of which part of what moves the motion was needed and not trusted.
 */
export function weakPairs(
  compiled: CompiledPiece,
  loops: boolean,
  lost: Iterable<readonly [frame: number, share: number]>,
): { readonly pairs: readonly number[]; readonly pictures: number } {
  const gathers = gathersOf(compiled, loops);
  const pairs = new Set<number>();
  let pictures = 0;
  for (const [frame, share] of lost) {
    const gather = gathers?.[frame];
    if (!gather?.along || share < WEAK) continue;
    pictures++;
    gather.frames.slice(0, -1).forEach((f) => pairs.add(f));
  }
  return { pairs: [...pairs].sort((a, b) => a - b), pictures };
}

function betweenFrames(compiled: CompiledPiece, loops: boolean): Gathers | undefined {
  const { piece, path, shown } = compiled;
  if (piece.between === 'repeat' && piece.shutter === 0) return undefined;
  const instants = sampleInstants(path);
  const speeds = sampleSpeeds(path);
  const angles = anglesOf(piece.shutter, compiled, loops);
  const same = (i: number, j: number) =>
    Math.abs((speeds[j] ?? NaN) - speeds[i]!) < 1e-6 * Math.abs(speeds[i]!);
  const gathers = Array.from(instants, (at, i) =>
    pictureAt(compiled, {
      ...{ at, speed: speeds[i]!, shutter: angles(i), shown: shown[i]! },
      steady: same(i, i - 1) || same(i, i + 1),
    }),
  );
  return gathers.some(Boolean) ? gathers : undefined;
}

/** What the picture at an instant of a piece's clip is made of; undefined where it is the frame shown, as it is. */
function pictureAt(
  { piece, path, table }: CompiledPiece,
  { at, speed, shutter, shown, steady }: Instant,
): Gather | undefined {
  const { between, mixed } = piece;
  const rateHz = toNumber(path.rate);
  const moved = between === 'flow' && steady ? at + flowShift(table, at, speed, rateHz) : at;
  const gather = gatherAt(table, moved, speed, { between, shutter, mixed }, rateHz);
  return gather ?? asItIs(frameAt(table, seconds(Math.min(moved, durationOf(table)))), shown);
}

interface Instant {
  /** Seconds in the clip, and source seconds a result second there. */
  readonly at: number;
  readonly speed: number;
  readonly shutter: number;
  /** The frame whose interval holds it. */
  readonly shown: number;
  /** Whether the speed is the same on a picture next to it. */
  readonly steady: boolean;
}

/**
 * What a piece would show before its first frame (`by` -1, -2 ...) or after its last (1, 2 ...), running on at the
 * speed it has there; `held` where its clip has no frame left and its last one stays.
 */
export function runOn(
  compiled: CompiledPiece,
  by: number,
  loops: boolean,
): { readonly frame: number; readonly gather: Gather | undefined; readonly held: boolean } {
  const { path, table, piece } = compiled;
  const instants = sampleInstants(path);
  const i = by < 0 ? 0 : instants.length - 1;
  const speed = sampleSpeeds(path)[i]!;
  const at = instants[i]! + (by * speed) / toNumber(path.rate);
  const within = Math.min(Math.max(at, 0), durationOf(table));
  const frame = frameAt(table, seconds(within));
  const held = Math.abs(at - within) > 1e-9;
  const shutter = anglesOf(piece.shutter, compiled, loops)(i);
  return {
    frame,
    gather: held ? undefined : pictureAt(compiled, { at, speed, shutter, shown: frame, steady: true }),
    held,
  };
}

/** A frame as it is, where it is not the one shown. */
const asItIs = (frame: number, shown: number): Gather | undefined =>
  frame === shown ? undefined : wholeFrame(frame);

/** The shutter's angle at every frame: it may be driven, over the whole piece. */
function anglesOf(shutter: number | Driver, compiled: CompiledPiece, loops: boolean): (i: number) => number {
  const within = (angle: number) => Math.min(WIDEST_SHUTTER, Math.max(0, angle));
  if (typeof shutter === 'number') return () => within(shutter);
  const facts = factsOfPiece(compiled, loops);
  const whole = { first: 0, end: facts.frames };
  return (i) => within(valueAt(shutter, i, whole, facts));
}

/** Whether pictures of a clip's frames are made of several of them, in a piece or by a look of the whole. */
export const isGathered = ({ pieces, looks }: Project, clipId: string): boolean =>
  pieces.some(
    (piece) =>
      piece.clipId === clipId &&
      (piece.between !== 'repeat' || piece.shutter !== 0 || [...piece.looks, ...looks].some(mixesFrames)),
  );

function mixesFrames({ on, look, values }: Look): boolean {
  const treatment = treatmentById(look);
  if (!on || !treatment?.gather) return false;
  // What is chosen, not moved by drivers, decides it.
  return treatment.mixes?.({ ...treatment.defaults, ...values }) ?? true;
}

/** The cuts of its clip that a piece plays over, by the first frame after each. */
export function cutsOver({ table, shown }: CompiledPiece): readonly number[] {
  const { cuts } = table;
  if (!cuts || cuts.length === 0) return [];
  const first = shown.reduce((a, b) => Math.min(a, b), Infinity);
  const last = shown.reduce((a, b) => Math.max(a, b), -1);
  return cuts.filter((cut) => cut > first && cut <= last);
}
