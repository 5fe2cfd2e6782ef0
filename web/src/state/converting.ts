import { type Notice, failure } from '@skipback/core/notice';
import { askConverter, convertFile } from '@skipback/media/import/convert-client';
import { Said } from '@skipback/media/worker-client';

/** Films by the endings of their names: what else cannot be read is none. */
const FILMS = /\.(mov|mp4|m4v|mkv|avi|mxf|mpe?g|vob|m2v|m2ts|mts|ts|wmv|asf|flv|webm|3gp|dv|gxf|ogv)$/i;

/** How far a conversion is, and how it is ended. */
export interface Converting {
  readonly words: string;
  cancel(): void;
}

/** Whether a file that was refused may become readable by converting it. */
export const mayConvert = (file: File, { code }: Notice): boolean =>
  code === 'codec' || (code === 'not-media' && FILMS.test(file.name));

const WORDS: Record<string, string> = { receiving: 'sending it to the server', sending: 'fetching it back' };

/**
 * Has a file that this browser cannot decode converted by the local server; gives the file, or the notice that says why not and
 * what would help.
 */
export async function convertRefused(
  file: File,
  refused: Notice,
  tell: (converting: Converting | undefined) => void,
): Promise<{ readonly file: File; readonly changes: readonly string[] } | Notice> {
  const converter = await askConverter();
  if (!converter?.available)
    return {
      ...refused,
      wayOut: converter
        ? `Install ffmpeg on this machine (on Debian: apt install ffmpeg) and import it again: it is converted then. Or ${lowered(refused.wayOut)}`
        : (refused.wayOut ?? ''),
    };
  const abort = new AbortController();
  const cancel = () => abort.abort();
  const said = (words: string) => tell({ words: `Converting ${file.name}: ${words}`, cancel });
  said('sending it to the server');
  try {
    return await convertFile(file, converter, abort.signal, (phase, doneS, lengthS) =>
      said(
        WORDS[phase] ??
          (lengthS > 0
            ? `${Math.min(99, Math.floor((100 * doneS) / lengthS))} %`
            : `${doneS.toFixed(1)} s done`),
      ),
    );
  } catch (problem) {
    const sentence = problem instanceof Said ? problem.sentence : `${file.name} could not be converted.`;
    return failure('converted', sentence, refused.wayOut);
  } finally {
    tell(undefined);
  }
}

const lowered = (text = ''): string => text.charAt(0).toLowerCase() + text.slice(1);
