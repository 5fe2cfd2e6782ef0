import { Box, Button, CircularProgress } from '@mui/material';
import type { Job } from '../state/jobs';

/** What is being done, how far it is, and a button that ends it. */
export function JobLine({ job }: { readonly job: Job }) {
  const { words, share, stop } = job;
  // Where the words do not say how far it is.
  const far =
    share !== undefined && share > 0 && !words.includes('%') ? `, ${Math.floor(100 * share)} %` : '';
  return (
    <Box sx={{ display: 'flex', gap: 1 }}>
      <CircularProgress size={14} aria-label={words} sx={{ mt: '2px', flex: 'none' }} />
      <Box sx={{ flex: 1, minWidth: 0, fontSize: 12, overflowWrap: 'anywhere' }}>
        {words}
        {far}
      </Box>
      {stop && (
        <Button size="small" color="inherit" onClick={stop} sx={{ py: 0, flex: 'none' }}>
          Stop
        </Button>
      )}
    </Box>
  );
}
