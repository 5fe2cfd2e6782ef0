import { useFirst } from '../../state/counting';
import { frame } from '@skipback/core/time/units';
import { Box } from '@mui/material';
import { frameOfSong, songAtFrame, frameOn, leanAt } from '@skipback/core/beats/music';
import { nearestBeat } from '@skipback/core/beats/grid';
import type { Song } from '@skipback/core/project/schema';
import { useMemo } from 'react';
import { transport } from '../../state/transport';
import { colors, mono } from '../../theme';
import type { Scale } from '../scales';
import { markFrames } from './song-lane';
import type { WeaveModel } from '../weave-model';

/** Landings nearer to a beat than this many frames are told; others have nothing to do with it. */
const NEAR = 9;

/** Where marks are shown near a beat: on it, or by how many frames and milliseconds off. */
export function Landings({
  model,
  song,
  resultX,
  top,
  width,
}: {
  readonly model: WeaveModel;
  readonly song: Song;
  readonly resultX: Scale;
  readonly top: number;
  readonly width: number;
}) {
  const { rate } = model.project;
  const first = useFirst();
  const marks = useMemo(() => markFrames(model.compiled), [model.compiled]);
  const near: { at: number; name: string; off: number; x: number }[] = [];
  for (const { at, name } of marks) {
    const beat = nearestBeat(song.grid, songAtFrame(song, at + 0.5, rate));
    if (!beat) continue;
    const sounds = frameOfSong(song, song.grid.beats[beat.place]!, rate);
    // They meet on the frame that is nearest to the beat, and on the one that the beat lies within.
    const within = Math.floor(sounds + 1e-6) === at;
    const off = within ? 0 : at - frameOn(sounds, { lean: leanAt(rate) });
    const x = resultX(at + 0.5);
    const apart = x - (near.at(-1)?.x ?? -Infinity) >= 74;
    if (Math.abs(off) <= NEAR && x >= 0 && x <= width - 30 && apart) near.push({ at, name, off, x });
  }
  return near.map(({ at, name, off, x }) => {
    const ms = Math.round((off * 1000 * rate.den) / rate.num);
    const text = off === 0 ? 'on the beat' : `${off > 0 ? '+' : '−'}${Math.abs(off)} f, ${Math.abs(ms)} ms`;
    return (
      <Box
        key={`${name}${at}`}
        component="button"
        data-testid="landing"
        title={`${name} is shown at result frame ${at + first}. Click to look`}
        onPointerDown={(event) => event.stopPropagation()}
        onClick={() => transport.seekResult(frame(at))}
        style={{ left: x - 5, top: top - 1 }}
        sx={{
          position: 'absolute',
          border: 0,
          p: 0,
          pl: '13px',
          height: 15,
          bgcolor: `${colors.ground}cc`,
          color: off === 0 ? colors.good : colors.attention,
          fontFamily: mono,
          fontSize: 11,
          whiteSpace: 'nowrap',
          cursor: 'pointer',
          '&::before': {
            content: '""',
            position: 'absolute',
            left: 1,
            top: 3,
            border: '4px solid transparent',
            borderTop: `7px solid currentColor`,
            borderBottom: 0,
          },
        }}
      >
        {text}
      </Box>
    );
  });
}
