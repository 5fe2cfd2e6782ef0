import { type Notice, failure, warning } from '@skipback/core/notice';
import type { OwnSound } from '@skipback/core/project/schema';
import { placeSound } from '@skipback/core/project/sound-actions';
import { toNumber } from '@skipback/core/time/rational';
import type { SoundFacts } from '@skipback/media/sound/messages';
import { soundClient } from '@skipback/media/sound/sound-client';
import { sentenceOf } from '@skipback/media/worker-client';
import { useQuery } from '@tanstack/react-query';
import { freshId } from './ids';
import { usePlaying } from './playing';
import { landed } from './act-in';
import { type JobHand, Stopped } from './jobs';
import { loadSound, storeSong } from './song';

/** Frames a placed sound lasts at most, as its schema has it. */
const LONGEST = 100_000;

/** Places a sound of the user's in a project, whole, from result frame `at` on. */
export function placeOwn(projectId: string, own: OwnSound, at: number): Promise<Notice | undefined> {
  return landed(projectId, own.name, `place ${own.name}`, (p) => {
    const whole = Math.ceil((own.lengthS - own.fromS) * toNumber(p.rate));
    const frames = Math.min(LONGEST, Math.max(1, whole));
    return placeSound(p, { id: freshId(), kind: 'own', own, frames }, at);
  });
}

/** Brings a sound file into a project and places it at the playhead as it is now. Gives what is to be said of it, if anything is. */
export async function bringOwnSound(
  file: File,
  projectId: string,
  job?: JobHand,
): Promise<Notice | undefined> {
  const { position } = usePlaying.getState();
  try {
    const whole = <T>(work: Promise<T>) => job?.part(work) ?? work;
    const { id, kept } = await whole(storeSong(file));
    const { lengthS } = await whole(soundClient.load(id, file, file.name));
    const own = { mediaId: id, name: file.name.slice(0, 200), lengthS, fromS: 0, backward: false };
    const lost = await placeOwn(projectId, own, position);
    if (lost || kept) return lost;
    return warning(
      'not-kept',
      `The browser would not keep ${file.name}: its storage is full or switched off.`,
      'It works until this page closes. Save the project as a file to keep it.',
    );
  } catch (error) {
    if (error instanceof Stopped) throw error;
    return failure('sound', sentenceOf(error, `${file.name} could not be read. Try it again.`));
  }
}

/** A sound of the user's, loaded; null when its file is not there any more, undefined while it is read. */
export function useOwnSound({ mediaId, name }: OwnSound): SoundFacts | null | undefined {
  return useQuery({ queryKey: ['sound', mediaId], queryFn: () => loadSound(mediaId, name) }).data;
}
