import { Box, Button, IconButton, LinearProgress } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import { barStart, nearestBeat } from '@skipback/core/beats/grid';
import type { Project } from '@skipback/core/project/schema';
import { Pause, Play, X } from 'lucide-react';
import { useRef } from 'react';
import { useTip } from '../commands/use-commands';
import { ChoiceRow } from '../parts/choice-row';
import { NoticeLine } from '../parts/notice-line';
import { dismissJob, useJobs } from '../state/jobs';
import { importSong, useSongSound } from '../state/song';
import { setBeatsView, useBeatsView } from '../state/beats-view';
import { colors, mono } from '../theme';
import { BeatsStrip } from './beats-strip';
import { BeatsTools } from './beats-tools';
import { useBeatsCommands } from './use-beats-commands';
import { useSongPlayer } from './use-song-player';

/** The song: its tempo, beats, bars and accents, found and corrected by hand, judged by ear. */
export function BeatsPage({ project }: { readonly project: Project }) {
  const { song } = project;
  const facts = useSongSound(project);
  const jobs = useJobs((s) => s.jobs).filter((j) => j.projectId === project.id && j.kind === 'song');
  const doing = jobs.find((j) => !j.notice);
  const { chosen: kept, accent, bars, loop } = useBeatsView();
  // The grid may be another by now.
  const chosen = kept !== null && kept < (song?.grid.beats.length ?? 0) ? kept : null;
  const chooser = useRef<HTMLInputElement>(null);
  const playing = useSongPlayer(song, loop);
  const loopBars = (count: typeof bars) => {
    if (count === '0' || !song) return setBeatsView({ bars: count, loop: null });
    const { grid } = song;
    const near = nearestBeat(grid, playing.now())?.place ?? 0;
    const first = barStart(grid, near);
    const last = first + Number(count) * grid.beatsPerBar;
    const from = grid.beats[first];
    const to = grid.beats[Math.min(grid.beats.length - 1, last)];
    const whole = from !== undefined && to !== undefined && to > from;
    setBeatsView({ bars: count, loop: whole ? { from, to } : null });
  };
  const play = useTip('play');
  const choose = () => chooser.current?.click();
  useBeatsCommands({ song, playing, chosen, accent, loop: () => loopBars(bars === '0' ? '1' : '0'), choose });
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', flex: 1, minHeight: 0 }}>
      <input
        ref={chooser}
        type="file"
        hidden
        accept="audio/*"
        aria-label="Choose a song"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void importSong(file, project.id);
          event.target.value = '';
        }}
      />
      {doing && (
        <Box role="status" sx={{ px: 2, pt: 1.5 }}>
          <Box sx={{ mb: 0.75, display: 'flex', gap: 2 }}>
            {doing.words}
            {doing.stop && (
              <Button size="small" color="inherit" onClick={doing.stop} sx={{ py: 0 }}>
                Stop
              </Button>
            )}
          </Box>
          <LinearProgress
            variant="determinate"
            value={100 * (doing.share ?? 0)}
            aria-label={doing.words}
            sx={{
              height: 6,
              borderRadius: 3,
              bgcolor: colors.raised,
              '& .MuiLinearProgress-bar': { bgcolor: colors.forward },
            }}
          />
        </Box>
      )}
      {jobs.map(
        (job) =>
          job.notice && (
            <Box key={job.id} sx={{ px: 2, pt: 1.5, display: 'flex', gap: 1, alignItems: 'center' }}>
              <NoticeLine notice={job.notice} />
              <IconButton size="small" aria-label={`Dismiss ${job.name}`} onClick={() => dismissJob(job.id)}>
                <X size={14} />
              </IconButton>
            </Box>
          ),
      )}
      {!song ? (
        <Box sx={{ flex: 1, display: 'grid', placeItems: 'center' }}>
          <Box sx={{ textAlign: 'center', maxWidth: 440 }}>
            <Box component="h1" sx={{ m: 0, mb: 1, fontSize: 22, fontWeight: 600 }}>
              Drop a song here
            </Box>
            <Box sx={{ color: colors.quiet, lineHeight: 1.55, mb: 2.5 }}>
              WAV, MP3, FLAC, Ogg or M4A. Its beats, bars and accents are found from the sound; surges,
              landings and lengths in beats then follow it. It stays on this machine.
            </Box>
            <Button variant="contained" size="large" onClick={choose}>
              Choose a song
            </Button>
          </Box>
        </Box>
      ) : (
        <Box sx={{ flex: 1, minHeight: 0, display: 'flex', gap: 2, p: 2, pl: 0 }}>
          <Box component="h1" sx={visuallyHidden}>
            Beats of {song.name}
          </Box>
          <Box sx={{ flex: 1, minWidth: 0, display: 'flex', flexDirection: 'column', gap: 1 }}>
            <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, pl: 2, height: 38, flex: 'none' }}>
              <IconButton
                aria-label={playing.playing ? 'Stop' : 'Play'}
                title={play}
                onClick={playing.toggle}
                sx={{ color: colors.ink, ml: -1 }}
              >
                {playing.playing ? (
                  <Pause size={20} fill="currentColor" />
                ) : (
                  <Play size={20} fill="currentColor" />
                )}
              </IconButton>
              <ChoiceRow
                label="Click"
                value={playing.clicks ? 'on' : 'off'}
                options={[
                  { value: 'on', label: 'Click on the beats' },
                  { value: 'off', label: 'No click' },
                ]}
                onChange={(value) => playing.setClicks(value === 'on')}
              />
              <ChoiceRow
                label="Loop"
                value={bars}
                options={[
                  { value: '0', label: 'Play on' },
                  { value: '1', label: 'Loop a bar' },
                  { value: '2', label: 'two' },
                  { value: '4', label: 'four' },
                ]}
                onChange={loopBars}
              />
              <Box sx={{ flex: 1 }} />
              <Box sx={{ color: colors.quiet, fontFamily: mono }} data-testid="beats-count">
                {song.grid.beats.length} beats, {song.accents.length} accents
              </Box>
            </Box>
            <BeatsStrip
              song={song}
              facts={facts}
              playing={playing}
              chosen={chosen}
              onChoose={(place) => setBeatsView({ chosen: place, ...(place !== null && { accent: null }) })}
            />
            <Box sx={{ pl: 2, color: colors.quiet, fontSize: 12.5, flex: 'none' }}>
              Drag a flag to move a beat, an accent up or down for its strength; double-click beside them to
              add one; Delete takes the chosen one away. Wheel zooms, with Shift it pans.
            </Box>
          </Box>
          <BeatsTools song={song} playing={playing} chosen={chosen} accent={accent} onReplace={choose} />
        </Box>
      )}
    </Box>
  );
}
