import { isGathered } from '@skipback/core/gather/gathers';
import { NOTHING_READ, type Stretch, unread, withRead } from '@skipback/core/moments/known-shots';
import type { Project } from '@skipback/core/project/schema';
import { importClient } from '@skipback/media/import/import-client';
import { READ_WHOLE } from '@skipback/media/import/clip-facts';
import { type MediaRecord, database } from '@skipback/media/storage/database';
import { frameCount } from '@skipback/core/clip/frame-table';
import { useQuery } from '@tanstack/react-query';
import { type ClipState, type LoadedClip, learned, thumbnailsOf } from './library';

/** Frames that are looked through at once: between them somebody who waits gets his turn. */
const AT_ONCE = 1500;
/** Frames before and after a span that moves may reach. */
const BESIDE = 60;
/** Stretches begin and end at multiples of so many frames: a span that is dragged asks seldom. */
const STEP = 240;

/** Whether a clip's cuts are looked for where they are needed only: thumbnails look through shorter ones whole. */
const isLong = ({ facts }: MediaRecord): boolean => frameCount(facts.table) > READ_WHOLE;

/** The stretches of a long clip over which frames are mixed or moved, so that its cuts have to be known. */
function stretchesOver(project: Project, { clip, record }: LoadedClip): Stretch[] {
  if (!isGathered(project, clip.id)) return [];
  const count = frameCount(record.facts.table);
  return project.pieces
    .filter((piece) => piece.clipId === clip.id)
    .map(({ span }): Stretch => [
      STEP * Math.floor(Math.max(0, span.in - BESIDE) / STEP),
      Math.min(count, STEP * Math.ceil((span.out + BESIDE) / STEP)),
    ]);
}

/** Looks for cuts where a long clip was not looked through yet, one part after the other, and keeps what is found. */
async function readShots(
  loaded: LoadedClip,
  wanted: readonly Stretch[],
  urgent: boolean,
  signal?: AbortSignal,
): Promise<MediaRecord> {
  const { id } = loaded.record;
  let { record } = loaded;
  for (const stretch of wanted) {
    // Another piece, or another tab, may have had it read by now.
    record = (await database.media.get(id).catch(() => undefined)) ?? record;
    for (const part of unread(record.shots ?? NOTHING_READ, stretch, AT_ONCE)) {
      if (signal?.aborted) return record;
      const cuts = await importClient.cuts(loaded.source, part, urgent);
      const shots = withRead(record.shots ?? NOTHING_READ, part, cuts);
      record = { ...record, shots };
      await database.media.update(id, { shots }).catch(() => undefined);
    }
  }
  return record;
}

/** Clips with their cuts looked for where that was not done yet: those that pictures are made from between frames. */
export const withCutsKnown = (
  project: Project,
  states: readonly ClipState[],
): Promise<readonly ClipState[]> =>
  Promise.all(
    states.map(async (state) => {
      const { loaded } = state;
      if (!loaded || !isGathered(project, loaded.clip.id)) return state;
      // Without them it is made all the same, as it would be of a clip without cuts.
      const known = async (): Promise<Partial<MediaRecord>> => {
        if (isLong(loaded.record)) return readShots(loaded, stretchesOver(project, loaded), true);
        if (loaded.record.thumbnails?.cuts !== undefined) return {};
        return { thumbnails: await thumbnailsOf(loaded, true) };
      };
      const record = { ...loaded.record, ...(await known().catch(() => ({}))) };
      return { ...state, loaded: { ...loaded, record } };
    }),
  );

/** What nobody waits for is read one after the other; of what was asked for in between only what still is. */
let reading: Promise<unknown> = Promise.resolve();

/** Looks for the cuts of the open project's long clips, where their pictures are made between frames. */
export function useShots(project: Project, clips: readonly ClipState[]): void {
  const wanted = clips.flatMap(({ loaded }) => {
    if (!loaded || !isLong(loaded.record)) return [];
    const known = loaded.record.shots ?? NOTHING_READ;
    const stretches = stretchesOver(project, loaded).filter((s) => unread(known, s, AT_ONCE).length > 0);
    return stretches.length > 0 ? [{ loaded, stretches }] : [];
  });
  const [first] = wanted;
  useQuery({
    queryKey: ['shots', first?.loaded.record.id, first?.stretches],
    enabled: first !== undefined,
    queryFn: async ({ signal }) => {
      const { loaded, stretches } = first!;
      const mine = reading.then(() => readShots(loaded, stretches, false, signal));
      reading = mine.catch(() => undefined);
      const { shots } = await mine;
      if (shots) learned(loaded.record.id, { shots });
      return null;
    },
  });
}
