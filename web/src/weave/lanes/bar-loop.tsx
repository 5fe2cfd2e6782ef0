import { useTip } from '../../commands/use-commands';
import { Box } from '@mui/material';
import { barStart, nearestBeat } from '@skipback/core/beats/grid';
import { songAtFrame } from '@skipback/core/beats/music';
import { useDrag } from '@use-gesture/react';
import type { KeyboardEvent, PointerEvent } from 'react';
import { framesOfBeats, wordsOf } from '../../state/bar-loop';
import { setPlaying, usePlaying } from '../../state/playing';
import { colors } from '../../theme';
import type { SongLaneProps } from './lane-props';

type End = 'from' | 'to';

/** The bars that playing keeps to, over the song: drag either end from bar to bar, with Alt from beat to beat. */
export function BarLoop({ model, song, resultX, top, bottom, width }: SongLaneProps) {
  const beats = usePlaying((s) => s.beats);
  const tip = useTip('bar', 'Click to play all again');
  const { rate } = model.project;
  const { grid } = song;

  const put = (end: End, place: number) => {
    if (!beats) return;
    const last = grid.beats.length - 1;
    const [from, to] =
      end === 'from'
        ? [Math.min(beats.to - 1, Math.max(0, place)), beats.to]
        : [beats.from, Math.max(beats.from + 1, Math.min(last, place))];
    if (from !== beats.from || to !== beats.to) setPlaying({ beats: { from, to } });
  };
  const drag = useDrag(
    ({ args: [end], xy: [x], event, altKey }) => {
      const near = nearestBeat(grid, songAtFrame(song, resultX.invert(x), rate));
      if (!near) return;
      event.stopPropagation();
      const half = Math.floor(grid.beatsPerBar / 2);
      put(end as End, altKey ? near.place : barStart(grid, near.place + half));
    },
    { pointer: { keys: false } },
  );
  const onKey = (end: End) => (event: KeyboardEvent) => {
    const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (way === undefined || !beats) return;
    event.preventDefault();
    event.stopPropagation();
    put(end, beats[end] + way * (event.shiftKey ? 1 : grid.beatsPerBar));
  };
  const frames = beats && framesOfBeats(song, beats, rate, model.totalFrames);
  if (!beats || !frames) return null;
  const [left, right] = [resultX(frames.first), resultX(frames.end)];
  if (right < 0 || left > width) return null;
  const handle = (end: End, x: number) => {
    const hands = drag(end) as { onPointerDown: (event: PointerEvent) => void };
    return (
      <Box
        {...hands}
        onPointerDown={(event: PointerEvent) => {
          event.stopPropagation();
          hands.onPointerDown(event);
        }}
        onKeyDown={onKey(end)}
        role="slider"
        tabIndex={0}
        aria-label={end === 'from' ? 'Loop begins at beat' : 'Loop ends at beat'}
        aria-valuemin={0}
        aria-valuemax={grid.beats.length - 1}
        aria-valuenow={beats[end]}
        title="Drag from bar to bar, with Alt from beat to beat; arrows by bars"
        style={{ touchAction: 'none', left: x - (end === 'from' ? 2 : 8), top, height: bottom - top }}
        sx={{
          position: 'absolute',
          width: 10,
          cursor: 'ew-resize',
          borderLeft: end === 'from' ? `2px solid ${colors.good}` : 0,
          borderRight: end === 'to' ? `2px solid ${colors.good}` : 0,
        }}
      />
    );
  };
  return (
    <>
      <Box
        style={{ left, width: right - left, top, height: bottom - top }}
        sx={{
          position: 'absolute',
          pointerEvents: 'none',
          borderTop: `2px solid ${colors.good}`,
          borderBottom: `2px solid ${colors.good}`,
        }}
      />
      {handle('from', left)}
      {handle('to', right)}
      <Box
        component="button"
        onPointerDown={(event) => event.stopPropagation()}
        onClick={() => setPlaying({ beats: null })}
        title={tip}
        data-testid="bar-loop"
        style={{ left: Math.max(4, left + 5), top: bottom - 18 }}
        sx={{
          position: 'absolute',
          height: 15,
          border: 0,
          borderRadius: 1,
          px: 0.75,
          bgcolor: colors.good,
          color: colors.ground,
          font: 'inherit',
          fontSize: 11.5,
          fontWeight: 600,
          lineHeight: '15px',
          whiteSpace: 'nowrap',
          cursor: 'pointer',
        }}
      >
        loops {wordsOf(song, beats)} ×
      </Box>
    </>
  );
}
