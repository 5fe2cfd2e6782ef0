import { useOpen } from '../state/open';
import { useTold } from '../state/told';
import { Box } from '@mui/material';
import { colors, mono } from '../theme';

/** Late frames, decoding and memory, over the picture when asked for. */
export function Stats() {
  const stats = useTold((s) => s.stats);
  const shown = useOpen((s) => s.showStats);
  if (!stats || !shown) return null;
  const off = stats.soundOff;
  return (
    <Box
      sx={{
        position: 'absolute',
        top: 8,
        px: 1.25,
        py: 0.4,
        borderRadius: 2,
        bgcolor: 'rgba(18,18,18,0.86)',
        fontFamily: mono,
        fontSize: 12,
        color: colors.quiet,
      }}
      data-testid="stats"
      // Who waits for a frame sees when the numbers came, even the same ones.
      data-told={stats.at}
    >
      {off && `sound off by ${off.nowMs.toFixed(0)} ms (${off.worstMs.toFixed(0)} at most), `}
      {stats.late} late of {stats.shown + stats.late}, {stats.decoded} decoded, {stats.open} open,{' '}
      {Math.round(stats.heldBytes / 2 ** 20)} of {Math.round(stats.budgetBytes / 2 ** 20)} MB held
      {stats.looksMs > 0 && `, looks ${stats.looksMs.toFixed(1)} ms`}
    </Box>
  );
}
