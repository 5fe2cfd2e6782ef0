import { frameCount } from '../clip/frame-table';
import type { Around, Shares } from '../looks/treatment';
import type { CompiledPiece } from '../project/compile';

/** What lies around the frames of a piece that begins at frame `from`; `madeOf` says what they are made of, if not of themselves. */
export function aroundPiece(
  { shown, table }: Pick<CompiledPiece, 'shown' | 'table'>,
  from: number,
  madeOf?: (frame: number) => Shares,
): Around {
  const at = (frame: number) => shown[frame - from]!;
  return {
    clipFrames: frameCount(table),
    first: from,
    end: from + shown.length,
    shown: at,
    madeOf: madeOf ?? ((frame) => new Map([[at(frame), 1]])),
  };
}
