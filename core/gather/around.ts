import { frameCount, shotOf } from '../clip/frame-table';
import type { Around, Shares } from '../looks/treatment';
import { type CompiledPiece, liesAt } from '../project/compile';
import { framed } from '../steady/framing';
import { both, undone } from '../steady/similar';

/** What lies around the frames of a piece that begins at frame `from`; `madeOf` says what they are made of, if not of themselves. */
export function aroundPiece(
  compiled: CompiledPiece,
  from: number,
  madeOf?: (frame: number) => Shares,
): Around {
  const { shown, table, clip, placing, sizes } = compiled;
  const at = (frame: number) => shown[frame - from]!;
  return {
    clipId: clip.id,
    framing: clip.framing,
    clipFrames: frameCount(table),
    shotOf: (frame) => shotOf(table, frame),
    held(frame) {
      const lies = placing && sizes && liesAt(compiled, at(frame));
      return lies && both(lies, undone(framed(sizes.picture, sizes.frame, clip.framing)));
    },
    first: from,
    end: from + shown.length,
    shown: at,
    madeOf: madeOf ?? ((frame) => new Map([[at(frame), 1]])),
  };
}
