import { readEdl } from '@skipback/core/cutlist/read-edl';
import { readOtio } from '@skipback/core/cutlist/read-otio';
import { piecesFrom } from '@skipback/core/cutlist/to-pieces';
import { type Notice, failure, warning } from '@skipback/core/notice';
import { addPiece } from '@skipback/core/project/actions';
import { database } from '@skipback/media/storage/database';
import { freshId } from './ids';
import { landed, projectNow } from './act-in';

/** Whether a file is a cut list, by its ending. */
export const isCutList = (file: File): boolean => /\.(edl|otio)$/i.test(file.name);

/** Reads a cut list into pieces of a project's clips, as one change. Says what could not be used. */
export async function importCutList(file: File, projectId: string): Promise<Notice | undefined> {
  const project = await projectNow(projectId);
  if (!project) return undefined;
  const text = await file.text();
  const read = /\.edl$/i.test(file.name) ? readEdl(text, project.rate) : readOtio(text, project.rate);
  if (!read.ok)
    return failure(
      'cut-list',
      `${file.name}: ${read.sentence}`,
      'Save it again from the program it came from.',
    );
  const records = await database.media.bulkGet(project.clips.map((c) => c.mediaId)).catch(() => []);
  const clips = project.clips.flatMap((clip, i) =>
    records[i] ? [{ clip, table: records[i].facts.table }] : [],
  );
  const { pieces, missing, said } = piecesFrom(read.events, clips, freshId, project.rate);
  const lost = await landed(projectId, file.name, `read ${file.name}`, (p) => pieces.reduce(addPiece, p));
  if (lost) return lost;
  const sentences = [
    ...(missing.length > 0
      ? [`It uses clips that are not here: ${missing.join(', ')}. Their events were left out.`]
      : []),
    ...said,
    ...read.said,
  ];
  if (sentences.length === 0) return undefined;
  return warning(
    'cut-list-said',
    `${file.name}: ${sentences.join(' ')}`,
    missing.length > 0 ? 'Import those clips, undo, and read the list again.' : undefined,
  );
}
