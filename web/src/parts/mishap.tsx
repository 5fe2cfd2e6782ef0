import { Box, Button } from '@mui/material';
import { Component, type ReactNode } from 'react';
import { colors } from '../theme';

/** What is seen instead of a page that could not be drawn: a sentence, and ways on. The work itself is saved. */
export class Mishap extends Component<{ readonly children: ReactNode }, { readonly failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError() {
    return { failed: true };
  }

  override render() {
    if (!this.state.failed) return this.props.children;
    return (
      <Box role="alert" sx={{ p: 6, maxWidth: 560 }}>
        <Box component="h1" sx={{ fontSize: 20, fontWeight: 600, mt: 0 }}>
          This page could not be drawn.
        </Box>
        <Box sx={{ color: colors.quiet, mb: 2 }}>
          Your work is saved as it was before. Reload to go on; if it happens again, open another project from
          the shelf.
        </Box>
        <Button variant="contained" onClick={() => window.location.reload()}>
          Reload
        </Button>
        <Button color="inherit" href="/" sx={{ ml: 1 }}>
          To the shelf
        </Button>
      </Box>
    );
  }
}
