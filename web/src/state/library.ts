import { useTold } from './told';
import { usePlaying } from './playing';
import type { FrameTable } from '@skipback/core/clip/frame-table';
import type { Clip, Project } from '@skipback/core/project/schema';
import type { ClipSource } from '@skipback/media/frames/clip-row';
import { importClient } from '@skipback/media/import/import-client';
import { FACTS_VERSION, damageNotice } from '@skipback/media/import/clip-facts';
import type { ThumbnailSheet } from '@skipback/media/import/messages';
import { type MediaRecord, database } from '@skipback/media/storage/database';
import { mediaFile } from '@skipback/media/storage/media-files';
import type { Notice } from '@skipback/core/notice';
import { queryClient } from './query-client';
import { useQueries, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';

/** A clip of the project with what is known of its media. */
export interface LoadedClip {
  readonly clip: Clip;
  readonly record: MediaRecord;
  readonly source: ClipSource;
}

/** What could be said of a clip: loading, loaded, or that its media is not there. */
export interface ClipState {
  readonly clip: Clip;
  readonly loaded: LoadedClip | undefined;
  readonly missing: boolean;
}

async function loadMedia(mediaId: string): Promise<{ record: MediaRecord; file: File } | null> {
  const [record, file] = await Promise.all([
    database.media.get(mediaId).catch(() => undefined),
    mediaFile(mediaId),
  ]);
  if (!record || !file) return null;
  if (record.facts.version === FACTS_VERSION) return { record, file };
  // Learned by an older version of this program: looked at again.
  const inspection = await importClient.inspect(file, record.name);
  if (!inspection.ok) return { record, file };
  const renewed = { ...record, facts: inspection.facts, thumbnails: null };
  await database.media.put(renewed).catch(() => undefined);
  return { record: renewed, file };
}

/** What queries gave; the same array while it is the same. */
export const dataOf = <T>(results: readonly { readonly data: T }[]): T[] => results.map((r) => r.data);

/** The clips of a project with their media, each as soon as it is there. */
export function useClips(project: Project): readonly ClipState[] {
  const datas = useQueries({
    queries: project.clips.map((clip) => ({
      queryKey: ['media', clip.mediaId],
      queryFn: () => loadMedia(clip.mediaId),
    })),
    combine: dataOf,
  });
  return useMemo(() => project.clips.map((clip, i) => stateOf(clip, datas[i])), [project.clips, datas]);
}

/** The clips of a project that is not open, with their media. */
export const loadClips = (project: Project): Promise<readonly ClipState[]> =>
  Promise.all(project.clips.map(async (clip) => stateOf(clip, await loadMedia(clip.mediaId))));

function stateOf(clip: Clip, data: { record: MediaRecord; file: File } | null | undefined): ClipState {
  if (!data) return { clip, loaded: undefined, missing: data === null };
  const source = { clipId: clip.id, file: data.file, index: data.record.facts.index, framing: clip.framing };
  return { clip, loaded: { clip, record: data.record, source }, missing: false };
}

const withCuts = new WeakMap<MediaRecord, { table: FrameTable; notCuts: Clip['notCuts'] }>();

/** A clip's frames, with its cuts as far as they are known and nobody said that they are none. */
export function tableOf(state: ClipState | undefined): FrameTable | undefined {
  const record = state?.loaded?.record;
  const all = record?.thumbnails?.cuts ?? record?.shots?.cuts;
  if (!record || !all || all.length === 0) return record?.facts.table;
  const { notCuts } = state!.clip;
  const known = withCuts.get(record);
  if (known && known.notCuts === notCuts) return known.table;
  const cuts = notCuts ? all.filter((cut) => !notCuts.includes(cut)) : all;
  const table = { ...record.facts.table, cuts };
  withCuts.set(record, { table, notCuts });
  return table;
}

// The first picture, and playing in time, go before pictures on the strips.
const giveWay = () => {
  const { step, audition } = usePlaying.getState();
  importClient.giveWay(
    !useTold.getState().seen ? 'rests' : step !== 0 || audition !== null ? 'slow' : 'free',
  );
};
usePlaying.subscribe(giveWay);
useTold.subscribe(giveWay);

/** A clip's thumbnails, drawn once and kept; undefined until then. */
export function useThumbnails(
  loaded: LoadedClip | undefined,
): (ThumbnailSheet & { bitmap: ImageBitmap }) | undefined {
  const { data } = useQuery({
    queryKey: ['thumbnails', loaded?.record.id],
    enabled: loaded !== undefined,
    queryFn: async () => {
      const sheet = await thumbnailsOf(loaded!);
      return { ...sheet, bitmap: await createImageBitmap(sheet.sheet) };
    },
  });
  return data;
}

/** A clip's thumbnails as they are kept, or drawn now; what is made of its frames hears of its cuts. */
export async function thumbnailsOf(
  { record: { id }, source }: LoadedClip,
  urgent = false,
): Promise<ThumbnailSheet> {
  const kept = (await database.media.get(id).catch(() => undefined))?.thumbnails;
  if (kept && kept.cuts !== undefined) return kept;
  const sheet = await importClient.thumbnails(source, urgent);
  await database.media.update(id, { thumbnails: sheet }).catch(() => undefined);
  if (sheet.cuts && sheet.cuts.length > 0) learned(id, { thumbnails: sheet });
  return sheet;
}

/** Whatever is made of a clip's frames hears of what was learned of them. */
export const learned = (id: string, more: Partial<MediaRecord>): unknown =>
  queryClient.setQueryData<Awaited<ReturnType<typeof loadMedia>>>(
    ['media', id],
    (media) => media && { ...media, record: { ...media.record, ...more } },
  );

/** Everything to be said of a clip's file. */
export function noticesOf(record: MediaRecord, thumbnails: ThumbnailSheet | undefined): readonly Notice[] {
  const damage = thumbnails && damageNotice(thumbnails.damaged, record.facts.table);
  return damage ? [...record.facts.notices, damage] : record.facts.notices;
}
