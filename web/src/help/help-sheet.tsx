import { Box, Dialog, DialogContent, DialogTitle } from '@mui/material';
import { MOVES } from '@skipback/core/moves/registry';
import { colors, mono } from '../theme';
import { HANDS, KEYS } from '../keys/keys';

/** All keys, what the hands can do, and what each move is for. */
export function HelpSheet({ open, onClose }: { readonly open: boolean; readonly onClose: () => void }) {
  return (
    <Dialog open={open} onClose={onClose} maxWidth="md" fullWidth aria-labelledby="help-title">
      <DialogTitle id="help-title">Keys and hands</DialogTitle>
      <DialogContent sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', columnGap: 5, pb: 3 }}>
        <Box>
          {Object.values(KEYS).map(({ shows, words }) => (
            <Row key={words} left={shows} right={words} />
          ))}
        </Box>
        <Box>
          {HANDS.map(([left, right]) => (
            <Row key={left} left={left} right={right} wide />
          ))}
          <Box sx={{ mt: 2, mb: 0.5, fontWeight: 600 }}>Moves</Box>
          {MOVES.map((m) => (
            <Row key={m.id} left={m.name} right={m.summary} wide />
          ))}
        </Box>
      </DialogContent>
    </Dialog>
  );
}

function Row({ left, right, wide = false }: { left: string; right: string; wide?: boolean }) {
  return (
    <Box sx={{ display: 'flex', gap: 2, py: 0.5, fontSize: 13 }}>
      <Box
        sx={{
          width: wide ? 190 : 110,
          flex: 'none',
          ...(wide ? { fontWeight: 500 } : { fontFamily: mono, fontSize: 12.5 }),
        }}
      >
        {left}
      </Box>
      <Box sx={{ color: colors.quiet }}>{right}</Box>
    </Box>
  );
}
