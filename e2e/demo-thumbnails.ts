/**
 * `npm run demo:thumbnails`: has the application draw the thumbnails of the demo's clips, and puts them beside the
 * clips (demo/media/thumbnails.json and a sheet each), so that the demo opens with them.
 */
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { openDemo, openStage } from './stage';

const media = join(import.meta.dirname, '..', 'demo', 'media');
const stage = await openStage();
const { page } = await stage.newPage();
await page.route('**/demo/media/thumbnails.json', (route) => route.fulfill({ status: 404 }));
const [index] = await Promise.all([page.waitForResponse('**/demo/projects/index.json'), openDemo(page)]);
const projects = (await index.json()) as { project: string }[];
const names = new Map<string, string>();
for (const { project } of projects) {
  const { clips } = (await (await fetch(`${stage.address}/demo/projects/${project}`)).json()) as {
    clips: { mediaId: string; name: string }[];
  };
  for (const c of clips) names.set(c.name, c.mediaId);
}

interface Drawn {
  readonly name: string;
  readonly bytes: number;
  readonly thumbnails: { readonly sheet: string } | null;
}

/** What is kept of the demo's clips, the sheets in base64. */
const kept = () =>
  page.evaluate(
    () =>
      new Promise<Drawn[]>((resolve) => {
        const opening = indexedDB.open('skip-back');
        opening.onsuccess = () => {
          const all = opening.result.transaction('media').objectStore('media').getAll();
          all.onsuccess = async () => {
            const records = all.result as {
              name: string;
              bytes: number;
              thumbnails: { sheet: Blob } | null;
            }[];
            opening.result.close();
            const drawn = records.map(async ({ name, bytes, thumbnails }) => {
              if (!thumbnails) return { name, bytes, thumbnails };
              const data = new Uint8Array(await thumbnails.sheet.arrayBuffer());
              const sheet = btoa(data.reduce((text, byte) => text + String.fromCharCode(byte), ''));
              return { name, bytes, thumbnails: { ...thumbnails, sheet } };
            });
            resolve(await Promise.all(drawn));
          };
        };
      }),
  );

for (const { project } of projects) {
  const { name } = (await (await fetch(`${stage.address}/demo/projects/${project}`)).json()) as {
    name: string;
  };
  await page.goto(stage.address);
  await page.getByRole('button', { name: `Open ${name}`, exact: true }).click();
  await page.waitForURL(/project/);
  await page.waitForTimeout(12_000);
}
const drawn = await kept();
const all: Record<string, object> = {};
for (const { name, bytes, thumbnails } of drawn) {
  if (!thumbnails) throw new Error(`${name} has no thumbnails`);
  const file = names.get(name)!;
  const sheet = file.replace(/\.\w+$/, '.thumbnails.webp');
  writeFileSync(join(media, sheet), Buffer.from(thumbnails.sheet, 'base64'));
  all[file] = { bytes, ...thumbnails, sheet };
}
writeFileSync(join(media, 'thumbnails.json'), `${JSON.stringify(all)}\n`);
console.log(`${drawn.length} clips, ${names.size} expected`);
await stage.close();
