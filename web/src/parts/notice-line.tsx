import { Box } from '@mui/material';
import type { Notice } from '@skipback/core/notice';
import { inCount, useFirst } from '../state/counting';
import { colors } from '../theme';

/** A notice as a line of text: its sentence, and the way out after it. */
export function NoticeLine({ notice }: { readonly notice: Notice }) {
  const first = useFirst();
  const color = notice.level === 'info' ? colors.quiet : colors.attention;
  return (
    <Box
      role={notice.level === 'info' ? 'note' : 'alert'}
      sx={{ fontSize: 12, lineHeight: 1.4, color, overflowWrap: 'anywhere' }}
    >
      {inCount(notice.text, first)}
      {notice.wayOut && (
        <Box component="span" sx={{ color: colors.quiet }}>
          {' '}
          {inCount(notice.wayOut, first)}
        </Box>
      )}
    </Box>
  );
}
