import { Sheet } from '../parts/sheet';
import { useKeyOf } from '../commands/use-commands';
import { Box, IconButton, Switch } from '@mui/material';
import type { CompiledProject } from '@skipback/core/project/compile';
import type { ClipSound, Project } from '@skipback/core/project/schema';
import { setClipSound, setSongGain } from '@skipback/core/project/song-actions';
import { Volume2, VolumeX } from 'lucide-react';
import { useState } from 'react';
import { ChoiceRow } from '../parts/choice-row';
import { LevelField } from '../parts/level-field';
import { Line } from '../parts/line';
import { useSilentMedia } from '../state/mixing';
import { usePlaying } from '../state/playing';
import { act } from '../state/project-store';
import { transport } from '../state/transport';
import { colors } from '../theme';
import { MadeList } from './made-list';
import { OwnList } from './own-list';

/** What is heard, and how loud: the song, the clips' own sound along the path, made sounds. */
export function SoundMenu({
  project,
  compiled,
}: {
  readonly project: Project;
  readonly compiled: CompiledProject;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const muted = usePlaying((s) => s.muted);
  const { song, clipSound } = project;
  const key = useKeyOf('mute');
  const silent = useSilentMedia((s) => s.ids);
  const mute = project.clips.filter((c) => silent.has(c.mediaId)).map((c) => c.name);
  const change = (sound: Partial<ClipSound>, words: string) => act(words, (p) => setClipSound(p, sound));
  return (
    <>
      <IconButton
        aria-label="Sound"
        title={`What is heard (${key}: sound on or off)`}
        onClick={(event) => setAnchor(event.currentTarget)}
        sx={{ color: muted ? colors.faint : colors.ink }}
      >
        {muted ? <VolumeX size={18} /> : <Volume2 size={18} />}
      </IconButton>
      <Sheet anchor={anchor} name="Sound" place="underLeft" onClose={() => setAnchor(null)}>
        <Box role="group" aria-label="Sound" sx={{ p: 1.5, width: 372 }}>
          <Line label="Sound on" quiet={false}>
            <Switch
              size="small"
              checked={!muted}
              slotProps={{ input: { 'aria-label': 'Sound on' } }}
              onChange={() => transport.toggleMuted()}
            />
          </Line>
          {song ? (
            <Line label={song.name} quiet={false}>
              <LevelField
                label="Song level"
                db={song.gainDb}
                onChange={(db) => act('change the level', (p) => setSongGain(p, db))}
              />
            </Line>
          ) : (
            <Box sx={{ color: colors.quiet, py: 0.5 }}>No song: drop one here, or add it on Beats.</Box>
          )}
          <Line label="The clips’ own sound" quiet={false}>
            {clipSound.on && (
              <LevelField
                label="Clip level"
                db={clipSound.gainDb}
                onChange={(gainDb) => change({ gainDb }, 'change the level')}
              />
            )}
            <Switch
              size="small"
              checked={clipSound.on}
              slotProps={{ input: { 'aria-label': 'The clips’ own sound' } }}
              onChange={(_, on) => change({ on }, `clip sound ${on ? 'on' : 'off'}`)}
            />
          </Line>
          {clipSound.on && (
            <Box sx={{ pl: 2 }}>
              <Line label="Pitch">
                <ChoiceRow
                  label="Pitch of the clips"
                  value={clipSound.pitch}
                  options={[
                    { value: 'follows', label: 'follows the speed' },
                    { value: 'keeps', label: 'stays' },
                  ]}
                  onChange={(pitch) => change({ pitch }, 'change the pitch of the clips')}
                />
              </Line>
              <Line label="In a hold">
                <ChoiceRow
                  label="Clips in a hold"
                  value={clipSound.holds}
                  options={[
                    { value: 'silent', label: 'silent' },
                    { value: 'grain', label: 'the instant drawn out' },
                  ]}
                  onChange={(holds) => change({ holds }, 'change how a hold sounds')}
                />
              </Line>
            </Box>
          )}
          {clipSound.on && mute.length > 0 && (
            <Box sx={{ pl: 2, color: colors.quiet, fontSize: 12.5 }}>
              Without sound that can be played: {mute.join(', ')}.
            </Box>
          )}
          {anchor && <MadeList project={project} compiled={compiled} />}
          {anchor && <OwnList project={project} />}
        </Box>
      </Sheet>
    </>
  );
}
