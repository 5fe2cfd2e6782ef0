import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { useSoundQuestion } from '../state/sound-question';
import { colors } from '../theme';

/** Asks what a sound that came in is to be, where the project has a song already. */
export function SoundQuestion() {
  const question = useSoundQuestion((s) => s.question);
  if (!question) return null;
  const { name, song, answer } = question;
  return (
    <Dialog open onClose={() => answer('nothing')} maxWidth="sm" aria-labelledby="sound-question">
      <DialogTitle id="sound-question" sx={{ pb: 1, overflowWrap: 'anywhere' }}>
        What is {name}?
      </DialogTitle>
      <DialogContent>
        <Box sx={{ color: colors.quiet, lineHeight: 1.55, overflowWrap: 'anywhere' }}>
          The project has a song, {song}. Another song takes its place, and its beats and accents go with it;
          undo brings them back. A sound is placed at the playhead, beside the song.
        </Box>
      </DialogContent>
      <DialogActions sx={{ px: 3, pb: 2 }}>
        <Button color="inherit" onClick={() => answer('nothing')}>
          Leave it
        </Button>
        <Button color="inherit" variant="outlined" onClick={() => answer('song')}>
          Make it the song
        </Button>
        <Button variant="contained" autoFocus onClick={() => answer('placed')}>
          Place it at the playhead
        </Button>
      </DialogActions>
    </Dialog>
  );
}
