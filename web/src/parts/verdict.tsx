import { Box } from '@mui/material';
import { colors } from '../theme';

/** A check's answer: a quiet dot when all is well, a triangle when not. */
export function Verdict({ good, text }: { good: boolean; text: string }) {
  return (
    <Box
      component="span"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 1,
        minWidth: 0,
        '& svg': { flex: 'none' },
        fontSize: 13,
        color: good ? colors.quiet : colors.ink,
        fontWeight: good ? 400 : 600,
      }}
    >
      <svg width="10" height="10" aria-hidden="true">
        {good ? (
          <circle cx="5" cy="5" r="4" fill={colors.good} />
        ) : (
          <path d="M5 0 10 9H0Z" fill={colors.attention} />
        )}
      </svg>
      <span style={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>{text}</span>
    </Box>
  );
}
