import { shelfBudget } from '../budgets';
import { DiskShelf } from './field-shelf';

/** A private file system in memory, whose clock ticks with every write. */
class Folder {
  readonly kind = 'directory';
  readonly folders = new Map<string, Folder>();
  readonly files = new Map<string, { bytes: Uint8Array; size: number; lastModified: number }>();
  static now = 1;
  getDirectoryHandle(name: string): Promise<Folder> {
    const folder = this.folders.get(name) ?? new Folder();
    this.folders.set(name, folder);
    return Promise.resolve(folder);
  }
  getFileHandle(name: string, { create = false } = {}) {
    if (!create && !this.files.has(name)) return Promise.reject(new Error('NotFoundError'));
    return Promise.resolve(this.handle(name));
  }
  private handle(name: string) {
    const { files } = this;
    return {
      kind: 'file',
      getFile: () => {
        const { bytes, size, lastModified } = files.get(name)!;
        const arrayBuffer = () => Promise.resolve(bytes.slice().buffer);
        return Promise.resolve({ name, size, lastModified, arrayBuffer });
      },
      createWritable: () => {
        let written = new Uint8Array();
        return Promise.resolve({
          write: (data: Uint8Array<ArrayBuffer>) => Promise.resolve(void (written = data)),
          close: () => {
            files.set(name, { bytes: written, size: written.length, lastModified: Folder.now++ });
            return Promise.resolve();
          },
        });
      },
    };
  }
  removeEntry(name: string): Promise<void> {
    this.files.delete(name);
    return Promise.resolve();
  }
  async *values() {
    await Promise.resolve();
    for (const name of this.files.keys()) yield this.handle(name);
  }
}

let root = new Folder();
const storage = { getDirectory: () => Promise.resolve(root) };
const setStorage = (value: unknown) =>
  Object.defineProperty(globalThis, 'navigator', { configurable: true, value: { storage: value } });
const settled = () => new Promise((resolve) => setTimeout(resolve, 20));
const field = (value: number) => new Uint8Array(8).fill(value);

beforeEach(() => {
  root = new Folder();
  setStorage(storage);
});

it('gives back on the next visit what was put there, each under its own text', async () => {
  const shelf = new DiskShelf();
  shelf.put('clip 7', field(1));
  shelf.put('clip 8', field(2));
  await settled();
  expect(await shelf.get('clip 7')).toEqual(field(1));
  const next = new DiskShelf();
  expect(await next.get('clip 8')).toEqual(field(2));
  expect(await next.get('clip 9')).toBeUndefined();
});

it('lets the oldest go where there is no more room', async () => {
  const before = new DiskShelf();
  for (const name of ['a', 'b', 'c']) before.put(name, field(3));
  await settled();
  // As large as all but one of the smallest may be.
  const [oldest, second] = [...root.folders.get('motion')!.files.values()];
  oldest!.size = shelfBudget(undefined) / 2;
  second!.size = shelfBudget(undefined) / 2 - 8;
  const shelf = new DiskShelf();
  shelf.put('d', field(4));
  await settled();
  expect(await shelf.get('a')).toBeUndefined();
  expect(await shelf.get('b')).toEqual(field(3));
  expect(await shelf.get('d')).toEqual(field(4));
});

it('keeps nothing, and says nothing, where the disk refuses', async () => {
  setStorage({ getDirectory: () => Promise.reject(new Error('refused')) });
  const shelf = new DiskShelf();
  shelf.put('clip 7', field(1));
  await settled();
  expect(await shelf.get('clip 7')).toBeUndefined();
});

it('does not let what waits to be written grow without end', async () => {
  const shelf = new DiskShelf();
  for (let i = 0; i < 100; i++) shelf.put(`clip ${i}`, field(i));
  await settled();
  expect(root.folders.get('motion')!.files.size).toBeLessThanOrEqual(16);
  shelf.put('later', field(9));
  await settled();
  expect(await shelf.get('later')).toEqual(field(9));
});
