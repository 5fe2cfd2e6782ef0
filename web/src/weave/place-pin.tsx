import { Box } from '@mui/material';
import { type Place, inClip, inMusic } from '@skipback/core/places/place';
import { type KeyboardEvent, useState } from 'react';
import { colors } from '../theme';
import { LiveLabel } from './live-label';
import { type PlaceTarget, snappedPlace } from './place-targets';
import { useEditDrag } from './use-edit-drag';

/** Pixels within which a pin is drawn to something, and what of it can be taken hold of. */
const REACH = 7;
const WIDTH = 14;

interface Props {
  /** What it says where: `Hold: At`. */
  readonly label: string;
  /** What it holds on to, in words. */
  readonly words: string;
  readonly place: Place;
  /** Where that is, in frames that targets count in. */
  readonly at: number;
  /** Pixels of a position counted so. */
  readonly toX: (at: number) => number;
  readonly top: number;
  readonly height: number;
  readonly width: number;
  /** What it is drawn to, asked when it is taken hold of. */
  targets(): readonly PlaceTarget[];
  onChange(place: Place): void;
  /** The place some frames on, for the arrow keys. */
  later(place: Place, frames: number): Place;
}

/** A place on a strip, as a pin that is dragged: drawn to a mark or a beat it becomes that; Alt keeps plain frames. */
export function PlacePin({
  label,
  words,
  place,
  at,
  toX,
  top,
  height,
  width,
  targets,
  onChange,
  later,
}: Props) {
  const [live, setLive] = useState<{ at: number; text: string; words: string | undefined }>();
  const perFrame = toX(1) - toX(0);
  const drag = useEditDrag<null, { targets: readonly PlaceTarget[]; was: number; is: string }>({
    begin: () => ({ targets: targets(), was: at, is: JSON.stringify(place) }),
    move: (held, { dx, free }) => {
      const next = snappedPlace(held.was + dx / perFrame, free ? [] : held.targets, REACH / perFrame);
      const is = JSON.stringify(next.place);
      if (is !== held.is) onChange(next.place);
      held.is = is;
      setLive({ at: next.frame, text: next.words ?? `${next.frame} f`, words: undefined });
    },
    end: () => setLive(undefined),
  });
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    onChange(later(place, by * (event.shiftKey ? 10 : 1)));
  };
  const holds = inClip(place) || inMusic(place);
  const x = toX(at);
  if (!live && (x < -WIDTH || x > width + WIDTH)) return null;
  return (
    <>
      <Box
        {...drag(null)}
        role="slider"
        tabIndex={0}
        aria-label={`Pin of ${label}`}
        aria-valuemin={0}
        aria-valuemax={10_000_000}
        aria-valuenow={Number(at.toFixed(2))}
        aria-valuetext={words}
        data-testid="place-pin"
        title={`${label}: ${words}. Drag it onto a mark or a beat and it stays there; Alt for plain frames`}
        onKeyDown={onKey}
        style={{ touchAction: 'none', left: x - WIDTH / 2, top, height }}
        sx={{
          position: 'absolute',
          width: WIDTH,
          cursor: 'ew-resize',
          '&::before': {
            content: '""',
            position: 'absolute',
            left: WIDTH / 2 - 1,
            top: 0,
            bottom: 0,
            width: 2,
            bgcolor: colors.attention,
          },
          '&::after': {
            content: '""',
            position: 'absolute',
            left: WIDTH / 2 - 4,
            bottom: -3,
            width: 8,
            height: 8,
            boxSizing: 'border-box',
            borderRadius: holds ? '50%' : 0,
            bgcolor: holds ? colors.attention : colors.ground,
            border: `2px solid ${colors.attention}`,
          },
        }}
      />
      {live && <LiveLabel x={toX(live.at)} y={top - 26} text={live.text} words={live.words} width={width} />}
    </>
  );
}
