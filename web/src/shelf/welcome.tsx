import { Box, Button } from '@mui/material';
import { useEffect, useRef } from 'react';
import { colors } from '../theme';

interface Props {
  readonly busy: string | null;
  readonly onDemo: () => void;
  readonly onImport: () => void;
}

/** What can be made, made with this program from the demo's clips (`npm run demo:loops`). */
const LOOPS = [
  { file: 'there-and-back', words: 'There and back: one trip, turning softly' },
  { file: 'scratch', words: 'A scratch before the strike' },
  { file: 'freeze', words: 'Slow, and one frame held' },
  { file: 'stop-motion', words: 'Seven pictures a second' },
] as const;

/** The first page of someone new: what can be made, moving, and the two ways in. */
export function Welcome({ busy, onDemo, onImport }: Props) {
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: 'minmax(300px, 5fr) 7fr',
        gap: 6,
        alignItems: 'center',
        maxWidth: 1200,
        mx: 'auto',
        mt: '9vh',
      }}
    >
      <Box>
        <Box sx={{ fontSize: 30, fontWeight: 600, lineHeight: 1.25, letterSpacing: '-0.01em', mb: 1.5 }}>
          Make the picture misbehave in time.
        </Box>
        <Box sx={{ fontSize: 16, color: colors.quiet, lineHeight: 1.55, mb: 3 }}>
          Pick a second of a clip, give it a move, watch it loop. Every cut, copy and reversal follows from
          the rule, so moving the first frame moves them all. Clips stay on this machine.
        </Box>
        <Box sx={{ display: 'flex', gap: 1.5 }}>
          <Button size="large" variant="contained" onClick={onDemo} disabled={busy !== null}>
            Open the demo
          </Button>
          <Button size="large" variant="outlined" color="inherit" onClick={onImport} disabled={busy !== null}>
            Choose a video
          </Button>
        </Box>
        <Box sx={{ mt: 2, color: colors.faint }}>Or drop a video anywhere on this page.</Box>
      </Box>
      <Box
        component="ul"
        aria-label="What can be made"
        sx={{ m: 0, p: 0, listStyle: 'none', display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2 }}
      >
        {LOOPS.map((loop) => (
          <Box component="li" key={loop.file}>
            <Looping file={loop.file} />
            <Box sx={{ mt: 0.75, fontSize: 13, color: colors.quiet }}>{loop.words}</Box>
          </Box>
        ))}
      </Box>
    </Box>
  );
}

/** One loop; it stands still for those who asked their system for less motion. */
function Looping({ file }: { readonly file: string }) {
  const video = useRef<HTMLVideoElement>(null);
  useEffect(() => {
    const still = window.matchMedia('(prefers-reduced-motion: reduce)').matches;
    if (!still) void video.current?.play().catch(() => undefined);
  }, []);
  return (
    <video
      ref={video}
      src={`/loops/${file}.webm`}
      loop
      muted
      playsInline
      preload="auto"
      aria-hidden="true"
      style={{
        width: '100%',
        aspectRatio: '16 / 9',
        objectFit: 'cover',
        display: 'block',
        borderRadius: 8,
        background: '#000',
      }}
    />
  );
}
