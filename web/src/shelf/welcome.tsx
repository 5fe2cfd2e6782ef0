import { Box, Button } from '@mui/material';
import type { ReactNode } from 'react';
import { colors } from '../theme';

interface Props {
  readonly busy: string | null;
  readonly onDemo: () => void;
  readonly onImport: () => void;
  /** What can be made, moving. */
  readonly children: ReactNode;
}

/** The first page of someone new: the ways in, and what can be made, moving. */
export function Welcome({ busy, onDemo, onImport, children }: Props) {
  return (
    <Box sx={{ maxWidth: 1280, mx: 'auto', mt: { xs: '2vh', lg: '5vh' } }}>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr auto', columnGap: 6, alignItems: 'end', mb: 4 }}>
        <Box sx={{ maxWidth: 720 }}>
          <Box sx={{ fontSize: 30, fontWeight: 600, lineHeight: 1.25, letterSpacing: '-0.01em', mb: 1.25 }}>
            Make the picture misbehave in time.
          </Box>
          <Box sx={{ fontSize: 16, color: colors.quiet, lineHeight: 1.55 }}>
            Pick a second of a clip, give it a move, watch it loop. Every cut, copy and reversal follows from
            the rule, so moving the first frame moves them all. Clips stay on this machine.
          </Box>
        </Box>
        <Box>
          <Box sx={{ display: 'flex', gap: 1.5 }}>
            <Button size="large" variant="contained" onClick={onDemo} disabled={busy !== null}>
              Open the demo
            </Button>
            <Button
              size="large"
              variant="outlined"
              color="inherit"
              onClick={onImport}
              disabled={busy !== null}
            >
              Choose a video
            </Button>
          </Box>
          <Box sx={{ mt: 1.25, color: colors.faint, textAlign: 'right' }}>
            Or drop one anywhere on this page.
          </Box>
        </Box>
      </Box>
      {children}
    </Box>
  );
}
