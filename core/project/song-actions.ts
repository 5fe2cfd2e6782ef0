import { produce } from 'immer';
import { type Accents, foundAgain } from '../beats/accent-edits';
import type { Envelope } from '../beats/envelope';
import type { Accent, Band, BeatGrid } from '../beats/grid';
import type { ClipSound, Placed, Project, Song } from './schema';

/** Puts a song under the result in place of the one before, beginning at the first frame. */
export function setSong(project: Project, song: Song): Project {
  return { ...project, song };
}

/** Takes the song out. Sounds that went with it stay where they are heard. */
export function removeSong(project: Project): Project {
  const { song } = project;
  if (!song) return project;
  const placed = project.placed.map((s): Placed =>
    s.with === 'song' ? { ...s, with: 'result', at: s.at + song.startFrame } : s,
  );
  return { ...project, song: null, placed };
}

const change = (project: Project, recipe: (song: Song) => void): Project =>
  project.song
    ? produce(project, (d) => {
        recipe(d.song!);
      })
    : project;

/** Slides the song to another result frame. */
export function slideSong(project: Project, startFrame: number): Project {
  return change(project, (s) => void (s.startFrame = Math.round(startFrame)));
}

/** Uses the song from another instant of it on. */
export function trimSong(project: Project, fromS: number): Project {
  return change(project, (s) => void (s.fromS = Math.min(s.lengthS, Math.max(0, fromS))));
}

export function setSongGain(project: Project, gainDb: number): Project {
  return change(project, (s) => void (s.gainDb = Math.min(12, Math.max(-60, gainDb))));
}

/** Takes another grid, and the accents with it where they are given. */
export function setGrid(project: Project, grid: BeatGrid, accents?: readonly Accent[]): Project {
  return change(project, (s) => {
    s.grid = grid;
    // What was found says nothing of beats that were set.
    [s.likely, s.barsLikely] = [null, null];
    if (accents) s.accents = [...accents];
  });
}

/** Takes what was found in a song: its beats and bars, how likely they are, the next likely beats, its accents. */
export function takeFound(
  project: Project,
  found: {
    readonly grid: BeatGrid;
    readonly accents: readonly Accent[];
    readonly likely: number;
    readonly barsLikely: number;
    readonly second: BeatGrid | undefined;
  },
): Project {
  return change(project, (s) => {
    s.grid = found.grid;
    s.accents = foundAgain(s, found.accents);
    s.likely = found.likely;
    s.barsLikely = found.barsLikely;
    s.second = found.second ?? null;
  });
}

/** Takes the next likely way to hear the beats; the one before is the next likely from then on. */
export function takeSecond(project: Project): Project {
  return change(project, (s) => {
    if (!s.second) return;
    [s.grid, s.second] = [s.second, s.grid];
    [s.likely, s.barsLikely] = [null, null];
  });
}

/** A change by hand of the song's accents. */
export function changeAccents(project: Project, edit: (accents: Accents) => Accents): Project {
  const { song } = project;
  if (!song) return project;
  const next = edit(song);
  return next.accents === song.accents
    ? project
    : { ...project, song: { ...song, accents: [...next.accents], accentsGone: [...next.accentsGone] } };
}

/** Gives the accents of a band another shape. */
export function setEnvelope(project: Project, band: Band, values: Partial<Envelope>): Project {
  return change(project, (s) => void Object.assign(s.envelopes[band], values));
}

export function setClipSound(project: Project, sound: Partial<ClipSound>): Project {
  return { ...project, clipSound: { ...project.clipSound, ...sound } };
}
