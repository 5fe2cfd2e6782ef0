import 'fake-indexeddb/auto';
import { renameProject } from '@skipback/core/project/actions';
import { newProject } from '@skipback/core/project/new-project';
import { BlobWriter, TextReader, Uint8ArrayReader, ZipWriter } from '@zip.js/zip.js';
import { database } from './database';
import { type JournalStorage, forgetUnsaved, noteUnsaved, notedUnsaved } from './journal';
import { changeProject, putProject, revisionOf, writeProject } from './project-records';
import { entriesOf, unfold } from '../zip';

const shown = { poster: null, lengthFrames: 12 };
const pier = newProject('p', 'Pier', 0);

describe('project records', () => {
  beforeEach(() => database.projects.clear());

  it('take a newer revision, and refuse one that was overtaken', async () => {
    await putProject(pier, shown);
    expect(await writeProject({ ...pier, name: 'second' }, 2, shown)).toBe('written');
    // A tab that opened revision 1 writes its own second one.
    expect(await writeProject({ ...pier, name: 'stale' }, 2, shown)).toBe('overtaken');
    expect((await database.projects.get('p'))!.name).toBe('second');
  });

  it('that are gone are not written by accident', async () => {
    expect(await writeProject(pier, 5, shown)).toBe('gone');
    expect(await database.projects.count()).toBe(0);
  });

  it('are renamed as they are now, not as a shelf last saw them', async () => {
    await putProject(pier, shown);
    const chain = { ...pier, size: { width: 640, height: 360 } };
    await writeProject(chain, 2, shown);
    await changeProject('p', (p) => renameProject(p, 'Market'));
    const record = (await database.projects.get('p'))!;
    expect(record).toMatchObject({ name: 'Market', document: { name: 'Market', size: { width: 640 } } });
    expect(revisionOf(record)).toBe(3);
    expect(await changeProject('nobody', (p) => p)).toBe(false);
  });

  it('of before count as revision 0', async () => {
    await database.projects.put({ id: 'p', name: 'Pier', savedAt: 0, document: pier, ...shown });
    expect(await writeProject(pier, 1, shown)).toBe('written');
  });
});

describe('the journal', () => {
  const storage = (): JournalStorage & { full?: boolean } => {
    const items = new Map<string, string>();
    return {
      getItem: (key) => items.get(key) ?? null,
      setItem(key, value) {
        if (this.full) throw new DOMException('full', 'QuotaExceededError');
        items.set(key, value);
      },
      removeItem: (key) => void items.delete(key),
    };
  };

  it('gives back what was noted until the database has it', () => {
    const s = storage();
    expect(noteUnsaved(s, pier, 4)).toBe(true);
    expect(notedUnsaved(s, 'p')).toEqual({ revision: 4, document: JSON.parse(JSON.stringify(pier)) });
    forgetUnsaved(s, 'p', 3);
    expect(notedUnsaved(s, 'p')).toBeDefined();
    forgetUnsaved(s, 'p', 4);
    expect(notedUnsaved(s, 'p')).toBeUndefined();
  });

  it('says when there is no room, and takes nothing torn for a project', () => {
    const s = storage();
    s.setItem('skip-back-unsaved-p', '{"revision":4,"docu');
    expect(notedUnsaved(s, 'p')).toBeUndefined();
    s.full = true;
    expect(noteUnsaved(s, pier, 4)).toBe(false);
  });
});

describe('project zips', () => {
  const zipOf = async (bytes: Uint8Array, level: number) => {
    const zip = new ZipWriter(new BlobWriter(), { level });
    await zip.add('project.json', new TextReader(JSON.stringify(pier)));
    await zip.add('media/m/pier.mp4', new Uint8ArrayReader(bytes));
    return zip.close();
  };
  const noise = Uint8Array.from({ length: 200_000 }, (_, i) => (i * 2654435761) >>> 24);

  it('give back what went in', async () => {
    for (const level of [0, 6]) {
      const zip = await zipOf(noise, level);
      const media = (await entriesOf(zip)).find((e) => e.filename.startsWith('media/'))!;
      expect(new Uint8Array(await (await unfold(zip, media)).arrayBuffer())).toEqual(noise);
    }
  });

  it('media that are not packed are read where they lie: nothing of them is held', async () => {
    const zip = await zipOf(noise, 0);
    const sliced = jest.spyOn(zip, 'slice');
    const media = (await entriesOf(zip)).find((e) => e.filename.startsWith('media/'))!;
    const before = sliced.mock.calls.length;
    const out = await unfold(zip, media);
    const [from, to] = sliced.mock.calls.at(-1)!;
    expect(sliced.mock.calls.length).toBeGreaterThan(before);
    expect(to! - from!).toBe(noise.length);
    expect(sliced.mock.results.at(-1)!.value).toBe(out);
  });

  it('that unfold to a thousand times their size are refused with both sizes', async () => {
    const bomb = await zipOf(new Uint8Array(24_000_000), 9);
    expect(bomb.size).toBeLessThan(200_000);
    await expect(entriesOf(bomb)).rejects.toMatchObject({
      sentence: expect.stringMatching(/^This file of 0\.\d MB would unfold to 24 MB/) as string,
    });
  });

  it('with one flipped byte anywhere in their media are refused by name', async () => {
    const bytes = new Uint8Array(await (await zipOf(noise, 0)).arrayBuffer());
    for (const share of [0.1, 0.5, 0.9]) {
      const flipped = bytes.slice();
      flipped[Math.floor(1000 + share * 190_000)]! ^= 4;
      const zip = new Blob([flipped]);
      const media = (await entriesOf(zip)).find((e) => e.filename.startsWith('media/'))!;
      await expect(unfold(zip, media)).rejects.toMatchObject({
        sentence: expect.stringContaining('"pier.mp4" in this file is damaged') as string,
      });
    }
  });

  it('cut off, or something else altogether, are said to be that', async () => {
    const whole = await zipOf(noise, 0);
    for (const file of [whole.slice(0, whole.size - 300), new Blob(['not a zip'])])
      await expect(entriesOf(file)).rejects.toMatchObject({
        sentence: expect.stringContaining('cut off') as string,
      });
  });
});
