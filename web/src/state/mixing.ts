import { frameCount, meanRateHz } from '@skipback/core/clip/frame-table';
import type { CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { toNumber } from '@skipback/core/time/rational';
import type { Stereo } from '@skipback/core/sound/stereo';
import type { MixRequest } from '@skipback/media/sound/messages';
import { soundClient } from '@skipback/media/sound/sound-client';
import type { ClipState } from './library';
import { loadSound } from './song';

/** Whether a project is heard at all. */
export const isHeard = (project: Project): boolean =>
  project.song !== null || project.clipSound.on || project.clipSound.made;

/** Clips found to have no sound: they are not asked again. */
const mute = new Set<string>();

async function clipSounds(compiled: CompiledProject, clips: readonly ClipState[]): Promise<void> {
  const used = new Set(compiled.pieces.map((p) => p.compiled.clip.id));
  for (const { clip, loaded } of clips) {
    if (!used.has(clip.id) || !loaded || mute.has(clip.mediaId)) continue;
    try {
      await soundClient.load(clip.mediaId, loaded.source.file, clip.name);
    } catch {
      mute.add(clip.mediaId);
    }
  }
}

/** The sound of the whole result: the song, the clips' own sound along their paths, the made sounds. */
export async function mixOf(
  project: Project,
  compiled: CompiledProject,
  clips: readonly ClipState[],
): Promise<Stereo | undefined> {
  if (!isHeard(project) || compiled.totalFrames === 0) return undefined;
  const { song, clipSound, rate } = project;
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
    madeGainDb: clipSound.made ? clipSound.madeDb : undefined,
  };
  return soundClient.mix(request);
}
