import { timeAt } from '../state/time-at';
import { parseAmount } from '@skipback/core/time/amount';
import { Box } from '@mui/material';
import { gridFromTaps, meanBpm, nearestBeat } from '@skipback/core/beats/grid';
import type { Song } from '@skipback/core/project/schema';
import { setGrid } from '@skipback/core/project/song-actions';
import { Line } from '../parts/line';
import { useCommands, useKeyOf } from '../commands/use-commands';
import { ValueField } from '../parts/value-field';
import { act, useProjectStore } from '../state/project-store';
import { colors } from '../theme';
import { Small } from '../parts/small-button';
import { Card } from './card';
import { addTap, clearTaps, setLatencyMs, useTaps } from './taps';
import type { SongPlaying } from './use-song-player';

/** Tapping along on T: the grid that fits the taps best. */
export function TapCard({ song, playing }: { song: Song; playing: SongPlaying }) {
  const projectId = useProjectStore((s) => s.project?.id ?? '');
  const { taps: all, latencyMs } = useTaps();
  const taps = all[projectId] ?? [];
  const clear = () => clearTaps(projectId);
  useCommands({
    tap: playing.playing
      ? (event) => (event?.repeat ? undefined : addTap(projectId, playing.now(event?.timeStamp)))
      : { why: 'Play the song, then tap along.' },
  });
  const key = useKeyOf('tap');
  const tapped = gridFromTaps(taps, latencyMs / 1000, song.lengthS, song.grid);
  const calibrate = () => {
    const offs = taps.flatMap((t) => {
      const near = nearestBeat(song.grid, t);
      return near ? [near.offS * 1000] : [];
    });
    offs.sort((a, b) => a - b);
    if (offs.length > 0) setLatencyMs(Math.round(offs[offs.length >> 1]!));
  };
  return (
    <Card title="Tap along">
      <Box sx={{ color: colors.quiet, mb: 0.5 }}>
        {taps.length === 0
          ? `Play, and press ${key} on every beat.`
          : `${taps.length} tap${taps.length === 1 ? '' : 's'}${tapped ? `: ${meanBpm(tapped).toFixed(2)} a minute` : ', four make a grid'}`}
      </Box>
      <Line label="Tap delay">
        <ValueField
          label="Tap latency"
          text={`${latencyMs} ms`}
          width={64}
          hint="Taken off every tap"
          onEnter={(typed) => {
            const n = parseAmount(typed, { unit: 'ms', least: -500, most: 500, at: timeAt() });
            if (typeof n === 'string') return n;
            setLatencyMs(n);
            return true;
          }}
          onStep={(by) => setLatencyMs(latencyMs + by)}
        />
      </Line>
      <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', mt: 0.5 }}>
        <Small
          disabled={!tapped}
          onPress={() => {
            if (!tapped) return;
            act('take the tapped beats', (p) => setGrid(p, tapped));
            clear();
          }}
        >
          Use the tapped beats
        </Small>
        <Small disabled={taps.length < 4} onPress={calibrate}>
          Measure my tap delay
        </Small>
        <Small disabled={taps.length === 0} onPress={clear}>
          Forget
        </Small>
      </Box>
    </Card>
  );
}
