import { z } from 'zod';
import { mendProject } from './mend';
import { withWhatIsNotKnown } from './not-known';
import { PROJECT_VERSION, type Project, ProjectSchema, inTodaysWords } from './schema';

export type ReadProject =
  | {
      readonly ok: true;
      readonly project: Project;
      /** Says what could not be read and was left out; undefined where all of it could. */
      readonly lost: string | undefined;
    }
  | { readonly ok: false; readonly sentence: string };

/** A project read from outside, as far as it can be read; or the sentence that says why not. */
export function readProject(data: unknown): ReadProject {
  const head = z.object({ format: z.string(), version: z.number() }).safeParse(data);
  if (!head.success || head.data.format !== 'skip-back-project')
    return { ok: false, sentence: 'This is not a Skip Back project.' };
  if (head.data.version > PROJECT_VERSION)
    return {
      ok: false,
      sentence: `This project was saved by a newer version (${head.data.version}); this one reads up to ${PROJECT_VERSION}.`,
    };
  const today = inTodaysWords(data);
  const parsed = ProjectSchema.safeParse(today);
  if (parsed.success) return { ok: true, project: withWhatIsNotKnown(parsed.data, today), lost: undefined };
  const mended = mendProject(today);
  if (!mended) {
    const place = parsed.error.issues[0]?.path.join(' › ') ?? '';
    return { ok: false, sentence: `The project is damaged at "${place}", and nothing of it can be read.` };
  }
  return { ok: true, project: mended.project, lost: lostSentence(mended.left) };
}

/** What the parts of the document are called. */
const WORDS: Record<string, string> = {
  chain: 'move',
  clips: 'clip',
  pieces: 'piece',
  marks: 'mark',
  placed: 'placed sound',
  accents: 'accent',
  beats: 'beat',
  song: 'the song',
  made: 'the made sounds',
  clipSound: 'the sound of the clips',
  all: 'condition',
};

function lostSentence(left: readonly string[]): string {
  if (left.length === 0) return 'Some values were out of range and were brought back.';
  const counts = new Map<string, number>();
  for (const part of left) counts.set(part, (counts.get(part) ?? 0) + 1);
  const parts = [...counts].map(([part, count]) => {
    const [, value] = /^value (.*)$/.exec(part) ?? [];
    const words = WORDS[part] ?? (value === undefined ? `part of "${part}"` : `value of "${value}"`);
    return words.startsWith('the ') ? words : `${count} ${words}${count === 1 ? '' : 's'}`;
  });
  return `Parts of this project are damaged and were left out: ${parts.join(', ')}.`;
}
