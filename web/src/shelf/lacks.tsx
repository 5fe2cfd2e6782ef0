import { Box, Button } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { lacksHere } from '../state/able';
import { colors } from '../theme';
import { rested } from './rested';

/** What will not work in this browser; one line until it is asked for, unless nothing works. */
export function Lacks() {
  // Asking takes the page a tenth of a second.
  const { data: lacks = [] } = useQuery({
    queryKey: ['lacks'],
    queryFn: async ({ signal }) => ((await rested(signal)) ? lacksHere() : []),
    staleTime: Infinity,
  });
  const [opened, setOpened] = useState(false);
  // Where a file is saved to is no lack to be told of by itself.
  const told = lacks.filter((l) => l.code !== 'save');
  if (told.length === 0) return null;
  const stops = told.some((l) => l.stops);
  return (
    <Box
      role={stops ? 'alert' : 'group'}
      aria-label="In this browser"
      sx={{ mb: 3, color: stops ? colors.attention : colors.quiet, maxWidth: 760 }}
    >
      {!stops && (
        <Button color="inherit" size="small" onClick={() => setOpened(!opened)} sx={{ ml: -0.75 }}>
          {told.length === 1 ? 'One thing does' : `${told.length} things do`} not work in this browser
        </Button>
      )}
      {(stops || opened) && (
        <Box component="ul" sx={{ m: 0, pl: stops ? 0 : 2.5, listStyle: stops ? 'none' : 'disc' }}>
          {(opened ? lacks : told).map((l) => (
            <li key={l.code}>{l.sentence}</li>
          ))}
        </Box>
      )}
    </Box>
  );
}
