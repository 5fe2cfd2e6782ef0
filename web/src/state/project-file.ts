import { foreignJson } from '@skipback/core/foreign';
import { readProject } from '@skipback/core/project/read-project';
import type { Project } from '@skipback/core/project/schema';
import { ownSounds } from '@skipback/core/project/sound-actions';
import { MOST_DOCUMENT, cutOff, entriesOf, unfold } from '@skipback/media/zip';
import { mediaFile, renderScratch } from '@skipback/media/storage/media-files';
import { BlobReader, TextReader, ZipWriter } from '@zip.js/zip.js';
import { Said } from '@skipback/media/worker-client';
import { freshId } from './ids';
import { storeMedia } from './import-files';
import { shelve } from './shelve';
import { storeSong } from './song';

/** Where a file that grows is written, and what it has become. */
interface Growing {
  readonly into: WritableStream;
  readonly whole: () => Promise<Blob>;
}

async function onDisk(name: string): Promise<Growing> {
  const handle = await renderScratch(name);
  return { into: await handle.createWritable(), whole: () => handle.getFile() };
}

function inMemory(): Growing {
  const { readable, writable } = new TransformStream();
  const blob = new Response(readable).blob();
  // Asked for only once all was written: what stops the writing is told there.
  blob.catch(() => undefined);
  return { into: writable, whole: () => blob };
}

/**
 * The project and its media as one zip: `project.json`, and the files under `media/` by media id, sounds under `song/`.
 * It lies on the disk, in the place of the last one that was made; in memory where the browser has no room there.
 */
export async function writeProjectFile(
  project: Project,
  tell: (share: number) => void = () => undefined,
  signal?: AbortSignal,
): Promise<{ file: Blob; missing: string[] }> {
  const write = async (growing: Growing) => {
    try {
      return await writtenInto(growing, project, tell, signal);
    } catch (problem) {
      await growing.into.abort().catch(() => undefined);
      throw problem;
    }
  };
  const disk = await onDisk(`project-${project.id}.zip`).catch(() => undefined);
  if (!disk) return write(inMemory());
  return write(disk).catch((problem: unknown) => {
    if (!(problem instanceof DOMException) || problem.name !== 'QuotaExceededError') throw problem;
    return write(inMemory());
  });
}

async function writtenInto(
  { into, whole }: Growing,
  project: Project,
  tell: (share: number) => void,
  signal: AbortSignal | undefined,
): Promise<{ file: Blob; missing: string[] }> {
  const zip = new ZipWriter(into, { level: 0 });
  await zip.add('project.json', new TextReader(JSON.stringify(project, null, 2)));
  const clips = new Map(project.clips.map((c) => [c.mediaId, c]));
  const sounds = [...(project.song ? [project.song] : []), ...ownSounds(project)];
  const wanted = [
    ...[...clips.values()].map(({ mediaId, name }) => ({ folder: 'media', mediaId, name })),
    ...[...new Map(sounds.map((s) => [s.mediaId, s])).values()].map(({ mediaId, name }) => ({
      folder: 'song',
      mediaId,
      name,
    })),
  ];
  const files = await Promise.all(wanted.map(async (w) => ({ ...w, file: await mediaFile(w.mediaId) })));
  const bytes = files.reduce((sum, { file }) => sum + (file?.size ?? 0), 0);
  const missing: string[] = [];
  let done = 0;
  for (const { folder, mediaId, name, file } of files) {
    if (!file) {
      missing.push(name);
      continue;
    }
    const onprogress = (written: number) => {
      tell((done + written) / Math.max(1, bytes));
      return undefined;
    };
    await zip.add(`${folder}/${mediaId}/${name}`, new BlobReader(file), {
      onprogress,
      ...(signal && { signal }),
    });
    done += file.size;
  }
  await zip.close();
  return { file: new Blob([await whole()], { type: 'application/zip' }), missing };
}

/** Said of a zip that is whole and has no project in it. */
export class NoProject extends Said {}

/** Reads a project file into the shelf under a fresh id; says what of it could not be read. Throws `Said`. */
export async function readProjectFile(file: Blob): Promise<{ id: string; lost: string | undefined }> {
  const entries = await entriesOf(file);
  const document = entries.find((e) => e.filename === 'project.json');
  if (!document) throw new NoProject('There is no project in this file.');
  if (document.uncompressedSize > MOST_DOCUMENT) throw new Said(cutOff);
  const text = await (await unfold(file, document, MOST_DOCUMENT)).text();
  const foreign = foreignJson(text, 'project', MOST_DOCUMENT);
  if (!foreign.ok) throw new Said(foreign.sentence);
  const read = readProject(foreign.data);
  if (!read.ok) throw new Said(read.sentence);
  const ids = new Map<string, string>();
  for (const entry of entries) {
    const [, folder, mediaId, name] = /^(media|song)\/([^/]+)\/(.+)$/.exec(entry.filename) ?? [];
    if (!mediaId || !name) continue;
    const media = new File([await unfold(file, entry)], name);
    const kept = folder === 'song' ? (await storeSong(media)).id : (await storeMedia(media)).record?.id;
    if (kept) ids.set(mediaId, kept);
  }
  const here = <T extends { mediaId: string }>(named: T): T => ({
    ...named,
    mediaId: ids.get(named.mediaId) ?? named.mediaId,
  });
  const id = await shelve({
    ...read.project,
    id: freshId(),
    clips: read.project.clips.map(here),
    song: read.project.song && here(read.project.song),
    placed: read.project.placed.map((p) => (p.kind === 'own' ? { ...p, own: here(p.own) } : p)),
  });
  return { id, lost: read.lost };
}
