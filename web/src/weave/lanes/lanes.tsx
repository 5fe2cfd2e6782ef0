import { denseBars } from '@skipback/core/beats/accents';
import type { Song } from '@skipback/core/project/schema';
import { useCallback, useMemo } from 'react';
import { useSongSound } from '../../state/song';
import { BarLoop } from './bar-loop';
import { DenseHints } from './dense-hints';
import { drawSong } from './draw-song';
import { drawSounds } from './draw-sounds';
import { soundsCalledFor } from './heard-sounds';
import { DriverKeys } from './driver-keys';
import { LookNames, drawLookLanes, drivenLane, useLookLanes, useSelectedLane } from './look-lanes';
import { Landings } from './landings';
import { PlacedSounds } from './placed-sounds';
import { ScopePins } from './scope-pins';
import type { Scale } from '../scales';
import type { Lanes, WeaveLayout } from '../scene';
import { SongHandle } from './song-lane';
import type { WeaveModel } from '../weave-model';

/** Bars of a song that are crowded, the densest. */
const useDense = (song: Song | null) =>
  useMemo(() => (song ? denseBars(song.grid, song.accents, 12) : []), [song]);

/** Which lanes lie under the result. */
export function useLaneHeights(model: WeaveModel): Lanes {
  const lanes = useLookLanes(model);
  const { length: looks } = lanes;
  const driver = drivenLane(lanes);
  const { song, sounds } = lanesOf(model);
  const selected = useSelectedLane(lanes);
  return useMemo(() => ({ song, sounds, looks, driver, selected }), [song, sounds, looks, driver, selected]);
}

const lanesOf = ({ project }: WeaveModel) => {
  const made = Object.values(project.made).some((m) => m.on);
  return { song: project.song !== null, sounds: made || project.placed.length > 0 };
};

/** What stands still of the lanes under the result: the song, and the sounds its path makes by itself. */
export function useLanesDrawn(
  model: WeaveModel,
  layout: WeaveLayout,
  resultX: Scale,
): (c: CanvasRenderingContext2D) => void {
  const { project, compiled } = model;
  const { song, rate } = project;
  const facts = useSongSound(project);
  const dense = useDense(song);
  const { sounds } = lanesOf(model);
  const heard = useMemo(
    () => (sounds ? soundsCalledFor(compiled, project).filter((s) => project.made[s.kind].on) : []),
    [sounds, compiled, project],
  );
  const looks = useLookLanes(model);
  return useCallback(
    (c) => {
      const { width, songTop, soundsTop, height } = layout;
      drawLookLanes(c, looks, resultX, layout);
      if (song) drawSong(c, { song, facts, rate, resultX, width, top: songTop, bottom: soundsTop, dense });
      if (sounds) drawSounds(c, heard, resultX, { width, top: soundsTop, bottom: height });
    },
    [layout, song, facts, rate, resultX, dense, sounds, heard, looks],
  );
}

/** What can be taken hold of in the lanes under the result. */
export function LaneHands({
  model,
  layout,
  resultX,
}: {
  readonly model: WeaveModel;
  readonly layout: WeaveLayout;
  readonly resultX: Scale;
}) {
  const { song } = model.project;
  const { width, height, songTop: top, soundsTop: bottom } = layout;
  const dense = useDense(song);
  const looks = useLookLanes(model);
  return (
    <>
      <LookNames lanes={looks} layout={layout} />
      <ScopePins model={model} lanes={looks} layout={layout} resultX={resultX} />
      <DriverKeys model={model} lanes={looks} layout={layout} resultX={resultX} />
      {song && (
        <>
          <SongHandle model={model} song={song} resultX={resultX} top={top} bottom={bottom} width={width} />
          <DenseHints model={model} song={song} dense={dense} resultX={resultX} top={top} width={width} />
          <Landings model={model} song={song} resultX={resultX} top={top} width={width} />
          <BarLoop model={model} song={song} resultX={resultX} top={top} bottom={bottom} width={width} />
        </>
      )}
      {lanesOf(model).sounds && (
        <PlacedSounds model={model} resultX={resultX} top={bottom} bottom={height} width={width} />
      )}
    </>
  );
}
