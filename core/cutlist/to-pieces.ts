import { type FrameTable, frameAndFraction, frameCount } from '../clip/frame-table';
import type { ChainStep } from '../moves/registry';
import { speed } from '../moves/speed';
import { type Clip, LONGEST_DISSOLVE, type Piece, pieceOf } from '../project/schema';
import { roundHalfUp, seconds } from '../time/units';
import type { ReadEvent } from './events';

/** What a cut list becomes: pieces for the clips that are here, and the names of those that are not. */
export interface ReadPieces {
  readonly pieces: readonly Piece[];
  readonly missing: readonly string[];
}

const bareName = (name: string) =>
  name
    .replace(/\.[^.]+$/, '')
    .toLowerCase()
    .replace(/[^a-z0-9]/g, '')
    .slice(0, 8);

/**
 * Pieces from the events of a cut list, in order: the span each reads, and a Speed that makes it last as
 * long as the event where it is not real time. Clips are found by name, with or without ending, or by reel.
 */
export function piecesFrom(
  events: readonly ReadEvent[],
  clips: readonly { clip: Clip; table: FrameTable }[],
  newId: () => string,
): ReadPieces {
  const missing = new Set<string>();
  const pieces = events.flatMap((e): Piece[] => {
    const found =
      clips.find((c) => c.clip.name === e.clipName) ??
      clips.find((c) => bareName(c.clip.name) === bareName(e.clipName));
    if (!found) {
      missing.add(e.clipName);
      return [];
    }
    const { clip, table } = found;
    const count = frameCount(table);
    const at = (s: number) => Math.min(count, Math.max(0, roundHalfUp(frameAndFraction(table, seconds(s)))));
    const first = Math.min(at(e.inS), count - 1);
    const span = { in: first, out: Math.max(first + 1, at(e.outS)) };
    const real = Math.abs(e.speed - 1) < 1e-6;
    const values = {
      ...speed.defaults,
      by: 'length',
      length: Math.max(1, e.frames),
      direction: e.speed < 0 ? 'backward' : 'forward',
    };
    const chain: ChainStep[] = real ? [] : [{ id: newId(), move: 'speed', on: true, values }];
    const dissolve = Math.min(LONGEST_DISSOLVE, e.dissolve ?? 0);
    return [pieceOf({ id: newId(), clipId: clip.id, span, chain, dissolve })];
  });
  return { pieces, missing: [...missing] };
}
