import { type PacketIndex, indexPackets } from '../reader/packet-index';
import { fileSize } from './file-size';

/** A small film of frames [first, end) of a clip, upright and with square pixels, that the screen shows in their place. */
export interface SmallCopy {
  readonly file: Blob;
  readonly first: number;
  readonly end: number;
}

/** The longer side of a small copy, pixels. */
const COPY_SIDE = 1280;

/** Size of a small copy of pictures of a size as they are seen. */
export const copySize = (width: number, height: number): { width: number; height: number } =>
  fileSize(width, height, Math.min(1, COPY_SIDE / Math.max(width, height)));

/** Frames a second that a small copy's packets are written with; nobody sees it at that. */
export const COPY_RATE_HZ = 30;
/** Frames from one key frame of a copy to the next: few, so that going backward decodes little beside what it shows. */
export const COPY_GROUP = 8;

/** The packets of a small copy: one a frame, in the order they are shown. */
export const copyIndex = ({ first, end }: Pick<SmallCopy, 'first' | 'end'>): PacketIndex =>
  indexPackets(
    Array.from({ length: end - first }, (_, n) => ({
      timeS: n / COPY_RATE_HZ,
      durationS: 1 / COPY_RATE_HZ,
      isKey: n % COPY_GROUP === 0,
    })),
  );

/** Frames of a clip at which decoding can begin, where copies of it are read instead as far as they go. */
export function keysWith(keys: readonly number[], copies: readonly SmallCopy[] = []): readonly number[] {
  if (copies.length === 0) return keys;
  const own = keys.filter((k) => !copies.some((c) => k >= c.first && k < c.end));
  const copied = copies.flatMap((c) =>
    Array.from({ length: Math.ceil((c.end - c.first) / COPY_GROUP) }, (_, i) => c.first + i * COPY_GROUP),
  );
  return [...own, ...copied].sort((a, b) => a - b);
}

/** Frames `first` through `last` that are read in one go: from a copy, or from the clip itself. */
export interface Stretch {
  readonly first: number;
  readonly last: number;
  readonly copy: SmallCopy | undefined;
}

/** A run of frames by what each is read from; copies do not overlap and are in their order. */
export function stretchesOf(first: number, last: number, copies: readonly SmallCopy[] = []): Stretch[] {
  const stretches: Stretch[] = [];
  for (let at = first; at <= last;) {
    const copy = copies.find((c) => at >= c.first && at < c.end);
    const next = copies.find((c) => c.first > at)?.first ?? Infinity;
    const stretch = { first: at, last: Math.min(last, (copy?.end ?? next) - 1), copy };
    stretches.push(stretch);
    at = stretch.last + 1;
  }
  return stretches;
}

/** Frames that a copy has at most: a longer span gets several, each there as soon as it is made. */
const MOST_FRAMES = 900;

/** What is still to be copied of frames [first, end). */
export const uncopied = (
  first: number,
  end: number,
  copies: readonly SmallCopy[],
): { readonly first: number; readonly end: number }[] =>
  stretchesOf(first, end - 1, copies)
    .filter((s) => !s.copy)
    .flatMap((s) =>
      Array.from({ length: Math.ceil((s.last + 1 - s.first) / MOST_FRAMES) }, (_, i) => ({
        first: s.first + i * MOST_FRAMES,
        end: Math.min(s.last + 1, s.first + (i + 1) * MOST_FRAMES),
      })),
    );
