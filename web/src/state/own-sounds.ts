import { type Notice, failure, warning } from '@skipback/core/notice';
import type { OwnSound } from '@skipback/core/project/schema';
import { placeSound } from '@skipback/core/project/sound-actions';
import { toNumber } from '@skipback/core/time/rational';
import type { SoundFacts } from '@skipback/media/sound/messages';
import { soundClient } from '@skipback/media/sound/sound-client';
import { sentenceOf } from '@skipback/media/worker-client';
import { useQuery } from '@tanstack/react-query';
import { freshId } from './ids';
import { usePlayback } from './playback';
import { act, useProjectStore } from './project-store';
import { loadSound, storeSong } from './song';

/** Frames a placed sound lasts at most, as its schema has it. */
const LONGEST = 100_000;

/** Places a sound of the user's at the playhead, whole. */
export function placeOwn(own: OwnSound): void {
  const project = useProjectStore.getState().project;
  if (!project) return;
  const whole = Math.ceil((own.lengthS - own.fromS) * toNumber(project.rate));
  const frames = Math.min(LONGEST, Math.max(1, whole));
  const { position } = usePlayback.getState();
  act(`place ${own.name}`, (p) => placeSound(p, { id: freshId(), kind: 'own', own, frames }, position));
}

/** Brings a sound file into the open project and places it at the playhead. Gives what is to be said of it, if anything is. */
export async function bringOwnSound(file: File): Promise<Notice | undefined> {
  try {
    const { id, kept } = await storeSong(file);
    const { lengthS } = await soundClient.load(id, file, file.name);
    placeOwn({ mediaId: id, name: file.name.slice(0, 200), lengthS, fromS: 0, backward: false });
    if (kept) return undefined;
    return warning(
      'not-kept',
      `The browser would not keep ${file.name}: its storage is full or switched off.`,
      'It works until this page closes. Save the project as a file to keep it.',
    );
  } catch (error) {
    return failure('sound', sentenceOf(error, `${file.name} could not be read. Try it again.`));
  }
}

/** A sound of the user's, loaded; null when its file is not there any more, undefined while it is read. */
export function useOwnSound({ mediaId, name }: OwnSound): SoundFacts | null | undefined {
  return useQuery({ queryKey: ['sound', mediaId], queryFn: () => loadSound(mediaId, name) }).data;
}
