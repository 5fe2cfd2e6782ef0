import { frame } from '@skipback/core/time/units';
import { Box } from '@mui/material';
import type { DenseBar } from '@skipback/core/beats/accents';
import { frameOfSong } from '@skipback/core/beats/music';
import { addStep, setZone } from '@skipback/core/project/actions';
import type { Song } from '@skipback/core/project/schema';
import { freshId } from '../../state/ids';
import { select } from '../../state/selection';
import { act } from '../../state/project-store';
import { transport } from '../../state/transport';
import { colors } from '../../theme';
import type { Scale } from '../scales';
import type { WeaveModel } from '../weave-model';

/** Steps of the pattern that is put into a crowded bar: sixteenths, there and back. */
const STEPS = '1> 1< 1> 2> 2< 2> 3> 3= 2< 3> 3< 4> 4< 4> 4= 4>'.split(' ').map((word) => ({
  slice: Number(word[0]),
  way: ({ '>': 'forward', '<': 'backward', '=': 'hold' } as const)[word[1] as '>' | '<' | '='],
}));

/** Bars crowded with onsets, as suggestions: pressing one puts a frantic Pattern into the piece that plays there. */
export function DenseHints({
  model,
  song,
  dense,
  resultX,
  top,
  width,
}: {
  readonly model: WeaveModel;
  readonly song: Song;
  readonly dense: readonly DenseBar[];
  readonly resultX: Scale;
  readonly top: number;
  readonly width: number;
}) {
  const { rate } = model.project;
  return dense.map((bar) => {
    const from = Math.round(frameOfSong(song, bar.fromS, rate));
    const to = Math.round(frameOfSong(song, bar.toS, rate));
    const at = model.compiled.pieces.find(
      (p) => p.startFrame <= from && p.startFrame + p.compiled.shown.length >= to,
    );
    const x = resultX(from);
    if (!at || x < 0 || x > width - 60 || resultX(to) - x < 74) return null;
    const { piece } = at.compiled;
    const take = () => {
      const id = freshId();
      const length = { beats: song.grid.beatsPerBar / STEPS.length };
      act('put a Pattern into the bar', (p) =>
        setZone(
          addStep(p, piece.id, { id, move: 'pattern', values: { length, steps: STEPS } }),
          piece.id,
          id,
          {
            from: from - at.startFrame,
            to: to - at.startFrame,
          },
        ),
      );
      select({ pieceId: piece.id, stepId: id });
      transport.seekResult(frame(from));
    };
    return (
      <Box
        key={bar.fromS}
        component="button"
        title="This bar is crowded with onsets. Click to put a frantic Pattern into it"
        onPointerDown={(event) => event.stopPropagation()}
        onClick={take}
        style={{ left: x + 3, top: top + 16 }}
        sx={{
          position: 'absolute',
          height: 16,
          border: 0,
          borderRadius: 1,
          px: 0.5,
          bgcolor: `${colors.ground}d9`,
          color: colors.attention,
          font: 'inherit',
          fontSize: 11,
          cursor: 'pointer',
        }}
      >
        add a Pattern
      </Box>
    );
  });
}
