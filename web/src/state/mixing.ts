import { durationOf, frameCount, meanRateHz } from '@skipback/core/clip/frame-table';
import type { TimePath } from '@skipback/core/path/path';
import { seconds } from '@skipback/core/time/units';
import { type LaidSound, type LooksSound, heardIn } from '@skipback/core/looks/heard';
import { type CompiledProject, projectMusic } from '@skipback/core/project/compile';
import type { Clip, Placed, Project } from '@skipback/core/project/schema';
import { ownSounds, placedAt } from '@skipback/core/project/sound-actions';
import { toNumber } from '@skipback/core/time/rational';
import type { Stereo } from '@skipback/core/sound/stereo';
import type { MixRequest } from '@skipback/media/sound/messages';
import { soundClient } from '@skipback/media/sound/sound-client';
import { sentenceOf } from '@skipback/media/worker-client';
import { create } from 'zustand';
import { loadClipSound } from './clip-sound';
import type { ClipState, LoadedClip } from './library';
import { loadSound } from './song';

/** What looks of a result let be heard. */
const soundOfLooks = (project: Project, compiled: CompiledProject): LooksSound =>
  heardIn(compiled, project.looks, projectMusic(project));

/** Whether a project is heard at all. */
export function isHeard(project: Project, compiled: CompiledProject): boolean {
  const { song, clipSound, made, placed } = project;
  if (song !== null || clipSound.on || Object.values(made).some((m) => m.on) || placed.some((p) => p.on))
    return true;
  const { laid, along } = soundOfLooks(project, compiled);
  return laid.length > 0 || along.length > 0;
}

/** A whole number that goes with an id: the same sound each time. */
const seedOf = (id: string): number =>
  [...id].reduce((sum, c) => (sum * 31 + c.charCodeAt(0)) % 1_000_003, 7);

/** Media of clips found to have no sound, or none that can be decoded: they are not asked again. */
export const useSilentMedia = create<{ readonly ids: ReadonlySet<string> }>(() => ({ ids: new Set() }));

/** Clips up to this long are heard whole; of longer ones only what is played is decoded, seconds. */
const WHOLE_S = 600;
/** What is decoded of a long clip begins and ends on such a grid, so that small changes of a span need nothing new. */
const GRID_S = 20;

/** The sound of a clip that is heard: under which id, and from which second after its first picture on. */
interface HeardSound {
  readonly soundId: string;
  readonly fromS: number;
}

/** How many seconds of a clip's file pass in a second of its table: other than 1 where it is read at another rate. */
function paceOf({ readAt: read }: Clip, state: ClipState | undefined): number {
  const own = state?.loaded?.record.facts.table;
  return read && own && frameCount(own) > 0 ? toNumber(read) / meanRateHz(own) : 1;
}

/** A sound that could not be had, and what is said of it where something is made that should have it. */
type Lack = (name: string, problem?: unknown) => void;

/** Loads the sounds of the clips that play, by clip; those without one are left out. */
async function clipSounds(
  compiled: CompiledProject,
  clips: readonly ClipState[],
  lack: Lack,
): Promise<ReadonlyMap<string, HeardSound>> {
  const heard = new Map<string, HeardSound>();
  for (const state of clips) {
    const { clip, loaded } = state;
    const pieces = compiled.pieces.map((p) => p.compiled).filter((p) => p.clip.id === clip.id);
    if (pieces.length === 0 || !loaded || isSilent(loaded, lack)) continue;
    const long = durationOf(loaded.record.facts.table) > WHOLE_S;
    const instants = pieces.flatMap((p) =>
      p.path.segments.flatMap((s) => [s.from * paceOf(clip, state), s.to * paceOf(clip, state)]),
    );
    const fromS = long ? GRID_S * Math.floor(Math.max(0, least(instants) - 1) / GRID_S) : 0;
    const range = long ? { fromS, toS: GRID_S * Math.ceil((most(instants) + 1) / GRID_S) } : undefined;
    try {
      heard.set(clip.id, { soundId: await loadClipSound(loaded, range), fromS });
    } catch (problem) {
      noSound(loaded, problem, lack);
    }
  }
  return heard;
}

/** Loads the sounds of clips that looks bring in, by clip; those without one, or too long to be heard whole, are left out. */
async function broughtSounds(
  ids: ReadonlySet<string>,
  clips: readonly ClipState[],
  lack: Lack,
): Promise<ReadonlyMap<string, string>> {
  const heard = new Map<string, string>();
  for (const { clip, loaded } of clips) {
    if (!ids.has(clip.id) || !loaded || isSilent(loaded, lack)) continue;
    if (durationOf(loaded.record.facts.table) > WHOLE_S) continue;
    try {
      heard.set(clip.id, await loadClipSound(loaded));
    } catch (problem) {
      noSound(loaded, problem, lack);
    }
  }
  return heard;
}

/** Whether a clip was found to have no sound, or none that can be decoded. */
function isSilent({ clip, record }: LoadedClip, lack: Lack): boolean {
  const silent = useSilentMedia.getState().ids.has(clip.mediaId);
  if (silent && record.facts.hasSound) lack(clip.name);
  return silent;
}

/** A clip's sound is not there: it has none, which is remembered, or it could not be had this time. */
function noSound({ clip, record }: LoadedClip, problem: unknown, lack: Lack): void {
  useSilentMedia.setState(({ ids }) => ({ ids: new Set([...ids, clip.mediaId]) }));
  if (record.facts.hasSound) lack(clip.name, problem);
}

/** Loads the user's sounds that are heard; those whose files are not there any more are left out. */
async function ownSoundsOf(placed: readonly Placed[], lack: Lack): Promise<ReadonlySet<string>> {
  const there = new Set<string>();
  for (const { mediaId, name } of ownSounds({ placed: [...placed] }))
    if (await loadSound(mediaId, name).catch(() => null)) there.add(mediaId);
    else lack(name);
  return there;
}

/** What a look brings in, in seconds of the clip's file. */
const atPace = (laid: LaidSound, pace: number): LaidSound =>
  pace === 1
    ? laid
    : {
        ...laid,
        instants: laid.instants.map((s) => s * pace),
        repeatsS: laid.repeatsS === undefined ? undefined : laid.repeatsS * pace,
      };

const least = (values: readonly number[]): number => values.reduce((a, b) => Math.min(a, b), Infinity);
const most = (values: readonly number[]): number => values.reduce((a, b) => Math.max(a, b), -Infinity);

/** A path as its sound needs it: its source counted from a later instant, without what made it. */
const countedFrom = (path: TimePath, startS: number): TimePath => ({
  rate: path.rate,
  segments: path.segments.map((s) => ({
    ...s,
    maker: undefined,
    from: seconds(s.from - startS),
    to: seconds(s.to - startS),
  })),
});

/** What to say of a mix that failed. */
export const mixSentence = (problem: unknown): string =>
  `The sound could not be made: ${sentenceOf(problem, 'a sound could not be read.')}`;

/**
 * The sound of the whole result: the song, the clips' own sound along their paths, the made sounds. What should be in it
 * and could not be had is added to `lacks`, in sentences.
 */
export async function mixOf(
  project: Project,
  compiled: CompiledProject,
  clips: readonly ClipState[],
  lacks: Set<string> = new Set(),
): Promise<Stereo | undefined> {
  if (!isHeard(project, compiled) || compiled.totalFrames === 0) return undefined;
  const lack: Lack = (name, problem) =>
    lacks.add(
      `The sound of ${name} is not in it.${problem === undefined ? '' : ` ${sentenceOf(problem, '')}`}`.trim(),
    );
  const { song, clipSound, made, placed, rate } = project;
  const songIsThere = song !== null && (await loadSound(song.mediaId, song.name).catch(() => null)) !== null;
  if (song !== null && !songIsThere) lack(song.name);
  const heard = clipSound.on ? await clipSounds(compiled, clips, lack) : undefined;
  const ofLooks = soundOfLooks(project, compiled);
  const broughtIn = await broughtSounds(new Set(ofLooks.laid.map((l) => l.clip)), clips, lack);
  const heardByHand = placed.filter((p) => p.on);
  const own = await ownSoundsOf(heardByHand, lack);
  const request: MixRequest = {
    totalFrames: compiled.totalFrames,
    rate,
    song: songIsThere
      ? {
          soundId: song.mediaId,
          place: { startFrame: song.startFrame, fromS: song.fromS },
          gainDb: song.gainDb,
        }
      : undefined,
    pieces: compiled.pieces.map(({ startFrame, compiled: p }) => {
      const clipPace = paceOf(
        p.clip,
        clips.find((c) => c.clip.id === p.clip.id),
      );
      const own = heard?.get(p.clip.id);
      return {
        startFrame,
        path: countedFrom(p.path, (own?.fromS ?? 0) / clipPace),
        soundId: own?.soundId,
        clipPace,
      };
    }),
    clipGainDb: clipSound.gainDb,
    keepsPitch: clipSound.pitch === 'keeps',
    holds: clipSound.holds,
    made: Object.fromEntries(
      Object.entries(made).flatMap(([kind, { on, gainDb }]) => (on ? [[kind, gainDb]] : [])),
    ),
    placed: heardByHand.flatMap((p): MixRequest['placed'] => {
      const at = { atFrame: placedAt(project, p), frames: p.frames, gainDb: p.gainDb };
      if (p.kind !== 'own') return [{ ...at, kind: p.kind, seed: seedOf(p.id) }];
      const { mediaId, fromS, backward } = p.own;
      return own.has(mediaId) ? [{ ...at, kind: 'own', soundId: mediaId, fromS, backward }] : [];
    }),
    laid: ofLooks.laid.flatMap((laid) => {
      const soundId = broughtIn.get(laid.clip);
      if (soundId === undefined) return [];
      const state = clips.find((c) => c.clip.id === laid.clip)!;
      return [{ laid: atPace(laid, paceOf(state.clip, state)), soundId }];
    }),
    // Where the path makes it by itself it is heard once.
    along: ofLooks.along.filter(({ kind }) => !made[kind].on),
  };
  return soundClient.mix(request);
}
