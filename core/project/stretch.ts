import { produce } from 'immer';
import { workOut } from '../moves/place-values';
import { applyChain } from '../moves/chain';
import { type ChainStep, moveById, valuesOf } from '../moves/registry';
import type { AnyMove, MoveContext, PartLength } from '../moves/move';
import { type Making, runOf, runsMadeBy } from '../path/makers';
import { type TimePath, pathLength } from '../path/path';
import type { Maker } from '../path/segment';
import type { CompiledPiece } from './compile';
import { setStepValues } from './actions';
import type { Project } from './schema';

/** A segment as a person sees it: the run of one making, its frames, which of those of its making it is. */
export interface HeldSegment {
  readonly makers: readonly Making[];
  readonly nth: number;
  readonly from: number;
  readonly to: number;
  /** Its segments of the path: the first, and the one after its last. */
  readonly first: number;
  readonly end: number;
}

/** The segment that the `index`-th of a path belongs to. */
export function heldSegment(path: TimePath, index: number): HeldSegment {
  const { run, makers, nth } = runOf(path, index);
  return { makers, nth, ...run };
}

/** The value that a dragged end changes: of which move, its words, and how many segments follow it. */
export interface Behind {
  readonly stepId: string;
  /** `Hold, for`; with what it is in the chain. */
  readonly words: string;
  /** Segments of the path whose length it says, the dragged one among them. */
  readonly copies: number;
}

interface Candidate {
  readonly step: ChainStep;
  readonly move: AnyMove;
  readonly length: PartLength<Record<string, unknown>>;
}

type Piece = Pick<CompiledPiece, 'piece' | 'base' | 'path' | 'table' | 'music' | 'clip'>;

const contextOf = ({ table, music, clip }: Piece): MoveContext => ({ table, music, marks: clip.marks });

/** Values of a link as they are worked out where they need no path; lists stay as they are stored. */
function plainValues(
  move: AnyMove,
  step: ChainStep,
  { table, music, marks = [] }: MoveContext,
  path: TimePath,
) {
  const values = valuesOf(step);
  const { lists: _, ...scalar } = move;
  const worked = workOut(scalar, values, { path, table, music, marks });
  return 'sets' in worked ? worked.sets[0]! : values;
}

/**
 * The values that say how long a segment is, the innermost first: of those moves that made just it, not something
 * larger of which it is a part.
 */
function* valuesBehind(piece: Piece, held: HeldSegment): Generator<Candidate> {
  const { path } = piece;
  const chain = piece.piece.chain;
  for (let i = held.makers.length - 1; i >= 0; i--) {
    const { step: id, part } = held.makers[i]!;
    const step = chain.find((s) => s.id === id);
    const move = step && moveById(step.move);
    if (!step || !move?.lengthOf || part < 0) continue;
    // All that it made here must be this segment.
    const whole = runsMadeBy(path, held.makers.slice(0, i + 1)).find(
      (r) => r.from <= held.from + 1e-6 && r.to >= held.to - 1e-6,
    );
    if (!whole || Math.abs(whole.from - held.from) > 1e-6 || Math.abs(whole.to - held.to) > 1e-6) continue;
    const length = move.lengthOf(part, plainValues(move, step, contextOf(piece), piece.base));
    if (length) yield { step, move, length };
  }
}

/** How long a segment is once the chain is another; undefined where it is not there. */
function lengthIn(piece: Piece, chain: readonly ChainStep[], held: HeldSegment): number | undefined {
  const { path } = applyChain(piece.base, chain, contextOf(piece));
  const run = runsMadeBy(path, held.makers)[held.nth];
  return run && run.to - run.from;
}

/** Frames by which a segment may be off what was asked for where only whole numbers will do. */
const NEAR = 0.501;

/** The value at which the segment lasts `wanted` frames, as nearly as it can be; undefined where it does not follow. */
function solve(
  piece: Piece,
  held: HeldSegment,
  { step, length }: Candidate,
  wanted: number,
): Record<string, unknown> | undefined {
  const { min, max, whole, grows, value: now } = length;
  const within = (v: number) => Math.min(max, Math.max(min, whole ? Math.round(v) : v));
  const chainWith = (values: Record<string, unknown>) =>
    piece.piece.chain.map((s) => (s === step ? { ...s, values: { ...s.values, ...values } } : s));
  const at = (value: number) => lengthIn(piece, chainWith(length.set(value)), held);
  const start = held.to - held.from;
  let value = within(grows ? (now * wanted) / start : (now * start) / wanted);
  let best: { value: number; off: number } | undefined;
  for (let i = 0; i < 8; i++) {
    const lasts = at(value);
    if (lasts === undefined) break;
    const off = Math.abs(lasts - wanted);
    if (!best || off < best.off) best = { value, off };
    if (off < 1e-6) break;
    const next = within(grows ? (value * wanted) / lasts : (value * lasts) / wanted);
    if (Math.abs(next - value) < 1e-9) break;
    value = next;
  }
  return best && best.off <= NEAR ? length.set(best.value) : undefined;
}

/** How many segments follow a value. */
function copiesOf(piece: Piece, { step, move, length }: Candidate): number {
  const values = plainValues(move, step, contextOf(piece), piece.base);
  const says = (of: PartLength<Record<string, unknown>> | undefined) => of && JSON.stringify(of.set(of.max));
  const wanted = says(length);
  const follows = new Map<number, boolean>();
  let copies = 0;
  let last: Maker | undefined;
  for (const { maker: made } of piece.path.segments) {
    if (made === last) continue;
    last = made;
    let maker = made;
    while (maker && maker.step !== step.id) maker = maker.of;
    if (!maker || maker.part < 0) continue;
    const { part } = maker;
    if (!follows.has(part)) follows.set(part, says(move.lengthOf!(part, values)) === wanted);
    if (follows.get(part)) copies++;
  }
  return copies;
}

/** What would change if the end of a segment were dragged; undefined where a Fit of its own would say it. */
export function behindSegment(piece: Piece, index: number): Behind | undefined {
  const held = heldSegment(piece.path, index);
  for (const { step, move, length } of valuesBehind(piece, held)) {
    const field = move.fields.find((f) => f.key === length.key);
    const copies = copiesOf(piece, { step, move, length });
    return { stepId: step.id, words: `${move.name}, ${field?.label.toLowerCase() ?? length.key}`, copies };
  }
  return undefined;
}

/**
 * Makes a segment of a piece last `length` frames: by the value of the move that says how long it is, so that every copy
 * follows; where there is none, or for this copy alone, by a Fit limited to it. A whole span without moves gets a
 * Speed: longer then, it goes on as fast.
 */
export function stretchSegment(
  project: Project,
  piece: Piece,
  index: number,
  length: number,
  newId: () => string,
  alone = false,
): Project {
  const pieceId = piece.piece.id;
  const held = heldSegment(piece.path, index);
  if (length < 1 || held.to <= held.from || !project.pieces.some((p) => p.id === pieceId)) return project;
  if (!alone)
    for (const candidate of valuesBehind(piece, held)) {
      const values = solve(piece, held, candidate, length);
      if (values) return setStepValues(project, pieceId, candidate.step.id, values);
    }
  const own = piece.piece.chain.at(-1);
  const mine = held.makers[0];
  // Its own Fit, when it was dragged before.
  if (
    own &&
    mine?.step === own.id &&
    own.move === 'fit' &&
    mine.part === 0 &&
    valuesOf(own)['by'] === 'speed'
  )
    return setStepValues(project, pieceId, own.id, { length: Math.round(length) });
  const whole = held.from <= 1e-6 && held.to >= pathLength(piece.path) - 1e-6;
  const id = newId();
  return produce(project, (d) => {
    const { chain } = d.pieces.find((p) => p.id === pieceId)!;
    const lasts = held.to - held.from;
    const fits = { by: 'speed', length: Math.round(length) };
    if (whole && held.makers.length === 0)
      chain.push({
        ...{ id, move: 'speed', on: true },
        values: { ...moveById('speed')!.defaults, percent: Number(((100 * lasts) / length).toFixed(6)) },
      });
    else
      chain.push({
        ...{ id, move: 'fit', on: true, values: fits },
        zone: {
          segment: { makers: held.makers.map((m) => ({ ...m })), nth: held.nth },
          was: { from: held.from, to: held.to },
        },
      });
  });
}
