import { produce } from 'immer';
import {
  MOST_TRACKS,
  type Place,
  type Track,
  type TrackKey,
  TrackSchema,
  withFollowed,
} from '../tracks/track';
import type { Clip, Project } from './schema';

/** Every change a person can make to what is followed through a clip. Each returns a new project, or the same where nothing changes. */
const change = (project: Project, clipId: string, recipe: (clip: Clip) => void): Project =>
  produce(project, (d) => {
    const clip = d.clips.find((c) => c.id === clipId);
    if (clip) recipe(clip);
  });

const replace = (project: Project, clipId: string, trackId: string, by: (track: Track) => Track): Project => {
  const track = trackOf(project, clipId, trackId);
  const next = track && TrackSchema.safeParse(by(track));
  if (!next?.success) return project;
  return change(project, clipId, (c) => {
    c.tracks = c.tracks.map((t) => (t.id === trackId ? next.data : t));
  });
};

export const trackOf = (project: Project, clipId: string, trackId: string): Track | undefined =>
  project.clips.find((c) => c.id === clipId)?.tracks.find((t) => t.id === trackId);

export function addTrack(project: Project, clipId: string, track: Track): Project {
  const made = TrackSchema.safeParse(track);
  if (!made.success) return project;
  return change(project, clipId, (c) => {
    if (c.tracks.length < MOST_TRACKS && !c.tracks.some((t) => t.id === track.id)) c.tracks.push(made.data);
  });
}

export const renameTrack = (project: Project, clipId: string, trackId: string, name: string): Project =>
  replace(project, clipId, trackId, (t) => ({ ...t, name }));

/** Takes a track away. What used it keeps its name and says that it is gone. */
export const removeTrack = (project: Project, clipId: string, trackId: string): Project =>
  change(project, clipId, (c) => void (c.tracks = c.tracks.filter((t) => t.id !== trackId)));

/** Sets where a track is at a frame, by hand; the ease of a key that is there stays unless another is given. */
export const setTrackKey = (
  project: Project,
  clipId: string,
  trackId: string,
  key: Omit<TrackKey, 'ease'> & Partial<Pick<TrackKey, 'ease'>>,
): Project =>
  replace(project, clipId, trackId, (t) => {
    const known = t.keys.find((k) => k.frame === key.frame);
    const keys = [
      ...t.keys.filter((k) => k !== known),
      { ...key, ease: key.ease ?? known?.ease ?? 'even' },
    ].sort((a, b) => a.frame - b.frame);
    return { ...t, keys };
  });

/** Takes a key away; the last one stays. */
export const removeTrackKey = (project: Project, clipId: string, trackId: string, frame: number): Project =>
  replace(project, clipId, trackId, (t) =>
    t.keys.length > 1 ? { ...t, keys: t.keys.filter((k) => k.frame !== frame) } : t,
  );

/** Puts in what was followed over frames from `from` on. */
export const setFollowed = (
  project: Project,
  clipId: string,
  trackId: string,
  from: number,
  places: readonly Place[],
): Project => replace(project, clipId, trackId, (t) => withFollowed(t, from, places));

/** Only what was set by hand stays. */
export const forgetFollowed = (project: Project, clipId: string, trackId: string): Project =>
  replace(project, clipId, trackId, (t) => ({ ...t, runs: [] }));

/** What in a project goes by a track, in words. */
export function usesOf(project: Project, clipId: string, trackId: string): string[] {
  return project.pieces.flatMap((piece, i) => {
    if (piece.clipId !== clipId) return [];
    const steady = piece.steady?.track === trackId ? [`how piece ${i + 1} is held`] : [];
    const looks = piece.looks.filter((l) => l.region?.carried?.track === trackId);
    return [...steady, ...looks.map(() => `a region of piece ${i + 1}`)];
  });
}
