import type { SmallCopy } from '../frames/small-copy';

/** The folder of small copies; each file's name says of which media, and which frames. */
const folder = async (): Promise<FileSystemDirectoryHandle> =>
  (await navigator.storage.getDirectory()).getDirectoryHandle('copies', { create: true });

const NAME = /^(.+) (\d+) (\d+)$/;

/** The media that a copy's name says it is of. */
export const mediaOfCopy = (name: string): string | undefined => NAME.exec(name)?.[1];

/** Copies of a file, in their order; none that overlaps the one before. */
export async function copiesOf(mediaId: string): Promise<readonly SmallCopy[]> {
  const copies: SmallCopy[] = [];
  try {
    for await (const entry of (await folder()).values()) {
      const [, of, first, end] = NAME.exec(entry.name) ?? [];
      if (of !== mediaId || entry.kind !== 'file') continue;
      const file = await (entry as FileSystemFileHandle).getFile();
      if (file.size > 0) copies.push({ file, first: Number(first), end: Number(end) });
    }
  } catch {
    // No private file system: there are none.
  }
  return copies
    .sort((a, b) => a.first - b.first)
    .filter((c, i, all) => all.slice(0, i).every((before) => before.end <= c.first));
}

/** Keeps a copy. Throws where the browser refuses. */
export async function keepCopy(mediaId: string, { file, first, end }: SmallCopy): Promise<void> {
  const handle = await (await folder()).getFileHandle(`${mediaId} ${first} ${end}`, { create: true });
  const target = await handle.createWritable();
  await file.stream().pipeTo(target);
}

/** Takes away copies: those whose media `keeps` says no of. */
export async function forgetCopies(keeps: (mediaId: string) => boolean): Promise<void> {
  try {
    const all = await folder();
    const names: string[] = [];
    for await (const name of all.keys()) names.push(name);
    for (const name of names)
      if (!keeps(mediaOfCopy(name) ?? '')) await all.removeEntry(name).catch(() => undefined);
  } catch {
    // There are none.
  }
}
