import { type Driver, valueAt } from '../looks/driver';
import { factsOfPiece } from '../looks/facts';
import { sampleInstants, sampleSpeeds } from '../path/path';
import type { CompiledPiece } from '../project/compile';
import { toNumber } from '../time/rational';
import { type Gather, WIDEST_SHUTTER, gatherAt } from './gather';

/** What each frame of a piece is made of; undefined where it is a source frame as it is. */
export type Gathers = readonly (Gather | undefined)[];

const known = new WeakMap<CompiledPiece, Map<boolean, Gathers | undefined>>();

/** What the frames of a piece are made of; undefined where all are source frames. Kept while the piece stays as it is. */
export function gathersOf(compiled: CompiledPiece, loops: boolean): Gathers | undefined {
  const { between, shutter } = compiled.piece;
  if (between === 'repeat' && shutter === 0) return undefined;
  const mine = known.get(compiled) ?? new Map<boolean, Gathers | undefined>();
  known.set(compiled, mine);
  if (!mine.has(loops)) mine.set(loops, workedOut(compiled, loops));
  return mine.get(loops);
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

function workedOut(compiled: CompiledPiece, loops: boolean): Gathers | undefined {
  const { piece, path, table } = compiled;
  const { between } = piece;
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
