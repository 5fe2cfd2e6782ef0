import { readProject } from '@skipback/core/project/schema';
import { freshId } from './ids';
import { storeMedia } from './import-files';
import { shelve } from './project-file';

/** Fetches the demo project and its clips from the server and puts it on the shelf; gives its id. */
export async function openDemo(told: (sentence: string) => void): Promise<string> {
  const response = await fetch('/demo/projects/lamplighter.json');
  if (!response.ok) throw new Error('The demo is not there: was the program started with "npm run demo"?');
  const read = readProject(await response.json());
  if (!read.ok) throw new Error(read.sentence);
  const ids = new Map<string, string>();
  for (const [i, clip] of read.project.clips.entries()) {
    told(`Fetching clip ${i + 1} of ${read.project.clips.length}`);
    const blob = await (await fetch(`/demo/media/${clip.mediaId}`)).blob();
    const { record, notice } = await storeMedia(new File([blob], clip.name, { type: blob.type }));
    if (!record) throw new Error(notice.text);
    ids.set(clip.mediaId, record.id);
  }
  const clips = read.project.clips.map((c) => ({ ...c, mediaId: ids.get(c.mediaId)! }));
  return shelve({ ...read.project, id: freshId(), createdAt: Date.now(), clips });
}
