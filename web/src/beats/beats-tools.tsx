import { useFirst } from '../state/counting';
import { FileButton } from '../parts/file-button';
import { timeAt } from '../state/time-at';
import { parseAmount } from '@skipback/core/time/amount';
import { Box } from '@mui/material';
import type { AccentKey } from '@skipback/core/beats/accent-edits';
import {
  type BeatGrid,
  barAt,
  canDouble,
  differenceOf,
  doubled,
  evenGrid,
  halved,
  meanBpm,
  nearestBeat,
  placeOf,
} from '@skipback/core/beats/grid';
import { readMarkers, writeMarkers } from '@skipback/core/beats/markers';
import { readMidi } from '@skipback/core/beats/midi';
import type { Song } from '@skipback/core/project/schema';
import {
  removeSong,
  setGrid,
  setSongGain,
  slideSong,
  takeSecond,
  trimSong,
} from '@skipback/core/project/song-actions';
import { useSnackbar } from 'notistack';
import { CAUTION, TROUBLE } from '../notices';
import { LevelField } from '../parts/level-field';
import { Line } from '../parts/line';
import { ValueField } from '../parts/value-field';
import { download, fileName } from '../state/download';
import { openProjectId } from '../state/act-in';
import { act } from '../state/project-store';
import { findBeats } from '../state/song';
import { colors, mono } from '../theme';
import { AccentCard } from './accent-card';
import { Small } from '../parts/small-button';
import { Card } from './card';
import { EnvelopeCard } from './envelope-card';
import { TapCard } from './tap-card';
import type { SongPlaying } from './use-song-player';

/** Odds as a percentage; nothing that is only heard is more than nearly sure. */
const percent = (likely: number): string => `${Math.min(99, Math.round(100 * likely))}\u00a0%`;

/** How sure it is where bars begin, in words. */
const barsWords = (likely: number): string =>
  `Where bars begin${likely >= 0.7 ? '' : ', a guess'}: ${percent(likely)} sure.`;

interface Props {
  readonly song: Song;
  readonly playing: SongPlaying;
  readonly chosen: number | null;
  readonly accent: AccentKey | null;
  onReplace(): void;
}

/** Tempi that can be typed, beats a minute, and the most beats of a bar. */
const [SLOWEST, FASTEST, LONGEST_BAR] = [30, 400, 16];

/** What can be done with a song: where it lies, its tempo and bars, tapping along, files in and out. */
export function BeatsTools({ song, playing, chosen, accent, onReplace }: Props) {
  const { enqueueSnackbar } = useSnackbar();
  const { grid } = song;
  const first = useFirst();
  const bpm = meanBpm(grid);
  const set = (words: string, next: BeatGrid) => act(words, (p) => setGrid(p, next));
  const seconds = (typed: string) => {
    const [, minutes = '0', rest = typed] = /^\s*(\d+):([^:]*)$/.exec(typed) ?? [];
    const within = parseAmount(rest, { unit: 's', least: 0, most: song.lengthS, at: timeAt() });
    if (typeof within === 'string') return within;
    const s = Number(minutes) * 60 + within;
    return s <= song.lengthS ? s : `At most ${song.lengthS.toFixed(2)} s.`;
  };
  const setTempo = (tempo: number) => {
    const near = chosen ?? nearestBeat(grid, playing.now())?.place;
    const through = near === undefined ? playing.now() : (grid.beats[near] ?? playing.now());
    set('type the tempo', evenGrid(tempo, through, song.lengthS, grid));
  };
  const setBar = (beats: number) =>
    set('change the beats a bar', { ...grid, beatsPerBar: beats, firstBar: grid.firstBar % beats });
  const readFile = async (file: File) => {
    if (/\.(mid|midi)$/i.test(file.name)) {
      const read = readMidi(new Uint8Array(await file.arrayBuffer()), song.lengthS);
      if (!read.ok) return void enqueueSnackbar(read.sentence, TROUBLE);
      const { accents, barsChange } = read.time;
      if (barsChange)
        enqueueSnackbar(
          `Bars change their length in ${file.name}; here every bar has ${read.time.grid.beatsPerBar} beats. Where that is wrong, press “Bars begin at the playhead”.`,
          CAUTION,
        );
      act(`read ${file.name}`, (p) => setGrid(p, read.time.grid, accents.length > 0 ? accents : undefined));
    } else {
      const read = readMarkers(await file.text(), grid);
      if (!read.ok) return void enqueueSnackbar(read.sentence, TROUBLE);
      set(`read ${file.name}`, read.grid);
    }
  };
  return (
    <Box
      sx={{
        width: 270,
        flex: 'none',
        display: 'flex',
        flexDirection: 'column',
        gap: 1.5,
        overflowY: 'auto',
        pr: 0.5,
      }}
    >
      <Card title={song.name}>
        <Line label="Length">
          <Box sx={{ fontFamily: mono }}>{song.lengthS.toFixed(2)} s</Box>
        </Line>
        <Line label="Begins at result frame">
          <ValueField
            label="Song begins at result frame"
            text={String(song.startFrame + first)}
            width={64}
            onEnter={(typed) => {
              const n = parseAmount(typed, {
                unit: 'f',
                least: -10_000_000,
                most: 10_000_000,
                whole: true,
                at: timeAt(),
              });
              if (typeof n === 'string') return n;
              // A number is a frame as it is called; a time is a time.
              const called = /^\s*-?\d+\s*f?\s*$/i.test(typed) ? first : 0;
              act('slide the song', (p) => slideSong(p, n - called));
              return true;
            }}
            onStep={(by) => act('slide the song', (p) => slideSong(p, song.startFrame + by))}
          />
        </Line>
        <Line label="From">
          <ValueField
            label="Song from"
            text={`${Number(song.fromS.toFixed(3))} s`}
            width={72}
            hint="Where in the song it begins to be used"
            onEnter={(typed) => {
              const s = seconds(typed);
              if (typeof s === 'string') return s;
              act('trim the song', (p) => trimSong(p, s));
              return true;
            }}
            fine
            onStep={(by) =>
              act('trim the song', (p) =>
                trimSong(p, Math.min(song.lengthS, Math.max(0, Number((song.fromS + by * 0.1).toFixed(3))))),
              )
            }
          />
        </Line>
        <Line label="Level">
          <LevelField
            label="Song level"
            db={song.gainDb}
            onChange={(db) => act('change the level', (p) => setSongGain(p, db))}
          />
        </Line>
        <Box sx={{ display: 'flex', gap: 0.5, mt: 0.5 }}>
          <Small onPress={onReplace}>Another song</Small>
          <Small onPress={() => act('remove the song', removeSong)}>Remove</Small>
        </Box>
      </Card>
      <Card title="Tempo and bars">
        <Line label="Beats a minute">
          <ValueField
            label="Tempo"
            text={bpm > 0 ? bpm.toFixed(2) : 'none'}
            width={72}
            hint="Typed, it makes an even grid through the chosen beat, or the playhead"
            onEnter={(typed) => {
              const n = parseAmount(typed, { unit: 'bpm', least: SLOWEST, most: FASTEST });
              if (typeof n === 'string') return n;
              setTempo(n);
              return true;
            }}
            fine
            {...(bpm > 0 && {
              onStep: (by: number) =>
                setTempo(Number(Math.min(FASTEST, Math.max(SLOWEST, bpm + by)).toFixed(2))),
            })}
          />
        </Line>
        <Line label="Beats a bar">
          <ValueField
            label="Beats a bar"
            text={String(grid.beatsPerBar)}
            width={40}
            onEnter={(typed) => {
              const n = parseAmount(typed, { least: 1, most: LONGEST_BAR, whole: true });
              if (typeof n === 'string') return n;
              setBar(n);
              return true;
            }}
            onStep={(by) => setBar(Math.min(LONGEST_BAR, Math.max(1, grid.beatsPerBar + by)))}
          />
        </Line>
        <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', mt: 0.5 }}>
          <Small onPress={() => set('half the tempo', halved(grid))}>Half</Small>
          <Small disabled={!canDouble(grid)} onPress={() => set('double the tempo', doubled(grid))}>
            Double
          </Small>
          <Small
            onPress={() => {
              const place = chosen ?? nearestBeat(grid, playing.now())?.place;
              if (place !== undefined) set('begin the bars here', barAt(grid, place));
            }}
          >
            Bars begin {chosen === null ? 'at the playhead' : `at beat ${placeOf(grid, chosen).beat + 1}`}
          </Small>
          <Small
            onPress={() => {
              const id = openProjectId();
              if (id !== undefined) void findBeats(song, id);
            }}
          >
            Find again
          </Small>
          {song.second && (
            <Small onPress={() => act('hear the beats the other way', takeSecond)}>
              Second guess: {differenceOf(song.second, grid)}
            </Small>
          )}
        </Box>
        {song.likely !== null && grid.beats.length > 0 && (
          <Box sx={{ color: colors.quiet, fontSize: 12.5, mt: 0.75 }} data-testid="likely">
            Beats{song.likely >= 0.6 ? '' : ', a guess'}: {percent(song.likely)} sure.
            {song.barsLikely !== null && ` ${barsWords(song.barsLikely)}`}
          </Box>
        )}
      </Card>
      <AccentCard song={song} chosen={accent} />
      <EnvelopeCard song={song} />
      <TapCard song={song} playing={playing} />
      <Card title="Files">
        <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap' }}>
          <FileButton
            size="small"
            color="inherit"
            sx={{ minWidth: 0, py: 0 }}
            label="Read a MIDI file or markers"
            accept=".mid,.midi,.csv,.txt"
            onFile={(file) => void readFile(file)}
          >
            Read MIDI or markers
          </FileButton>
          <Small
            onPress={() =>
              download(
                new Blob([writeMarkers(grid)], { type: 'text/csv' }),
                `${fileName(song.name)}-beats.csv`,
              )
            }
          >
            Save markers
          </Small>
        </Box>
      </Card>
    </Box>
  );
}
