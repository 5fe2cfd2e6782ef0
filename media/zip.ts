import { Said } from './worker-client';
import type { FileEntry } from '@zip.js/zip.js';

/** The package for zips, for those who come to one: it is a fifth of what a worker would load. */
async function zips() {
  const zips = await import('@zip.js/zip.js');
  zips.configure({ useWebWorkers: false });
  return zips;
}

/** A file that packs this much smaller than it unfolds holds no media: video and sound hardly pack at all. */
const MOST_UNFOLDING = 20;
/** Small files may unfold to this much all the same, bytes. */
const ALWAYS_ALLOWED = 16 << 20;
/** A project's own document is never larger, bytes. */
export const MOST_DOCUMENT = 64 << 20;
const MOST_ENTRIES = 2000;

/** What is said of a file that is none of ours, or torn. */
export const cutOff = 'This is not a project file, or it was cut off. Save it again from where it came from.';

/** The entries of a zip, after a look at what they say of themselves. `most` is how many there may be. */
export async function entriesOf(file: Blob, most = { entries: MOST_ENTRIES }): Promise<FileEntry[]> {
  const { BlobReader, ZipReader } = await zips();
  const zip = new ZipReader(new BlobReader(file), { checkSignature: true });
  const entries = await zip.getEntries().catch(() => {
    throw new Said(cutOff);
  });
  const files = entries.filter((e): e is FileEntry => !e.directory);
  const unfolds = files.reduce((sum, e) => sum + e.uncompressedSize, 0);
  if (files.length > most.entries || unfolds > Math.max(ALWAYS_ALLOWED, MOST_UNFOLDING * file.size))
    throw new Said(
      `This file of ${inMegabytes(file.size)} would unfold to ${inMegabytes(unfolds)}: no project does. Save it again from where it came from.`,
    );
  return files;
}

const inMegabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;

/** How entries are kept that are not packed: they lie in the zip as they are. */
const STORED = 0;

/**
 * What an entry of a zip unfolds to, its checksum verified, and no more of it than it said. What is not packed, as all
 * media, is a part of the zip itself: read once for its checksum, and never held.
 */
export async function unfold(zip: Blob, entry: FileEntry, most = Infinity): Promise<Blob> {
  const allowed = Math.min(most, entry.uncompressedSize);
  const asItIs = entry.compressionMethod === STORED && !entry.encrypted;
  let written = 0;
  const parts: Uint8Array<ArrayBuffer>[] = [];
  const counted = new WritableStream<Uint8Array<ArrayBuffer>>({
    write(part) {
      written += part.byteLength;
      if (written > allowed) throw new RangeError('more than it said');
      if (!asItIs) parts.push(part.slice());
    },
  });
  try {
    await entry.getData(counted);
    const at = entry.localDirectory?.dataOffset;
    if (asItIs) {
      if (at === undefined) throw new RangeError('nowhere');
      return zip.slice(at, at + entry.uncompressedSize);
    }
  } catch {
    throw new Said(
      `"${entry.filename.split('/').at(-1)}" in this file is damaged: its checksum is wrong. Copy or save the file again.`,
    );
  }
  return new Blob(parts);
}
