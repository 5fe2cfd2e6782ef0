import { z } from 'zod';
import { Said } from '../worker-client';

const StatusSchema = z.object({ available: z.boolean(), token: z.string(), mostBytes: z.number() });
const ProgressSchema = z.object({ phase: z.string(), doneS: z.number(), lengthS: z.number().default(0) });
const RefusalSchema = z.object({ sentence: z.string().max(400) });

/** What became of a film besides, by the server's words for it. */
const CHANGES: Record<string, string> = {
  interlaced: 'It was interlaced: its fields are made into whole frames.',
  bits: 'It had more than 8 bits a colour: 8 are left.',
};

/** How long it may take to say whether it converts, milliseconds. */
const ANSWERS_MS = 10_000;
/** How often the server is asked how far it is, milliseconds. */
const ASKS_MS = 500;
/** So many times in a row without an answer, and it counts as gone. */
const MOST_UNANSWERED = 60;

/** What the local server says of converting; undefined where there is none, or none of ours. */
export type Converter = z.infer<typeof StatusSchema>;

/** Asks the server whether it converts. */
export async function askConverter(): Promise<Converter | undefined> {
  const reply = await fetch('/convert', {
    headers: { accept: 'application/json' },
    signal: AbortSignal.timeout(ANSWERS_MS),
  }).catch(() => undefined);
  if (!reply?.ok) return undefined;
  const status = StatusSchema.safeParse(await reply.json().catch(() => undefined));
  return status.success ? status.data : undefined;
}

/**
 * Has a file converted by the local server into one that browsers decode, frame for frame; says what else became of it, in
 * sentences. `progress` hears how far it is, in a word and seconds of the film, of all it has (0 where that is not known).
 * Throws `Said`, also when `signal` aborts.
 */
export async function convertFile(
  file: File,
  { token, mostBytes }: Converter,
  signal: AbortSignal,
  progress: (phase: string, doneS: number, lengthS: number) => void,
): Promise<{ readonly file: File; readonly changes: readonly string[] }> {
  if (file.size > mostBytes)
    throw new Said(
      `${file.name} has more than ${Math.floor(mostBytes / 2 ** 30)} GB, the most that is converted at once. Cut it shorter.`,
    );
  const headers = { 'x-skip-back-token': token };
  const gone = new AbortController();
  const ends = AbortSignal.any([signal, gone.signal]);
  let unanswered = 0;
  const asking = setInterval(() => {
    if (++unanswered > MOST_UNANSWERED) gone.abort();
    void fetch('/convert/progress', { headers, signal: ends })
      .then((reply) => reply.json())
      .then((data) => {
        unanswered = 0;
        const told = ProgressSchema.safeParse(data);
        if (told.success) progress(told.data.phase, told.data.doneS, told.data.lengthS);
      })
      .catch(() => undefined);
  }, ASKS_MS);
  try {
    const reply = await fetch('/convert', {
      method: 'POST',
      body: file,
      headers: { ...headers, 'content-type': 'application/octet-stream' },
      signal: ends,
    });
    if (!reply.ok) {
      const refusal = RefusalSchema.safeParse(await reply.json().catch(() => undefined));
      throw new Said(`${file.name}: ${refusal.data?.sentence ?? 'the local server could not convert it.'}`);
    }
    const converted = await reply.blob();
    const words = (reply.headers.get('x-skip-back-changes') ?? '').split(' ');
    return {
      file: new File([converted], file.name, { type: converted.type }),
      changes: words.flatMap((word) => CHANGES[word] ?? []),
    };
  } catch (problem) {
    if (problem instanceof Said) throw problem;
    throw new Said(
      signal.aborted
        ? `${file.name} is not converted: it was cancelled.`
        : `${file.name}: the local server went away while it was converted. Start it again and import the file once more.`,
    );
  } finally {
    clearInterval(asking);
  }
}
