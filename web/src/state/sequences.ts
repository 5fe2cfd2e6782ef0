import { numbered } from '@skipback/media/reader/sequence-file';

/** Numbered pictures of one folder are a sequence from so many on; loose ones, which may be photographs, from more. */
const LEAST = { folder: 4, loose: 12 };

const stemOf = ({ name }: File): string => name.replace(/\d+\D*$/, '');

/** A dropped file's folder, as browsers tell it; empty where it came by itself. */
function folderOf(file: File): string {
  const { path = file.webkitRelativePath } = file as File & { path?: string };
  const folder = path.split('/').slice(0, -1).join('/');
  return folder === '.' ? '' : folder;
}

/** Files with each row of numbered pictures as one zip of them, in place of its first; what is none stays as it is. */
export async function withSequences(files: readonly File[]): Promise<readonly File[]> {
  const rows = grouped(numbered(files, (f) => f.name));
  const out: File[] = [];
  const taken = new Set<File>();
  for (const file of files) {
    if (taken.has(file)) continue;
    const row = rows.get(keyOf(file)) ?? [];
    if (row.length < (folderOf(file) === '' ? LEAST.loose : LEAST.folder) || !row.includes(file)) {
      out.push(file);
      continue;
    }
    row.forEach((f) => taken.add(f));
    out.push(await zipped(row));
  }
  return out;
}

const keyOf = (file: File): string =>
  `${folderOf(file)}/${stemOf(file)}${/\.[^.]+$/.exec(file.name)?.[0] ?? ''}`;

function grouped(files: readonly File[]): Map<string, File[]> {
  const rows = new Map<string, File[]>();
  for (const file of files) rows.set(keyOf(file), [...(rows.get(keyOf(file)) ?? []), file]);
  return rows;
}

/** Pictures as one file, none of them packed again. */
async function zipped(row: readonly File[]): Promise<File> {
  const { BlobReader, BlobWriter, ZipWriter } = await import('@zip.js/zip.js');
  const zip = new ZipWriter(new BlobWriter('application/zip'), { level: 0 });
  for (const file of row) await zip.add(file.name, new BlobReader(file));
  const name = stemOf(row[0]!).replace(/[-_. ]+$/, '') || folderOf(row[0]!).split('/').at(-1) || 'pictures';
  return new File([await zip.close()], `${name}.zip`, { type: 'application/zip' });
}
