import { Box } from '@mui/material';
import { nearestBeat } from '@skipback/core/beats/grid';
import { songAtFrame } from '@skipback/core/beats/music';
import type { CompiledProject } from '@skipback/core/project/compile';
import { type SnapTarget, snap } from '@skipback/core/edit/snap';
import { slideSong } from '@skipback/core/project/song-actions';
import { type KeyboardEvent, useState } from 'react';
import { joinTargets, playheadTarget } from '../snap-targets';
import { act } from '../../state/project-store';
import { LiveLabel } from '../live-label';
import type { SongLaneProps } from './lane-props';
import { useEditDrag } from '../use-edit-drag';

/** Pixels within which a beat is drawn to something. */
const REACH = 6;

/** The song under the result to be slid: its beats snap to the playhead, to joins and to marks that are shown. */
export function SongHandle({ model, song, resultX, top, bottom, width }: SongLaneProps) {
  const [live, setLive] = useState<{ x: number; text: string; words: string | undefined }>();
  const rate = model.project.rate;

  /** Result frames that a beat may be slid onto. */
  const targets = (): SnapTarget[] => [
    playheadTarget(0, 'beat on the playhead'),
    ...joinTargets(model, 'beat on a join'),
    ...markFrames(model.compiled).map(({ at, name }) => ({ value: at, words: `beat on mark ${name}` })),
  ];
  const drag = useEditDrag<
    null,
    { was: number; grabbedS: number; at: number; targets: SnapTarget[]; perFrame: number }
  >({
    begin: (_, { clientX }) => {
      // What is held is the beat nearest to the pointer.
      const x = clientX;
      const here = songAtFrame(song, resultX.invert(x), rate);
      const beat = nearestBeat(song.grid, here);
      const heldS = beat ? song.grid.beats[beat.place]! : here;
      return {
        was: song.startFrame,
        grabbedS: heldS,
        at: frameOf(heldS),
        targets: targets(),
        perFrame: resultX(1) - resultX(0),
      };
    },
    move: ({ was, at, targets: to, perFrame }, { dx, free }) => {
      const wanted = at + dx / perFrame;
      const { value, words } = snap(wanted, free ? [] : to, REACH / perFrame);
      const by = Math.round(value - at);
      act('slide the song', (p) => slideSong(p, was + by));
      setLive({
        x: resultX(at + by),
        text: `song ${by >= 0 ? '+' : '−'}${Math.abs(by)} f, begins at ${was + by}`,
        words,
      });
    },
    end: () => setLive(undefined),
  });
  const frameOf = (s: number) => song.startFrame + (s - song.fromS) * (rate.num / rate.den);
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    act('slide the song', (p) => slideSong(p, song.startFrame + by * (event.shiftKey ? 10 : 1)));
  };
  return (
    <>
      <Box
        {...drag(null)}
        role="slider"
        tabIndex={0}
        aria-label="Song, first frame"
        aria-valuemin={-10_000_000}
        aria-valuemax={10_000_000}
        aria-valuenow={song.startFrame}
        title="Drag to slide the song under the cut; arrows by frames; Alt for no snapping"
        onKeyDown={onKey}
        style={{ touchAction: 'none', top, height: bottom - top }}
        sx={{ position: 'absolute', left: 0, right: 0, cursor: 'ew-resize' }}
      />
      {live && <LiveLabel x={live.x} y={top - 30} text={live.text} words={live.words} width={width} />}
    </>
  );
}

/** Result frames at which marks of clips are shown, first of each run, at most a few hundred. */
export function markFrames(result: CompiledProject): { at: number; name: string }[] {
  const found: { at: number; name: string }[] = [];
  for (const { startFrame, compiled } of result.pieces)
    for (const mark of compiled.clip.marks)
      for (
        let i = compiled.shown.indexOf(mark.frame);
        i >= 0;
        i = compiled.shown.indexOf(mark.frame, i + 1)
      ) {
        if (i > 0 && compiled.shown[i - 1] === mark.frame) continue;
        found.push({ at: startFrame + i, name: mark.name });
        if (found.length >= 300) return found;
      }
  return found;
}
