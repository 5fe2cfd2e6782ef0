import { readProject, type Project } from '@skipback/core/project/schema';
import { database } from '@skipback/media/storage/database';
import { mediaFile } from '@skipback/media/storage/media-files';
import {
  BlobReader,
  BlobWriter,
  TextReader,
  TextWriter,
  ZipReader,
  ZipWriter,
  configure,
} from '@zip.js/zip.js';
import { freshId } from './ids';
import { storeMedia } from './import-files';
import { storeSong } from './song';

configure({ useWebWorkers: false });

export const PROJECT_FILE_EXTENSION = '.skipback.zip';

/** The project and its media as one zip: `project.json`, and the files under `media/` by media id. */
export async function writeProjectFile(project: Project): Promise<{ file: Blob; missing: string[] }> {
  const zip = new ZipWriter(new BlobWriter('application/zip'), { level: 0 });
  await zip.add('project.json', new TextReader(JSON.stringify(project, null, 2)));
  const missing: string[] = [];
  for (const clip of new Map(project.clips.map((c) => [c.mediaId, c])).values()) {
    const file = await mediaFile(clip.mediaId);
    if (file) await zip.add(`media/${clip.mediaId}/${clip.name}`, new BlobReader(file));
    else missing.push(clip.name);
  }
  if (project.song) {
    const file = await mediaFile(project.song.mediaId);
    if (file) await zip.add(`song/${project.song.mediaId}/${project.song.name}`, new BlobReader(file));
    else missing.push(project.song.name);
  }
  return { file: await zip.close(), missing };
}

/** Reads a project file into the shelf under a fresh id. Throws an Error whose message is a sentence. */
export async function readProjectFile(file: Blob): Promise<string> {
  let entries;
  const zip = new ZipReader(new BlobReader(file));
  try {
    entries = await zip.getEntries();
  } catch {
    throw new Error('This is not a project file, or it was cut off. Save it again from where it came from.');
  }
  const document = entries.find((e) => e.filename === 'project.json');
  if (!document || document.directory) throw new Error('There is no project in this file.');
  const read = readProject(parse(await document.getData(new TextWriter())));
  if (!read.ok) throw new Error(read.sentence);
  const ids = new Map<string, string>();
  for (const entry of entries) {
    const [, folder, mediaId, name] = /^(media|song)\/([^/]+)\/(.+)$/.exec(entry.filename) ?? [];
    if (!mediaId || !name || entry.directory) continue;
    const file = new File([await entry.getData(new BlobWriter())], name);
    const kept = folder === 'song' ? (await storeSong(file)).id : (await storeMedia(file)).record?.id;
    if (kept) ids.set(mediaId, kept);
  }
  return shelve({
    ...read.project,
    id: freshId(),
    clips: read.project.clips.map((c) => ({ ...c, mediaId: ids.get(c.mediaId) ?? c.mediaId })),
    song: read.project.song && {
      ...read.project.song,
      mediaId: ids.get(read.project.song.mediaId) ?? read.project.song.mediaId,
    },
  });
}

/** Puts a project on the shelf; gives its id. */
export async function shelve(
  project: Project,
  shown: { readonly poster: Blob | null; readonly lengthFrames: number } = { poster: null, lengthFrames: 0 },
): Promise<string> {
  await database.projects.put({
    id: project.id,
    name: project.name,
    savedAt: Date.now(),
    document: project,
    ...shown,
  });
  return project.id;
}

function parse(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
