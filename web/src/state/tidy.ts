import { mediaIdsOf } from '@skipback/core/project/media';
import { database } from '@skipback/media/storage/database';
import {
  clearMotion,
  clearRenderScratch,
  keepQueuedFiles,
  keptMediaIds,
  removeMediaFile,
} from '@skipback/media/storage/media-files';
import { mediaOfRecord } from '@skipback/media/storage/project-records';
import { tidyBenches } from './kept-bench';
import { forgetCopies } from '@skipback/media/storage/small-copies';

/**
 * Takes away media that no project uses and rendered files left over from an earlier visit. Done when a page
 * begins and no other is open, so that whatever can still be undone anywhere keeps its media.
 */
export async function tidyStorage(): Promise<void> {
  try {
    const projects = await database.projects.toArray();
    const queue = await database.queue.toArray();
    const used = new Set([
      ...projects.flatMap(mediaOfRecord),
      ...queue.flatMap(({ document }) => mediaIdsOf(document)),
    ]);
    tidyBenches(new Set(projects.map(({ id }) => id)));
    await clearRenderScratch();
    await keepQueuedFiles(new Set(queue.filter((q) => q.state === 'done').map((q) => q.id)));
    const lost = (await keptMediaIds()).filter((id) => !used.has(id));
    for (const id of lost) await removeMediaFile(id);
    if (lost.length > 0) await clearMotion();
    await forgetCopies((mediaId) => used.has(mediaId));
    const unused = (await database.media.toCollection().primaryKeys()).filter((id) => !used.has(id));
    await database.media.bulkDelete(unused);
    const silent = (await database.songs.toCollection().primaryKeys()).filter((id) => !used.has(id));
    await database.songs.bulkDelete(silent);
  } catch {
    // Storage is refused: there is nothing to tidy.
  }
}
