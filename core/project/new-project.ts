import { type FrameTable, frameCount, meanRateHz } from '../clip/frame-table';
import { rational, type Rational } from '../time/rational';
import type { Between } from '../gather/gather';
import {
  DEFAULT_CLIP_SOUND,
  DEFAULT_MADE,
  PROJECT_VERSION,
  type Piece,
  type Project,
  pieceOf,
} from './schema';

/** An empty project: 30 frames a second, 1280x720, until the first clip says otherwise. */
export function newProject(id: string, name: string, createdAt: number): Project {
  return {
    format: 'skip-back-project',
    version: PROJECT_VERSION,
    id,
    name,
    createdAt,
    rate: rational(30),
    size: { width: 1280, height: 720 },
    clips: [],
    pieces: [],
    song: null,
    clipSound: DEFAULT_CLIP_SOUND,
    made: DEFAULT_MADE,
    placed: [],
    looks: [],
    between: 'repeat',
    flashingIsMeant: false,
  };
}

const even = (n: number, most: number) => Math.min(most, Math.max(16, n - (n % 2)));

/** Rate and picture size that suit a first clip: its own, slow-motion rates brought down to 30 or 25. */
export function formatFor(
  table: FrameTable,
  display: { width: number; height: number },
): { rate: Rational; size: { width: number; height: number } } {
  const size = {
    width: even(Math.round(display.width), 8192),
    height: even(Math.round(display.height), 8192),
  };
  const hz = meanRateHz(table);
  if (table.kind === 'constant' && hz <= 61 && hz >= 20) return { rate: table.rate, size };
  const slow = [rational(25), rational(30), rational(24)].find(
    (r) => Math.abs(hz / r.num - Math.round(hz / r.num)) < 0.002,
  );
  return { rate: slow ?? rational(30), size };
}

/** A piece over the middle of a clip, two seconds of it at most, with nothing done to it yet. */
export function newPiece(id: string, clipId: string, table: FrameTable, between: Between = 'repeat'): Piece {
  const count = frameCount(table);
  const length = Math.max(1, Math.min(count, Math.round(2 * meanRateHz(table))));
  const first = Math.floor((count - length) / 2);
  return pieceOf({ id, clipId, span: { in: first, out: first + length }, chain: [], between });
}
