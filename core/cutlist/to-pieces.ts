import { type FrameTable, durationOf, frameAndFraction, frameAt, frameCount } from '../clip/frame-table';
import { curve } from '../moves/curve';
import { compilePiece } from '../project/compile';
import type { Rational } from '../time/rational';
import type { ChainStep } from '../moves/registry';
import { speed } from '../moves/speed';
import { type Clip, LONGEST_DISSOLVE, type Piece, pieceOf } from '../project/schema';
import { roundHalfUp, seconds } from '../time/units';
import { type ReadEvent, plural } from './events';

/** What a cut list becomes: pieces for the clips that are here, the names of those that are not, and what was guessed or left out. */
export interface ReadPieces {
  readonly pieces: readonly Piece[];
  readonly missing: readonly string[];
  readonly said: readonly string[];
}

interface Known {
  readonly clip: Clip;
  readonly table: FrameTable;
}

/** Letters and figures of any script, without a file's ending. */
const bareName = (name: string): string =>
  name
    .replace(/\.[^.]+$/, '')
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, '');

/** The clip an event is of: by its name, by its file's, or by a reel that only one clip's name begins with. */
function clipOf({ clipName, fileName, reel }: ReadEvent, clips: readonly Known[]): Known | undefined {
  const names = [clipName, ...(fileName ? [fileName] : [])];
  for (const name of names) {
    const exact = clips.find((c) => c.clip.name === name);
    if (exact) return exact;
  }
  for (const name of names) {
    const bare = bareName(name);
    const alike = bare === '' ? [] : clips.filter((c) => bareName(c.clip.name) === bare);
    if (alike.length > 0) return alike[0];
  }
  const short = reel === undefined ? '' : bareName(reel.normalize('NFKD'));
  if (short === '') return undefined;
  const begins = clips.filter((c) =>
    bareName(c.clip.name.normalize('NFKD'))
      .replace(/[^a-z0-9]/g, '')
      .startsWith(short),
  );
  return begins.length === 1 ? begins[0] : undefined;
}

const HOUR_S = 3600;
/** Seconds by which a list may count past a clip's end through rounding. */
const ROUNDING_S = 0.05;

/** Where a clip's own time begins in a list that counts it from a whole hour; 0 where it fits as it is. */
function startOfSource(events: readonly ReadEvent[], lengthS: number): number {
  const first = Math.min(...events.map((e) => e.inS));
  const end = Math.max(...events.map((e) => (Number.isFinite(e.outS) ? e.outS : e.inS)));
  if (end <= lengthS + ROUNDING_S) return 0;
  const hour = Math.floor(first / HOUR_S) * HOUR_S;
  return hour > 0 && end - hour <= lengthS + ROUNDING_S ? hour : 0;
}

/** The clip's frames that an event shows, by its own numbers: read evenly, at the middle of every frame. */
function shownBy({ inS, outS, speed, frames = 0 }: ReadEvent, table: FrameTable): number[] {
  const last = frameCount(table) - 1;
  return Array.from({ length: frames }, (_, i) => {
    const way = ((i + 0.5) * (outS - inS)) / frames;
    const at = speed === 0 ? inS : speed < 0 ? outS - way : inS + way;
    return Math.min(last, Math.max(0, frameAt(table, seconds(at))));
  });
}

/** The piece that shows what an event does: its span, with a Speed where it is not real time; a Curve where only that reads between frames. */
function pieceFor(
  e: ReadEvent,
  { clip, table }: Known,
  rate: Rational,
  newId: () => string,
): { piece: Piece; off: number } {
  const count = frameCount(table);
  const at = (s: number) =>
    Number.isFinite(s)
      ? Math.min(count, Math.max(0, roundHalfUp(frameAndFraction(table, seconds(s)))))
      : count;
  // What reads past the end is shorter, and said.
  const whole = e.frames !== undefined && e.outS <= durationOf(table) + ROUNDING_S;
  const wanted = whole ? shownBy(e, table) : undefined;
  const held = e.speed === 0 && wanted ? wanted[0]! : undefined;
  const first = held ?? Math.min(at(e.inS), count - 1);
  const span = { in: first, out: held === undefined ? Math.max(first + 1, at(e.outS)) : first + 1 };
  const real = Math.abs(e.speed - 1) < 1e-6;
  const length =
    e.frames === undefined
      ? { by: 'percent', percent: Math.min(3000, Math.max(1, 100 * Math.abs(e.speed))) }
      : { by: 'length', length: Math.max(1, e.frames) };
  const values = { ...speed.defaults, ...length, direction: e.speed < 0 ? 'backward' : 'forward' };
  const chain: ChainStep[] = real ? [] : [{ id: newId(), move: speed.id, on: true, values }];
  const plain = pieceOf({ id: newId(), clipId: clip.id, span, chain });
  if (!wanted || wanted.length === 0) return { piece: plain, off: 0 };
  const offOf = (piece: Piece) => {
    const { shown } = compilePiece(piece, clip, table, rate);
    return shown.length === wanted.length ? wanted.filter((n, i) => n !== shown[i]).length : Infinity;
  };
  const off = offOf(plain);
  if (off === 0) return { piece: plain, off };
  const [low, high] = [Math.min(...wanted), Math.max(...wanted)];
  const source = (s: number) => frameAndFraction(table, seconds(Math.max(0, s))) - low;
  const point = (at: number, s: number) => ({ at, source: source(s), before: 0, after: 0 });
  const [from, to] = e.speed < 0 ? [e.outS, e.inS] : [e.inS, e.outS];
  const points = [point(0, from), point(wanted.length, to)];
  const drawn = pieceOf({
    ...{ id: newId(), clipId: clip.id, span: { in: low, out: high + 1 } },
    chain: [{ id: newId(), move: curve.id, on: true, values: { points } }],
  });
  const offDrawn = offOf(drawn);
  return offDrawn < off
    ? { piece: drawn, off: offDrawn }
    : { piece: plain, off: Math.min(off, wanted.length) };
}

/**
 * Pieces from the events of a cut list, in order: the span each reads, and a Speed that makes it last as long as the event
 * where it is not real time.
 */
export function piecesFrom(
  events: readonly ReadEvent[],
  clips: readonly Known[],
  newId: () => string,
  rate: Rational,
): ReadPieces {
  const missing = new Set<string>();
  const said: string[] = [];
  const found = events.map((e) => clipOf(e, clips));
  const starts = new Map<Known, number>();
  for (const known of new Set(found)) {
    if (!known) continue;
    const start = startOfSource(
      events.filter((_, i) => found[i] === known),
      durationOf(known.table),
    );
    starts.set(known, start);
    if (start > 0)
      said.push(
        `The list counts ${known.clip.name} from ${String(start / HOUR_S).padStart(2, '0')}:00:00:00; that is taken as its first frame.`,
      );
  }
  const beyond = new Map<string, number>();
  let shortened = 0;
  let offFrames = 0;
  const pieces = events.flatMap((e, i): Piece[] => {
    const known = found[i];
    if (!known) {
      missing.add(e.clipName);
      return [];
    }
    const { clip, table } = known;
    const start = starts.get(known)!;
    const lengthS = durationOf(table);
    if (e.inS - start >= lengthS) {
      beyond.set(clip.name, (beyond.get(clip.name) ?? 0) + 1);
      return [];
    }
    if (Number.isFinite(e.outS) && e.outS - start > lengthS + ROUNDING_S) shortened++;
    const dissolve = Math.min(LONGEST_DISSOLVE, e.dissolve ?? 0);
    const read = { ...e, inS: e.inS - start, outS: e.outS - start };
    const { piece, off } = pieceFor(read, known, rate, newId);
    offFrames += off;
    return [{ ...piece, dissolve }];
  });
  for (const [name, count] of beyond)
    said.push(
      `${plural(count, 'event', 'events')} of ${name} ${count === 1 ? 'lies' : 'lie'} beyond its end and ${count === 1 ? 'is' : 'are'} left out.`,
    );
  if (shortened > 0)
    said.push(
      `${plural(shortened, 'event reads', 'events read')} past the end of ${shortened === 1 ? 'its clip' : 'their clips'} and ${shortened === 1 ? 'is' : 'are'} shorter.`,
    );
  if (offFrames > 0)
    said.push(
      `${plural(offFrames, 'frame shows', 'frames show')} the one beside what the list says: it lies between frames there.`,
    );
  return { pieces, missing: [...missing], said };
}
