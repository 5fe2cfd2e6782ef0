import { frameCount, meanRateHz } from '@skipback/core/clip/frame-table';
import { copyClient } from '@skipback/media/copies/copy-client';
import { type SmallCopy, copySize, uncopied } from '@skipback/media/frames/small-copy';
import { copiesOf, forgetCopies, keepCopy } from '@skipback/media/storage/small-copies';
import { Said } from '@skipback/media/worker-client';
import { useQueries } from '@tanstack/react-query';
import { useMemo } from 'react';
import { create } from 'zustand';
import { type LoadedClip, dataOf } from './library';
import { queryClient } from './query-client';

/** Pixels a second from which decoding takes longer than playing, on a machine without special hardware. */
const DEAR_PIXELS_S = 100e6;

/** Seconds around a span that are copied with it: ends are moved about. */
const MARGIN_S = 1;

const queryKey = (mediaId: string) => ['copies', mediaId];

/** Where media is that a copy is made of now, and how far it is, 0 to 1. */
export const useCopying = create<{
  readonly now: { readonly mediaId: string; readonly share: number } | null;
}>(() => ({ now: null }));

/** Whether a clip's pictures are so large that a small copy of them helps. */
export function isDear({ record: { facts } }: LoadedClip): boolean {
  const { width, height, table } = facts;
  const small = copySize(width, height);
  const smaller = width * height > 1.5 * small.width * small.height;
  return smaller && !facts.clear && width * height * meanRateHz(table) >= DEAR_PIXELS_S;
}

const NONE: ReadonlyMap<Blob, readonly SmallCopy[]> = new Map();

/** The small copies of clips, by their files: of those that have some. The same object as long as there are none. */
export function useCopies(clips: readonly LoadedClip[]): ReadonlyMap<Blob, readonly SmallCopy[]> {
  const datas = useQueries({
    queries: clips.map(({ record }) => ({
      queryKey: queryKey(record.id),
      queryFn: () => copiesOf(record.id),
    })),
    combine: dataOf,
  });
  return useMemo(() => {
    const some = clips.flatMap(({ source }, i) =>
      datas[i]?.length ? [[source.file, datas[i]] as const] : [],
    );
    return some.length > 0 ? new Map(some) : NONE;
  }, [clips, datas]);
}

/** Frames that a copy for a span is of: those of the span, and some around it. */
export function copiedFor(
  { record: { facts } }: LoadedClip,
  span: { readonly in: number; readonly out: number },
): { readonly first: number; readonly end: number } {
  const margin = Math.round(MARGIN_S * meanRateHz(facts.table));
  return {
    first: Math.max(0, Math.floor(span.in) - margin),
    end: Math.min(frameCount(facts.table), Math.ceil(span.out) + margin),
  };
}

/** Copies what is not copied yet of frames [first, end). Gives what went wrong as a sentence. */
export async function makeCopies(
  { record, source }: LoadedClip,
  { first, end }: { readonly first: number; readonly end: number },
): Promise<string | undefined> {
  const mediaId = record.id;
  const parts = uncopied(first, end, await copiesOf(mediaId));
  const total = parts.reduce((sum, p) => sum + p.end - p.first, 0);
  let done = 0;
  useCopying.setState({ now: { mediaId, share: 0 } });
  try {
    for (const part of parts) {
      const length = part.end - part.first;
      const film = await copyClient.make(source, part.first, part.end, (share) =>
        useCopying.setState({ now: { mediaId, share: (done + share * length) / total } }),
      );
      await keepCopy(mediaId, { file: film, ...part });
      done += length;
      await queryClient.invalidateQueries({ queryKey: queryKey(mediaId) });
    }
    return undefined;
  } catch (error) {
    return error instanceof Said
      ? error.sentence
      : 'The browser has no room for the copy. Storage, on the first page, says what uses it.';
  } finally {
    useCopying.setState({ now: null });
  }
}

export const stopCopying = (): void => copyClient.stop();

/** Lets go of the copies of one file, or of all. */
export async function dropCopies(mediaId?: string): Promise<void> {
  await forgetCopies((of) => mediaId !== undefined && of !== mediaId);
  await queryClient.invalidateQueries({ queryKey: ['copies'] });
}
