import { Box, IconButton, Popover, Switch } from '@mui/material';
import type { Project } from '@skipback/core/project/schema';
import { setClipSound, setSongGain } from '@skipback/core/project/song-actions';
import { Volume2, VolumeX } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { LevelField } from '../parts/level-field';
import { usePlayback } from '../state/playback';
import { act } from '../state/project-store';
import { transport } from '../state/transport';
import { colors } from '../theme';

/** What is heard, and how loud: the song, the clips' own sound along the path, made sounds. */
export function SoundMenu({ project }: { readonly project: Project }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const muted = usePlayback((s) => s.muted);
  const { song, clipSound } = project;
  const level = (label: string, db: number, set: (db: number) => void) => (
    <LevelField label={label} db={db} onChange={set} />
  );
  return (
    <>
      <IconButton
        aria-label="Sound"
        title="What is heard (U: sound on or off)"
        onClick={(event) => setAnchor(event.currentTarget)}
        sx={{ color: muted ? colors.faint : colors.ink, mx: -1 }}
      >
        {muted ? <VolumeX size={18} /> : <Volume2 size={18} />}
      </IconButton>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'top', horizontal: 'left' }}
        transformOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      >
        <Box role="group" aria-label="Sound" sx={{ p: 1.5, width: 320 }}>
          <Line label="Sound on">
            <Switch
              size="small"
              checked={!muted}
              slotProps={{ input: { 'aria-label': 'Sound on' } }}
              onChange={() => transport.toggleMuted()}
            />
          </Line>
          {song ? (
            <Line label={song.name}>
              {level('Song level', song.gainDb, (db) => act('change the level', (p) => setSongGain(p, db)))}
            </Line>
          ) : (
            <Box sx={{ color: colors.quiet, py: 0.5 }}>No song: drop one here, or add it on Beats.</Box>
          )}
          <Line label="Clips follow the picture">
            {clipSound.on &&
              level('Clip level', clipSound.gainDb, (gainDb) =>
                act('change the level', (p) => setClipSound(p, { gainDb })),
              )}
            <Switch
              size="small"
              checked={clipSound.on}
              slotProps={{ input: { 'aria-label': 'Clips follow the picture' } }}
              onChange={(_, on) => act(`clip sound ${on ? 'on' : 'off'}`, (p) => setClipSound(p, { on }))}
            />
          </Line>
          <Line label="Whooshes and scratches">
            {clipSound.made &&
              level('Made level', clipSound.madeDb, (madeDb) =>
                act('change the level', (p) => setClipSound(p, { madeDb })),
              )}
            <Switch
              size="small"
              checked={clipSound.made}
              slotProps={{ input: { 'aria-label': 'Whooshes and scratches' } }}
              onChange={(_, made) =>
                act(`made sounds ${made ? 'on' : 'off'}`, (p) => setClipSound(p, { made }))
              }
            />
          </Line>
          <Box sx={{ color: colors.quiet, fontSize: 12.5, mt: 0.5, lineHeight: 1.45 }}>
            A clip’s sound speeds up, slows and runs backward with its picture; where it holds it is silent.
            Whooshes swell where it runs fast, scratches rasp where it runs back.
          </Box>
        </Box>
      </Popover>
    </>
  );
}

function Line({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, minHeight: 34 }}>
      <Box sx={{ flex: 1, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>{label}</Box>
      {children}
    </Box>
  );
}
