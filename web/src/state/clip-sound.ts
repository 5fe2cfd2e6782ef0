import type { ClipFacts } from '@skipback/media/import/clip-facts';
import { soundClient } from '@skipback/media/sound/sound-client';
import type { LoadedClip } from './library';

/**
 * The second of a clip's file at which its first picture is shown. Not 0 in screen recordings, in pieces cut from longer
 * files, and where frames were put in another order (XVID): its sound is counted from there, as its picture is.
 */
export function pictureBeginsS({ index, notices }: ClipFacts): number {
  const first = index.times[0] ?? 0;
  // Times that make no sense were made even ones.
  return notices.some((n) => n.code === 'no-times') ? 0 : first;
}

/** Loads the sound of a clip from its first picture on, or of a stretch counted from there, seconds; gives its id. */
export async function loadClipSound(
  { clip, record, source }: LoadedClip,
  stretch?: { readonly fromS: number; readonly toS: number },
): Promise<string> {
  const beginsS = pictureBeginsS(record.facts);
  if (!stretch && beginsS === 0) {
    await soundClient.load(clip.mediaId, source.file, clip.name);
    return clip.mediaId;
  }
  const range = { fromS: beginsS + (stretch?.fromS ?? 0), toS: beginsS + (stretch?.toS ?? Infinity) };
  const soundId = `${clip.mediaId} ${range.fromS} ${range.toS}`;
  await soundClient.load(soundId, source.file, clip.name, undefined, range);
  return soundId;
}
