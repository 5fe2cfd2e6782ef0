/**
 * The bytes of imported files, in the origin's private file system (why there: docs/storage.md).
 * A file the browser will not keep is used from memory for as long as the page is open.
 */
const session = new Map<string, File>();

const folder = async (): Promise<FileSystemDirectoryHandle> =>
  (await navigator.storage.getDirectory()).getDirectoryHandle('media', { create: true });

/**
 * Keeps a file; it is read from where it was meanwhile. `kept` is false when the browser refused and it lasts only while
 * the page is open. `progress` hears from 0 to 1.
 */
export async function keepMediaFile(
  id: string,
  file: File,
  progress?: (share: number) => void,
): Promise<{ kept: boolean }> {
  session.set(id, file);
  try {
    const handle = await (await folder()).getFileHandle(id, { create: true });
    const target = await handle.createWritable();
    await (progress ? counted(file, progress) : file.stream()).pipeTo(target);
    if ((await handle.getFile()).size !== file.size) throw new Error('not all was written');
    session.delete(id);
    return { kept: true };
  } catch {
    await removeMediaFile(id);
    session.set(id, file);
    return { kept: false };
  }
}

/** A file's bytes; `progress` hears how many of them were taken. */
function counted(file: File, progress: (share: number) => void): ReadableStream<Uint8Array> {
  let taken = 0;
  return file.stream().pipeThrough(
    new TransformStream<Uint8Array, Uint8Array>({
      transform(part, out) {
        taken += part.length;
        progress(taken / file.size);
        out.enqueue(part);
      },
    }),
  );
}

/** The file, or undefined when it is not there any more. */
export async function mediaFile(id: string): Promise<File | undefined> {
  const inSession = session.get(id);
  if (inSession) return inSession;
  try {
    const file = await (await (await folder()).getFileHandle(id)).getFile();
    // Its bytes come all at once when it is whole: the page closed while it was copied.
    return file.size > 0 ? file : undefined;
  } catch {
    return undefined;
  }
}

export async function removeMediaFile(id: string): Promise<void> {
  session.delete(id);
  try {
    await (await folder()).removeEntry(id);
  } catch {
    // It was not there.
  }
}

/** Ids of all files kept. */
export async function keptMediaIds(): Promise<string[]> {
  const ids: string[] = [];
  try {
    for await (const name of (await folder()).keys()) ids.push(name);
  } catch {
    // No private file system: nothing is kept.
  }
  return ids;
}

/** What the private file system has folders for. */
export type KeptFolder = 'copies' | 'media' | 'motion' | 'queued' | 'renders';

/** Bytes of every file of a folder, by its name; empty where there is no such folder. */
export async function keptSizes(name: KeptFolder): Promise<ReadonlyMap<string, number>> {
  const sizes = new Map<string, number>();
  try {
    const root = await navigator.storage.getDirectory();
    for await (const entry of (await root.getDirectoryHandle(name)).values()) {
      if (entry.kind !== 'file') continue;
      // What is written lies beside its place until it is whole.
      const of = entry.name.replace(/\.crswap$/, '');
      const { size } = await (entry as FileSystemFileHandle).getFile();
      sizes.set(of, (sizes.get(of) ?? 0) + size);
    }
  } catch {
    // It was never made.
  }
  return sizes;
}

/** Places between a file's ends that are looked at to tell it from others, and bytes of each. */
const PLACES = 24;
const PLACE_BYTES = 4096;

/** SHA-256 over a file's length, its first and last half mebibyte and some places between, in hexadecimal. */
export async function fingerprintOf(file: Blob): Promise<string> {
  const edge = 512 * 1024;
  // What lies between is looked at here and there: two exports of one length may differ in their middle alone.
  const between = Array.from({ length: PLACES }, (_, i) => {
    const at = Math.floor(((i + 1) * file.size) / (PLACES + 1));
    return file.slice(at, at + PLACE_BYTES);
  });
  const looked = file.size > 2 * edge ? between : [];
  const parts = await new Blob([
    String(file.size),
    file.slice(0, edge),
    file.slice(-edge),
    ...looked,
  ]).arrayBuffer();
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', parts));
  return Array.from(digest, (b) => b.toString(16).padStart(2, '0')).join('');
}

/** A fresh place for a rendered file, by name; what was there is replaced. */
export async function renderScratch(name: string): Promise<FileSystemFileHandle> {
  const renders = await (
    await navigator.storage.getDirectory()
  ).getDirectoryHandle('renders', { create: true });
  return renders.getFileHandle(name, { create: true });
}

const queued = async (): Promise<FileSystemDirectoryHandle> =>
  (await navigator.storage.getDirectory()).getDirectoryHandle('queued', { create: true });

/** Where a queued render's file goes, and stays until it is taken away. */
export const queuedFile = async (id: string): Promise<FileSystemFileHandle> =>
  (await queued()).getFileHandle(id, { create: true });

/** A queued render's file; undefined where it is not there any more. */
export async function madeFile(id: string): Promise<File | undefined> {
  try {
    return await (await (await queued()).getFileHandle(id)).getFile();
  } catch {
    return undefined;
  }
}

/** Takes away the files of queued renders but those that are kept. */
export async function keepQueuedFiles(ids: ReadonlySet<string>): Promise<void> {
  try {
    const folder = await queued();
    const names: string[] = [];
    for await (const name of folder.keys()) names.push(name);
    for (const name of names) if (!ids.has(name)) await folder.removeEntry(name).catch(() => undefined);
  } catch {
    // No private file system: there are none.
  }
}

/** Takes away rendered files that were downloaded or cancelled. */
export async function clearRenderScratch(name?: string): Promise<void> {
  try {
    const root = await navigator.storage.getDirectory();
    if (name === undefined) return await root.removeEntry('renders', { recursive: true });
    await (await root.getDirectoryHandle('renders')).removeEntry(name);
  } catch {
    // Nothing there.
  }
}

/** Lets go of the motion kept of clips, as when one of them goes: it would say what that showed. */
export async function clearMotion(): Promise<void> {
  try {
    await (await navigator.storage.getDirectory()).removeEntry('motion', { recursive: true });
  } catch {
    // There is none.
  }
}
