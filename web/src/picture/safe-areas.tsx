import { Box } from '@mui/material';
import { useOpen } from '../state/open';

/** Where action and titles are safe from edges that are cut off or covered: shares of the picture (SMPTE ST 2046-1). */
const AREAS = [
  { words: 'action, 93 %', share: 0.93 },
  { words: 'titles, 90 %', share: 0.9 },
] as const;

/** Lines around what is safe to be seen, over the picture and never in a file. */
export function SafeAreas() {
  const shown = useOpen((s) => s.safeAreas);
  if (!shown) return null;
  return (
    <Box role="img" aria-label="Safe areas" sx={{ position: 'absolute', inset: 0 }}>
      {AREAS.map(({ words, share }) => (
        <Box
          key={words}
          sx={{
            position: 'absolute',
            inset: `${50 * (1 - share)}%`,
            border: '1px solid rgba(255,255,255,0.75)',
            // Seen on bright pictures as well.
            outline: '1px solid rgba(0,0,0,0.5)',
            ...(share === 0.9 && { borderStyle: 'dashed' }),
          }}
        >
          {share === 0.9 && (
            <Box sx={{ position: 'absolute', right: 4, bottom: 2, fontSize: 11, textShadow: '0 0 3px #000' }}>
              {AREAS.map((a) => a.words).join('; ')}
            </Box>
          )}
        </Box>
      ))}
    </Box>
  );
}
