import { Box } from '@mui/material';
import { everyFrameOncePercent } from '@skipback/core/checks/smoothness';
import {
  type SnapTarget,
  type Snapped,
  snap,
  snapLengthToSpeed,
  speedTargets,
} from '@skipback/core/edit/snap';
import { stretchSegment } from '@skipback/core/project/piece-actions';
import { percentText } from '@skipback/core/time/entry';
import { type KeyboardEvent, useState } from 'react';
import { freshId } from '../../state/ids';
import { usePlaying } from '../../state/playing';
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
  /** Frames of the segment as it is now, and as it was. */
  length: number;
  readonly was: number;
  readonly percent: number;
  readonly perFrame: number;
}

/** The ends of the selected piece's segments on the result strip: drag one to make its segment longer or shorter; its speed follows. */
export function SegmentEnds({ model, resultX, layout }: Props) {
  const [held, setHeld] = useState<number>();
  const [live, setLive] = useState<{ at: number; text: string; words: string | undefined }>();
  const { piece, pieceStart, totalFrames } = model;
  const pieceId = piece?.piece.id;

  const stretch = (held: Held, length: number) => {
    const from = held.ribbon.resultFrom - held.ribbon.pieceStart;
    if (length !== held.length)
      act('stretch a segment', (p) =>
        stretchSegment(p, held.ribbon.pieceId, { from, to: from + held.length }, length, freshId),
      );
    held.length = length;
  };
  const snapped = (held: Held, wanted: number): Snapped => {
    const reach = REACH / held.perFrame;
    const start = held.ribbon.resultFrom;
    const places: SnapTarget[] = [
      { value: usePlaying.getState().position - start, words: 'playhead' },
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
      setHeld(ribbon.index);
      const was = ribbon.resultTo - ribbon.resultFrom;
      return {
        ribbon,
        length: was,
        was,
        percent: ribbon.kind === 'hold' ? 0 : Math.abs(meanSpeed(ribbon, model.rateHz, model)) * 100,
        perFrame: resultX(1) - resultX(0),
      };
    },
    move: (held, { dx, free }) => {
      const wanted = held.was + dx / held.perFrame;
      const { value, words } = free ? { value: wanted, words: undefined } : snapped(held, wanted);
      const length = Math.max(1, Math.round(value));
      stretch(held, length);
      const speed = held.percent > 0 ? `, ${percentText((held.percent * held.was) / length)}` : '';
      setLive({ at: held.ribbon.resultFrom + length, text: `${length} f${speed}`, words });
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
    const was = ribbon.resultTo - ribbon.resultFrom;
    const from = ribbon.resultFrom - ribbon.pieceStart;
    const length = Math.max(1, Math.round(was + by * (event.shiftKey ? 10 : 1)));
    act('stretch a segment', (p) =>
      stretchSegment(p, ribbon.pieceId, { from, to: from + was }, length, freshId),
    );
  };

  const mine = model.ribbons.filter((r) => r.pieceId === pieceId);
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
          title="Drag to make this segment longer or shorter; Alt for no snapping"
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
function meanSpeed(r: Ribbon, rateHz: number, { piece }: WeaveModel): number {
  const segment = piece?.path.segments[r.index];
  return segment ? (segment.to - segment.from) / (segment.length / rateHz) : 0;
}
