import { Box } from '@mui/material';
import { frameAfter } from '@skipback/core/beats/music';
import { type SnapTarget, snap } from '@skipback/core/edit/snap';
import { dissolveFrames } from '@skipback/core/gather/dissolve';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { setDissolve } from '@skipback/core/project/gather-actions';
import type { Place } from '@skipback/core/places/place';
import { LONGEST_DISSOLVE, type Piece } from '@skipback/core/project/schema';
import { type KeyboardEvent, useState } from 'react';
import { selectPiece } from '../../state/selection';
import { act } from '../../state/project-store';
import { colors } from '../../theme';
import { LiveLabel } from '../live-label';
import type { Scale } from '../scales';
import type { WeaveLayout } from '../scene';
import { targetsOn } from '../place-targets';
import { useEditDrag } from '../use-edit-drag';
import type { WeaveModel } from '../weave-model';

/** Pixels within which a length is drawn to something, the size of a handle, and how near two may be. */
const REACH = 7;
const SIZE = 18;
const NEAREST = 20;
/** Lengths in beats that a drag is drawn to. */
const BEATS = [0.25, 0.5, 1, 2, 4];

interface Props {
  readonly model: WeaveModel;
  readonly resultX: Scale;
  readonly layout: WeaveLayout;
}

/** A handle on every join between pieces: dragged aside it makes the join a dissolve, the farther the longer. */
export function JoinHands({ model, resultX, layout }: Props) {
  const [live, setLive] = useState<{ x: number; text: string; words: string | undefined }>();
  const set = (piece: CompiledPiece, dissolve: Piece['dissolve']) =>
    act('dissolve at a join', (p) => setDissolve(p, piece.piece.id, dissolve));
  const drag = useEditDrag<
    { piece: CompiledPiece; at: number },
    {
      was: number;
      perFrame: number;
      way: number;
      piece: CompiledPiece;
      at: number;
      places: readonly (SnapTarget & { readonly place: Place })[];
    }
  >({
    begin: ({ piece, at }) => {
      selectPiece(piece.piece.id);
      const { path, table, clip, music } = piece;
      const places = targetsOn({ path, table, marks: clip.marks, music }).flatMap((t) =>
        t.place !== undefined && t.value > 0 ? [{ ...t, place: t.place }] : [],
      );
      return { piece, at, places, was: dissolveFrames(piece), perFrame: resultX(1) - resultX(0), way: 0 };
    },
    move: (held, { dx, free }) => {
      // Whichever way it is drawn aside first makes it longer.
      if (held.way === 0) held.way = held.was === 0 && dx < 0 ? -1 : 1;
      const wanted = held.was + (2 * held.way * dx) / held.perFrame;
      const { music } = held.piece;
      const targets: (SnapTarget & { readonly dissolve?: Piece['dissolve'] })[] = [
        { value: 0, words: 'cut' },
        { value: held.was, words: 'as it was', dissolve: held.piece.piece.dissolve },
        // Its end on something of the piece, where that is not a whole number of beats.
        ...held.places.map(({ value, words, place }) => ({
          value: 2 * value,
          words: `until ${words}`,
          dissolve: { until: place },
        })),
        ...(music
          ? BEATS.map((b) => ({
              value: frameAfter(music, b),
              words: `${b} beat${b === 1 ? '' : 's'}`,
              dissolve: { beats: b },
            }))
          : []),
      ];
      const { value, words } = snap(wanted, free ? [] : targets, (2 * REACH) / held.perFrame);
      const frames = Math.min(LONGEST_DISSOLVE, Math.max(0, Math.round(value)));
      const target = targets.find((t) => t.value === value && t.words === words);
      set(held.piece, target?.dissolve ?? frames);
      setLive({ x: resultX(held.at), text: frames === 0 ? 'cut' : `dissolve ${frames} f`, words });
    },
    end: () => setLive(undefined),
  });
  const onKey = (piece: CompiledPiece) => (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1, Delete: -LONGEST_DISSOLVE, Backspace: -LONGEST_DISSOLVE }[
      event.key
    ];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const frames = dissolveFrames(piece) + by * (event.shiftKey ? 10 : 1);
    set(piece, Math.min(LONGEST_DISSOLVE, Math.max(0, frames)));
  };
  const seen: { piece: CompiledPiece; at: number; x: number; place: number }[] = [];
  for (const [i, { startFrame: at, compiled: piece }] of model.compiled.pieces.entries()) {
    const x = resultX(at);
    const last = seen.at(-1)?.x ?? -Infinity;
    if (i > 0 && x >= 0 && x <= layout.width && x - last >= NEAREST)
      seen.push({ piece, at, x, place: i + 1 });
  }
  return (
    <>
      {seen.map(({ piece, at, x, place }) => {
        const frames = dissolveFrames(piece);
        return (
          <Box
            key={piece.piece.id}
            {...drag({ piece, at })}
            role="slider"
            tabIndex={0}
            aria-label={`Join before piece ${place}`}
            aria-valuemin={0}
            aria-valuemax={LONGEST_DISSOLVE}
            aria-valuenow={frames}
            aria-valuetext={frames === 0 ? 'cut' : `${frames} frames`}
            title="Drag aside for a dissolve; Alt for no snapping"
            onKeyDown={onKey(piece)}
            style={{ touchAction: 'none', left: x - SIZE / 2 - 0.5, top: layout.resultTop - SIZE + 2 }}
            sx={{
              position: 'absolute',
              width: SIZE,
              height: SIZE,
              cursor: 'ew-resize',
              display: 'grid',
              placeItems: 'center',
            }}
          >
            <Box
              sx={{
                width: 9,
                height: 9,
                transform: 'rotate(45deg)',
                bgcolor: frames > 0 ? colors.ink : colors.ground,
                border: `2px solid ${colors.ink}`,
                pointerEvents: 'none',
              }}
            />
          </Box>
        );
      })}
      {live && (
        <LiveLabel
          x={live.x}
          y={layout.resultTop - 44}
          text={live.text}
          words={live.words}
          width={layout.width}
        />
      )}
    </>
  );
}
