import { frameCount } from '@skipback/core/clip/frame-table';
import { addTrack, setFollowed, trackOf } from '@skipback/core/project/track-actions';
import { type Track, type TrackKind, type TrackValues, waysFrom } from '@skipback/core/tracks/track';
import { Following } from '@skipback/media/tracks/follow-client';
import type { FollowReply } from '@skipback/media/tracks/messages';
import type { Project } from '@skipback/core/project/schema';
import type { Say } from '../picture/say';
import { freshId } from './ids';
import type { LoadedClip } from './library';
import { editOnPicture, useOnPicture } from './on-picture';
import { actIn, openProjectId } from './act-in';
import { beginJob } from './jobs';
import { act, useProjectStore } from './project-store';

/** Found places kept for drawing while it goes on. */
const MOST_SHOWN = 2000;

let running: Following | undefined;

/**
 * Follows a track from its key at a frame, both ways, as far as the keys next to it. Another one under way is stopped
 * first, with what it found.
 */
export function follow(loaded: LoadedClip, track: Track, frame: number, say: Say): void {
  stopFollowing();
  const clipId = loaded.clip.id;
  const { sides } = waysFrom(track, frame, frameCount(loaded.record.facts.table));
  if (sides.length === 0) return;
  const projectId = openProjectId();
  if (projectId === undefined) return;
  const job = beginJob({ projectId, kind: 'follow', name: track.name, words: `Tracking ${track.name}` });
  job.signal.addEventListener('abort', () => mine.cancel());
  useOnPicture.setState({ underWay: { clipId, trackId: track.id, done: 0, total: 0, found: [] } });
  const { kind, width, height } = track;
  const clip = loaded.source;
  const mine = (running = new Following({ clip, kind, width, height, sides }, (reply) => {
    if (running !== mine && reply.kind === 'progress') return;
    hear(reply);
  }));

  function hear(reply: FollowReply): void {
    if (reply.kind === 'progress') {
      const { done, total } = reply;
      job.tell({ share: done / Math.max(1, total) });
      const before = useOnPicture.getState().underWay;
      if (before?.trackId !== track.id) return;
      const found = [...before.found, ...reply.found].slice(-MOST_SHOWN);
      return useOnPicture.setState({ underWay: { ...before, done, total, found } });
    }
    if (running === mine) {
      running = undefined;
      useOnPicture.setState({ underWay: null });
    }
    job.end();
    if (reply.kind === 'failed') return say(reply.sentence, true);
    if (reply.kind === 'nothing')
      return say(
        'There is nothing to hold on to here: too even, or too dark. Choose a place with corners, or a larger box; keys by hand work anywhere.',
        true,
      );
    // Its project may be closed by then: it lands there all the same.
    void actIn(projectId!, `track ${track.name}`, (p) =>
      reply.stretches.reduce((q, s) => setFollowed(q, clipId, track.id, s.from, s.places), p),
    );
    const places = reply.stretches.flatMap((s) => s.places);
    const lost = places.filter((p) => !p).length;
    const perS = Math.round((1000 * reply.frames) / Math.max(1, reply.elapsedMs));
    say(
      `${track.name}: tracked over ${places.length - lost} frames${lost > 0 ? `, lost in ${lost}` : ''}${reply.cut ? ', stopped' : ''} (${perS} a second)`,
    );
  }
}

/** Stops what is under way; what it found stays. */
export function stopFollowing(): void {
  running?.cancel();
}

const WORDS: Record<TrackKind, string> = { point: 'point', points: 'two points', box: 'box' };

/** A new track of a clip that begins at a frame, and is followed from there. */
export function beginTrack(
  loaded: LoadedClip,
  kind: TrackKind,
  frame: number,
  values: TrackValues,
  size: { width: number; height: number },
  say: Say,
  also?: (project: Project, track: Track) => Project,
): void {
  const { project } = useProjectStore.getState();
  const clip = project?.clips.find((c) => c.id === loaded.clip.id);
  if (!clip) return;
  const taken = new Set(clip.tracks.map((t) => t.name));
  let n = 1;
  while (taken.has(`${WORDS[kind]} ${n}`)) n++;
  const track: Track = {
    id: freshId(),
    name: `${WORDS[kind]} ${n}`,
    kind,
    ...size,
    keys: [{ frame, ease: 'even', values: [...values] }],
    runs: [],
  };
  act(`track a new ${WORDS[kind]}`, (p) => {
    const tracked = addTrack(p, clip.id, track);
    return also ? also(tracked, track) : tracked;
  });
  editOnPicture({ kind: 'track', clipId: clip.id, trackId: track.id });
  follow(loaded, track, frame, say);
}

/** Follows again from a corrected place, where the track was followed before. */
export function followOn(loaded: LoadedClip, trackId: string, frame: number, say: Say): void {
  const { project } = useProjectStore.getState();
  const track = project && trackOf(project, loaded.clip.id, trackId);
  if (track && track.runs.length > 0) follow(loaded, track, frame, say);
}
