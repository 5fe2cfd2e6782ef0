import { readProject } from '@skipback/core/project/read-project';
import type { Project } from '@skipback/core/project/schema';
import { z } from 'zod';
import { type MediaRecord, database } from '@skipback/media/storage/database';
import { Said } from '@skipback/media/worker-client';
import { fetched } from './fetched';
import { storeMedia } from './import-files';
import { shelve } from './shelve';
import { storeSong } from './song';

async function fetchJson(path: string): Promise<unknown> {
  return JSON.parse(await (await fetched(path, 'The demo')).text());
}

async function fetchProject(name: string): Promise<Project> {
  const read = readProject(await fetchJson(`/demo/projects/${name}`));
  if (!read.ok) throw new Said(read.sentence);
  return read.project;
}

/** The demo's projects, each with a picture for the shelf and its length. */
const IndexSchema = z
  .array(z.object({ project: z.string(), poster: z.string(), frames: z.int().min(0) }))
  .min(1);

/** Thumbnails that come with the demo's clips, by the clip's file: its size in bytes, and the sheet's file in place of the sheet. */
const ThumbnailsSchema = z.record(
  z.string(),
  z.object({
    bytes: z.int(),
    sheet: z.string(),
    frames: z.array(z.int().min(0)),
    cellWidth: z.int().min(1),
    cellHeight: z.int().min(1),
    columns: z.int().min(1),
    damaged: z.array(z.int()),
  }),
);

type Thumbnails = z.infer<typeof ThumbnailsSchema>;

/** Gives a clip the thumbnails that came with it, so that none have to be drawn. */
async function keepThumbnails(came: Thumbnails[string] | undefined, record: MediaRecord): Promise<void> {
  if (record.thumbnails || came?.bytes !== record.bytes) return;
  const sheet = await fetched(`/demo/media/${came.sheet}`, 'A picture').catch(() => undefined);
  if (!sheet) return;
  const { frames, cellWidth, cellHeight, columns, damaged } = came;
  const thumbnails = { sheet, frames, cellWidth, cellHeight, columns, damaged };
  await database.media.update(record.id, { thumbnails }).catch(() => undefined);
}

/** The id of a demo project on every shelf: it is there once. */
const idOf = (entry: { readonly project: string }) => `demo-${entry.project.replace(/\.[^.]+$/, '')}`;

/**
 * Puts the demo's projects on the shelf with their clips, those that are not there yet; gives the first one's id, and
 * whether all were there already, as they were left.
 */
export async function openDemo(
  told: (sentence: string) => void,
): Promise<{ readonly id: string; readonly wasThere: boolean }> {
  const all = IndexSchema.parse(await fetchJson('/demo/projects/index.json'));
  const there = await database.projects.bulkGet(all.map(idOf)).catch(() => []);
  const entries = all.filter((_, i) => !there[i]);
  const id = idOf(all[0]!);
  if (entries.length === 0) return { id, wasThere: true };
  const projects = await Promise.all(entries.map((e) => fetchProject(e.project)));
  const files = new Map(projects.flatMap((p) => p.clips.map((c) => [c.mediaId, c.name] as const)));
  const ids = new Map<string, string>();
  const thumbnails = ThumbnailsSchema.safeParse(
    await fetchJson('/demo/media/thumbnails.json').catch(() => null),
  );
  for (const [mediaId, name] of files) {
    told(`Fetching clip ${ids.size + 1} of ${files.size}`);
    const blob = await fetched(`/demo/media/${mediaId}`, name);
    const { record, notice } = await storeMedia(new File([blob], name, { type: blob.type }));
    if (!record) throw new Said(notice.text);
    await keepThumbnails(thumbnails.data?.[mediaId], record);
    ids.set(mediaId, record.id);
  }
  const songs = new Map(projects.flatMap((p) => (p.song ? [[p.song.mediaId, p.song.name] as const] : [])));
  for (const [mediaId, name] of songs) {
    told('Fetching the song');
    const blob = await fetched(`/demo/media/${mediaId}`, name);
    ids.set(mediaId, (await storeSong(new File([blob], name, { type: 'audio/ogg' }))).id);
  }
  const shelved = projects.map((project, i) => ({
    ...project,
    id: idOf(entries[i]!),
    createdAt: Date.now(),
    clips: project.clips.map((c) => ({ ...c, mediaId: ids.get(c.mediaId)! })),
    song: project.song && { ...project.song, mediaId: ids.get(project.song.mediaId)! },
  }));
  // The first is put there last: the shelf shows the newest first.
  for (const [i, project] of [...shelved.entries()].reverse()) {
    const poster = await fetched(`/demo/projects/${entries[i]!.poster}`, 'A picture');
    await shelve(project, { poster, lengthFrames: entries[i]!.frames });
  }
  return { id, wasThere: false };
}
