import { Box } from '@mui/material';
import { frameOfSong } from '@skipback/core/beats/music';
import { type SnapTarget, snap } from '@skipback/core/edit/snap';
import type { Placed } from '@skipback/core/project/schema';
import {
  movePlaced,
  placedAt,
  placedName,
  removePlaced,
  setPlaced,
} from '@skipback/core/project/sound-actions';
import { toNumber } from '@skipback/core/time/rational';
import { type KeyboardEvent, useState } from 'react';
import { joinTargets, playheadTarget } from '../snap-targets';
import { act } from '../../state/project-store';
import { colors } from '../../theme';
import { outlineOf } from './draw-sounds';
import { LiveLabel } from '../live-label';
import { OwnOutline } from './own-outline';
import { PlacedValues } from './placed-values';
import type { LaneProps } from './lane-props';
import { useEditDrag } from '../use-edit-drag';

/** Pixels within which an end is drawn to something, and width of what an end is held by. */
const REACH = 6;
const END = 8;

/** Sounds placed by hand, in their lane: drag to move, drag the end for another length, press for values. */
export function PlacedSounds({ model, resultX, top, bottom, width }: LaneProps) {
  const { project } = model;
  const [open, setOpen] = useState<{ id: string; anchor: HTMLElement }>();
  const [held, setHeld] = useState<string>();
  const [live, setLive] = useState<{ x: number; text: string; words: string | undefined }>();
  const perFrame = resultX(1) - resultX(0);

  const targets = (): SnapTarget[] => {
    const { song, rate } = project;
    const beats = song?.grid.beats.map((b) => ({
      value: Math.round(frameOfSong(song, b, rate)),
      words: 'beat',
    }));
    return [playheadTarget(), ...(beats ?? []), ...joinTargets(model)];
  };
  const drag = useEditDrag<
    { sound: Placed; end: boolean; element: () => HTMLElement | null },
    { sound: Placed; end: boolean; at: number; targets: SnapTarget[]; element: HTMLElement | null }
  >({
    begin: ({ sound, end, element }) => {
      setHeld(sound.id);
      return { sound, end, at: placedAt(project, sound), targets: targets(), element: element() };
    },
    move: ({ sound, end, at, targets: to }, { dx, free }) => {
      const was = end ? at + sound.frames : at;
      const wanted = was + dx / perFrame;
      const { value, words } = snap(wanted, free ? [] : to, REACH / perFrame);
      const frame = Math.round(value);
      const name = placedName(sound);
      if (end) {
        const frames = Math.max(1, frame - at);
        act(`change the length of the ${name}`, (p) => setPlaced(p, sound.id, { frames }));
        setLive({ x: resultX(at + frames), text: `${frames} f`, words });
      } else {
        act(`move the ${name}`, (p) => movePlaced(p, sound.id, frame));
        setLive({ x: resultX(frame), text: `at ${frame}`, words });
      }
    },
    end: ({ sound, end, element }, { clicked }) => {
      setHeld(undefined);
      setLive(undefined);
      if (clicked && !end && element) setOpen({ id: sound.id, anchor: element });
    },
  });
  const onKey = (sound: Placed) => (event: KeyboardEvent<HTMLElement>) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const name = placedName(sound);
    if (by !== undefined)
      act(`move the ${name}`, (p) =>
        movePlaced(p, sound.id, placedAt(p, sound) + by * (event.shiftKey ? 10 : 1)),
      );
    else if (event.key === 'Delete' || event.key === 'Backspace')
      act(`remove the ${name}`, (p) => removePlaced(p, sound.id));
    else if (event.key === 'Enter') setOpen({ id: sound.id, anchor: event.currentTarget });
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const chosen = project.placed.find((s) => s.id === open?.id);
  return (
    <>
      {project.placed.map((sound) => {
        const at = placedAt(project, sound);
        const left = resultX(at);
        const length = Math.max(10, resultX(at + sound.frames) - left);
        if ((left > width || left + length < 0) && sound.id !== held) return null;
        const name = placedName(sound);
        let box: HTMLElement | null = null;
        const drawn = {
          fill: sound.on ? colors.ink : 'none',
          stroke: chosen?.id === sound.id ? colors.attention : colors.ink,
          strokeWidth: 1.5,
        };
        return (
          <Box
            key={sound.id}
            ref={(element: HTMLElement | null) => void (box = element)}
            {...drag({ sound, end: false, element: () => box })}
            role="slider"
            tabIndex={0}
            aria-label={`${name} placed by hand, frame`}
            aria-valuenow={at}
            aria-valuemin={-10_000_000}
            aria-valuemax={10_000_000}
            title={`${name}: drag to move it, click for its values`}
            onKeyDown={onKey(sound)}
            style={{ touchAction: 'none', left, width: length, top, height: bottom - top }}
            sx={{ position: 'absolute', cursor: 'grab' }}
          >
            <svg width={length} height={bottom - top} style={{ display: 'block', pointerEvents: 'none' }}>
              {sound.kind === 'own' ? (
                <OwnOutline
                  own={sound.own}
                  lastsS={sound.frames / toNumber(project.rate)}
                  width={length}
                  height={bottom - top}
                  {...drawn}
                />
              ) : (
                <path d={outlineOf(sound.kind, 0.75, length - 0.75, 3, bottom - top - 2)} {...drawn} />
              )}
            </svg>
            <Box
              {...drag({ sound, end: true, element: () => null })}
              sx={{
                position: 'absolute',
                right: -END / 2,
                top: 0,
                bottom: 0,
                width: END,
                cursor: 'ew-resize',
              }}
            />
          </Box>
        );
      })}
      {chosen && open && (
        <PlacedValues
          project={project}
          sound={chosen}
          anchor={open.anchor}
          onClose={() => setOpen(undefined)}
        />
      )}
      {live && <LiveLabel x={live.x} y={top - 30} text={live.text} words={live.words} width={width} />}
    </>
  );
}
