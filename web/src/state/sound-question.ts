import type { Notice } from '@skipback/core/notice';
import { create } from 'zustand';
import { projectNow } from './act-in';
import { bringOwnSound } from './own-sounds';
import type { JobHand } from './jobs';
import { importSong } from './song';

/** What a sound that is brought in is to be, where the project has a song. */
type Use = 'song' | 'placed' | 'nothing';

interface Question {
  readonly name: string;
  readonly projectId: string;
  /** The song there is. */
  readonly song: string;
  answer(use: Use): void;
}

/** The question that is asked, if one is: one after the other. */
export const useSoundQuestion = create<{ readonly question: Question | undefined }>(() => ({
  question: undefined,
}));

let asking: Promise<unknown> = Promise.resolve();

function ask(name: string, projectId: string, song: string): Promise<Use> {
  const answered = asking.then(
    () =>
      new Promise<Use>((resolve) => {
        const answer = (use: Use) => {
          useSoundQuestion.setState({ question: undefined });
          resolve(use);
        };
        useSoundQuestion.setState({ question: { name, projectId, song, answer } });
      }),
  );
  asking = answered;
  return answered;
}

/** Brings a sound into a project: the first as its song; where there is a song, what it is to be is asked. */
export async function importSound(file: File, projectId: string, job: JobHand): Promise<Notice | undefined> {
  const song = (await projectNow(projectId))?.song;
  const use = song ? await ask(file.name, projectId, song.name) : 'song';
  if (use === 'song') return importSong(file, projectId, job);
  return use === 'placed' ? bringOwnSound(file, projectId, job) : undefined;
}
