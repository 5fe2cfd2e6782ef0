import { frameCount, meanRateHz } from '@skipback/core/clip/frame-table';
import type { CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { placedAt } from '@skipback/core/project/sound-actions';
import { toNumber } from '@skipback/core/time/rational';
import type { Stereo } from '@skipback/core/sound/stereo';
import type { MixRequest } from '@skipback/media/sound/messages';
import { soundClient } from '@skipback/media/sound/sound-client';
import { sentenceOf } from '@skipback/media/worker-client';
import { create } from 'zustand';
import type { ClipState } from './library';
import { loadSound } from './song';

/** Whether a project is heard at all. */
export const isHeard = (project: Project): boolean =>
  project.song !== null ||
  project.clipSound.on ||
  Object.values(project.made).some((m) => m.on) ||
  project.placed.some((p) => p.on);

/** A whole number that goes with an id: the same sound each time. */
const seedOf = (id: string): number =>
  [...id].reduce((sum, c) => (sum * 31 + c.charCodeAt(0)) % 1_000_003, 7);

/** Media of clips found to have no sound, or none that can be decoded: they are not asked again. */
export const useSilentMedia = create<{ readonly ids: ReadonlySet<string> }>(() => ({ ids: new Set() }));

async function clipSounds(compiled: CompiledProject, clips: readonly ClipState[]): Promise<void> {
  const used = new Set(compiled.pieces.map((p) => p.compiled.clip.id));
  for (const { clip, loaded } of clips) {
    if (!used.has(clip.id) || !loaded || useSilentMedia.getState().ids.has(clip.mediaId)) continue;
    try {
      await soundClient.load(clip.mediaId, loaded.source.file, clip.name);
    } catch {
      useSilentMedia.setState(({ ids }) => ({ ids: new Set([...ids, clip.mediaId]) }));
    }
  }
}

/** What to say of a mix that failed. */
export const mixSentence = (problem: unknown): string =>
  `The sound could not be made: ${sentenceOf(problem, 'a sound could not be read.')}`;

/** The sound of the whole result: the song, the clips' own sound along their paths, the made sounds. */
export async function mixOf(
  project: Project,
  compiled: CompiledProject,
  clips: readonly ClipState[],
): Promise<Stereo | undefined> {
  if (!isHeard(project) || compiled.totalFrames === 0) return undefined;
  const { song, clipSound, made, placed, rate } = project;
  const songIsThere = song !== null && (await loadSound(song.mediaId, song.name).catch(() => null)) !== null;
  if (clipSound.on) await clipSounds(compiled, clips);
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
      const own = clips.find((c) => c.clip.id === p.clip.id)?.loaded?.record.facts.table;
      const read = p.clip.readAt;
      return {
        startFrame,
        path: p.path,
        soundId: clipSound.on ? p.clip.mediaId : undefined,
        clipPace: read && own && frameCount(own) > 0 ? toNumber(read) / meanRateHz(own) : 1,
      };
    }),
    clipGainDb: clipSound.gainDb,
    keepsPitch: clipSound.pitch === 'keeps',
    holds: clipSound.holds,
    made: Object.fromEntries(
      Object.entries(made).flatMap(([kind, { on, gainDb }]) => (on ? [[kind, gainDb]] : [])),
    ),
    placed: placed
      .filter((p) => p.on)
      .map((p) => ({
        kind: p.kind,
        atFrame: placedAt(project, p),
        frames: p.frames,
        gainDb: p.gainDb,
        seed: seedOf(p.id),
      })),
  };
  return soundClient.mix(request);
}
