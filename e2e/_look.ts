import { openStage, openDemo } from '/work/main/e2e/stage';
import { createHash } from 'node:crypto';
const stage = await openStage();
const { page, errors } = await stage.newPage();
const pic = async () => createHash('md5').update(await page.getByTestId('picture').screenshot()).digest('hex').slice(0,6);
try {
  await openDemo(page);
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.getByRole('button', { name: 'Open Lamplighter, every move' }).click();
  for (const w of [1000, 2000, 4000, 8000]) {
  await page.waitForTimeout(w);
  const t = Date.now(); const before = await pic();
  await page.mouse.click(100 + w / 20, 760);
  let n=0; while (n++ < 40 && (await pic()) === before) await page.waitForTimeout(100);
  console.log(w, 'changed after', Date.now()-t, 'ms', await page.getByTestId('timecode').textContent());
  }
} catch (e) { console.log(e); }
console.log(errors);
await stage.close();
