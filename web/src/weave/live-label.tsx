import { Box } from '@mui/material';
import { colors, mono } from '../theme';

/** Values beside the pointer while something is dragged; `words` says what it snapped to. */
export function LiveLabel({
  x,
  y,
  text,
  words,
  width,
}: {
  readonly x: number;
  readonly y: number;
  readonly text: string;
  readonly words?: string | undefined;
  /** Width of what it stands in, which it does not leave. */
  readonly width: number;
}) {
  const onLeft = x > width - 240;
  return (
    <Box
      data-testid="live"
      style={{ ...(onLeft ? { right: width - x + 10 } : { left: x + 10 }), top: y }}
      sx={{
        position: 'absolute',
        px: 1,
        py: 0.25,
        borderRadius: 1,
        bgcolor: colors.ink,
        color: colors.ground,
        fontFamily: mono,
        fontSize: 12.5,
        fontWeight: 500,
        whiteSpace: 'nowrap',
        pointerEvents: 'none',
        zIndex: 5,
      }}
    >
      {text}
      {words && (
        <Box component="span" sx={{ fontWeight: 400 }}>
          {' '}
          · {words}
        </Box>
      )}
    </Box>
  );
}
