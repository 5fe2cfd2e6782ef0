import { Box } from '@mui/material';
import { everyFrameOncePercent } from '@skipback/core/checks/smoothness';
import {
  type SnapTarget,
  type Snapped,
  snap,
  snapLengthToSpeed,
  speedTargets,
} from '@skipback/core/edit/snap';
import { type HeldSegment, behindSegment, heldSegment, stretchSegment } from '@skipback/core/project/stretch';
import { instantAt } from '@skipback/core/path/path';
import type { CompiledPiece } from '@skipback/core/project/compile';
import type { Piece, Project } from '@skipback/core/project/schema';
import { percentText } from '@skipback/core/time/entry';
import { toNumber } from '@skipback/core/time/rational';
import { type KeyboardEvent, useState } from 'react';
import { freshId } from '../../state/ids';
import { playheadTarget } from '../snap-targets';
import { selectPiece } from '../../state/selection';
import { act } from '../../state/project-store';
import { colors } from '../../theme';
import { LiveLabel } from '../live-label';
import type { Ribbon } from './ribbons';
import type { Scale } from '../scales';
import type { WeaveLayout } from '../scene';
import { useEditDrag } from '../use-edit-drag';
import type { WeaveModel } from '../weave-model';

interface Props {
  readonly model: WeaveModel;
  readonly resultX: Scale;
  readonly layout: WeaveLayout;
}

/** Pixels within which a drag is drawn to something. */
const REACH = 7;
/** A segment narrower than this cannot be taken hold of by its end. */
const NARROWEST = 14;

interface Held {
  readonly ribbon: Ribbon;
  /** The piece as it was taken hold of: every length is worked out from that. */
  readonly piece: CompiledPiece;
  /** Result frame of its beginning. */
  readonly from: number;
  /** Frames of the segment as it is now, and as it was. */
  length: number;
  readonly was: number;
  /** How many follow, where other segments do. */
  readonly follows: string;
  alone: boolean;
  readonly percent: number;
  readonly perFrame: number;
}

/** The ends of the selected piece's segments on the result strip: drag one to make its segment longer or shorter; its speed follows. */
export function SegmentEnds({ model, resultX, layout }: Props) {
  const [held, setHeld] = useState<number>();
  const [live, setLive] = useState<{ at: number; text: string; words: string | undefined }>();
  const { piece, pieceStart, totalFrames } = model;
  const pieceId = piece?.piece.id;

  const stretch = (held: Held, length: number, alone: boolean) => {
    if (length !== held.length || alone !== held.alone)
      act('stretch a segment', (p) =>
        // From where it was taken hold of: what it is on the way there leaves no trace.
        stretchSegment(withPiece(p, held.piece.piece), held.piece, held.ribbon.index, length, freshId, alone),
      );
    Object.assign(held, { length, alone });
  };
  const snapped = (held: Held, wanted: number): Snapped => {
    const reach = REACH / held.perFrame;
    const start = held.from;
    const places: SnapTarget[] = [
      playheadTarget(start),
      ...(piece && held.percent > 0 ? [{ value: held.was, words: 'as it was' }] : []),
    ];
    const clean = piece && everyFrameOncePercent(piece.table, piece.path.rate);
    const bySpeed: Snapped =
      held.percent > 0
        ? snapLengthToSpeed(held.was, held.percent, wanted, speedTargets(clean), reach)
        : { value: wanted, words: undefined };
    return bySpeed.words ? bySpeed : snap(wanted, places, reach);
  };
  const drag = useEditDrag<Ribbon, Held>({
    begin: (ribbon) => {
      selectPiece(ribbon.pieceId, ribbon.index);
      if (!piece) return undefined;
      setHeld(ribbon.index);
      const seg = heldSegment(piece.path, ribbon.index);
      const behind = behindSegment(piece, ribbon.index);
      const was = seg.to - seg.from;
      return {
        ...{ ribbon, piece, from: ribbon.pieceStart + seg.from, length: was, was, alone: false },
        follows: behind && behind.copies > 1 ? `, ${behind.copies} follow` : '',
        percent: ribbon.kind === 'hold' ? 0 : Math.abs(meanSpeed(seg, piece)) * 100,
        perFrame: resultX(1) - resultX(0),
      };
    },
    move: (held, { dx, free }) => {
      const wanted = held.was + dx / held.perFrame;
      const { value, words } = free ? { value: wanted, words: undefined } : snapped(held, wanted);
      const length = Math.max(1, Math.round(value));
      stretch(held, length, free);
      const speed = held.percent > 0 ? `, ${percentText((held.percent * held.was) / length)}` : '';
      const follows = free ? ', this one alone' : held.follows;
      setLive({ at: held.from + length, text: `${length} f${speed}${follows}`, words });
    },
    end: () => {
      setHeld(undefined);
      setLive(undefined);
    },
  });
  const onKey = (ribbon: Ribbon) => (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    if (!piece) return;
    const { from, to } = heldSegment(piece.path, ribbon.index);
    const length = Math.max(1, Math.round(to - from + by * (event.shiftKey ? 10 : 1)));
    act('stretch a segment', (p) => stretchSegment(p, piece, ribbon.index, length, freshId, event.altKey));
  };

  // What is eased is drawn in several pieces: it has one end.
  const makers = piece?.path.segments;
  const mine = model.ribbons.filter(
    (r) =>
      r.pieceId === pieceId &&
      (makers?.[r.index]?.maker === undefined || makers[r.index + 1]?.maker !== makers[r.index]!.maker),
  );
  const seen = mine.filter((r) => {
    // What is held stays, however short it becomes.
    if (r.index === held) return true;
    const x = resultX(r.resultTo);
    return x > -20 && x < layout.width + 20 && x - resultX(r.resultFrom) >= NARROWEST;
  });
  if (!piece || totalFrames === 0) return null;
  return (
    <>
      {seen.map((r) => (
        <Box
          key={r.index}
          {...drag(r)}
          role="slider"
          tabIndex={model.selected === r ? 0 : -1}
          aria-label={`End of segment ${r.index + 1}, result frame`}
          aria-valuemin={rounded(r.resultFrom - pieceStart + 1)}
          aria-valuemax={1_000_000}
          aria-valuenow={rounded(r.resultTo - pieceStart)}
          data-testid="segment-end"
          title="Drag to make this segment longer or shorter, and every copy of it; with Alt this one alone, without snapping"
          onKeyDown={onKey(r)}
          style={{
            touchAction: 'none',
            left: resultX(r.resultTo) - 6,
            top: layout.resultTop,
            height: layout.resultBottom - layout.resultTop,
          }}
          sx={{
            position: 'absolute',
            width: 10,
            cursor: 'ew-resize',
            '&:hover': { bgcolor: `${colors.ink}66` },
          }}
        />
      ))}
      {live && (
        <LiveLabel
          x={resultX(live.at)}
          y={layout.resultTop - 32}
          text={live.text}
          words={live.words}
          width={layout.width}
        />
      )}
    </>
  );
}

const rounded = (frames: number) => Number(frames.toFixed(2));

/** Mean speed of a segment, from its ends. */
function meanSpeed({ from, to }: HeldSegment, { path }: CompiledPiece): number {
  const way = instantAt(path, to - 1e-6) - instantAt(path, from + 1e-6);
  return way / ((to - from) / toNumber(path.rate));
}

/** The project with a piece as it was. */
const withPiece = (project: Project, piece: Piece): Project => ({
  ...project,
  pieces: project.pieces.map((p) => (p.id === piece.id ? piece : p)),
});
