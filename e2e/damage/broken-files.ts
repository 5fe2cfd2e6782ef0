/** Broken files from a seed: the same ones each time. */
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { WORK } from '../coded-clips';
import { MUTATIONS } from './mutations';
import { oneOf, seeded } from './random';
import { type WholeFile, oddFiles, wholeFiles } from './whole-files';

export interface BrokenFile {
  readonly path: string;
  /** What it was, and what was done to it. */
  readonly words: string;
  /** As what it comes in: a sound becomes the song, a project is opened on the shelf. */
  readonly as: 'clip' | 'song' | 'project';
}

const asOf = (ending: string): BrokenFile['as'] =>
  ending === 'skipback.zip' ? 'project' : SOUNDS.includes(ending) ? 'song' : 'clip';

const SOUNDS = ['wav', 'mp3', 'flac', 'ogg', 'm4a'];

/** So many files: the odd ones first, then whole ones and `more` broken by chance, every way in turn. */
export async function brokenFiles(
  count: number,
  seed: number,
  more: readonly WholeFile[] = [],
): Promise<BrokenFile[]> {
  const random = seeded(seed);
  const folder = join(WORK, 'damage', `broken-${seed}`);
  await mkdir(folder, { recursive: true });
  const files: BrokenFile[] = (await oddFiles()).map(({ path, name }) => ({
    path,
    words: name,
    as: 'clip' as const,
  }));
  const whole = [...(await wholeFiles()), ...more];
  for (let n = 0; files.length < count; n++) {
    const mutation = MUTATIONS[n % MUTATIONS.length]!;
    const of = oneOf(
      random,
      whole.filter((f) => mutation.fits(f.ending)),
    );
    const bytes = mutation.apply(await readFile(of.path), random);
    if (!bytes) continue;
    const path = join(folder, `${String(files.length).padStart(3, '0')}.${of.ending}`);
    await writeFile(path, bytes);
    files.push({ path, words: `${of.name}: ${mutation.name}`, as: asOf(of.ending) });
  }
  return files.slice(0, count);
}
