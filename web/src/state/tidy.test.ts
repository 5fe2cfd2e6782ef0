import 'fake-indexeddb/auto';
import { placeSound } from '@skipback/core/project/sound-actions';
import { newProject } from '@skipback/core/project/new-project';
import { database } from '@skipback/media/storage/database';
import { putProject } from '@skipback/media/storage/project-records';
import { tidyStorage } from './tidy';

/** A private file system of names alone. */
class Folder {
  readonly folders = new Map<string, Folder>();
  readonly files = new Set<string>();
  getDirectoryHandle(name: string): Promise<Folder> {
    const folder = this.folders.get(name) ?? new Folder();
    this.folders.set(name, folder);
    return Promise.resolve(folder);
  }
  removeEntry(name: string): Promise<void> {
    this.folders.delete(name);
    this.files.delete(name);
    return Promise.resolve();
  }
  async *keys(): AsyncGenerator<string> {
    await Promise.resolve();
    yield* this.files;
  }
}

const root = new Folder();
Object.defineProperty(globalThis, 'navigator', {
  configurable: true,
  value: { storage: { getDirectory: () => Promise.resolve(root) } },
});

const clip = {
  id: 'c',
  mediaId: 'used',
  name: 'pier.mp4',
  marks: [],
  readAt: null,
  tracks: [],
  framing: 'fit' as const,
};
const shown = { poster: null, lengthFrames: 1 };

beforeEach(async () => {
  await database.projects.clear();
  root.folders.clear();
  const media = await root.getDirectoryHandle('media');
  for (const name of ['used', 'left over']) media.files.add(name);
  (await root.getDirectoryHandle('renders')).files.add('old.mp4');
  (await root.getDirectoryHandle('motion')).files.add('1-0011');
});

it('takes away what no project uses, and old renders, and nothing else', async () => {
  const media = await root.getDirectoryHandle('media');
  media.files.add('horn');
  const own = { mediaId: 'horn', name: 'horn.wav', lengthS: 1, fromS: 0, backward: false };
  const project = placeSound(newProject('p', 'Pier', 0), { id: 's', kind: 'own', own, frames: 30 }, 0);
  await putProject({ ...project, clips: [clip] }, shown);
  // One written before there were such sounds.
  const older = { ...newProject('q', 'Quay', 0), placed: undefined };
  await putProject(older as never, shown);
  await tidyStorage();
  expect([...root.folders.get('media')!.files]).toEqual(['used', 'horn']);
  expect(root.folders.has('renders')).toBe(false);
  // The motion of what went goes too; while nothing goes it stays.
  expect(root.folders.has('motion')).toBe(false);
  await root.getDirectoryHandle('motion');
  await tidyStorage();
  expect(root.folders.has('motion')).toBe(true);
});

it('keeps every file while a project cannot be read well enough to tell what it uses', async () => {
  await putProject({ ...newProject('p', 'Pier', 0), clips: [clip] }, shown);
  const record = (await database.projects.get('p'))!;
  await database.projects.put({ ...record, document: {} as never });
  await tidyStorage();
  expect([...root.folders.get('media')!.files]).toEqual(['used', 'left over']);
});

it('keeps what only the hidden version of a project uses', async () => {
  const pier = newProject('p', 'Pier', 0);
  await putProject(pier, { ...shown, letter: 'B', other: { ...pier, clips: [clip] } });
  await tidyStorage();
  expect([...root.folders.get('media')!.files]).toEqual(['used']);
});
