import { openStage, openDemo } from './stage';
const stage = await openStage();
const { page, errors } = await stage.newPage();
await openDemo(page);
await page.getByRole('button', { name: 'Recipes', exact: true }).click();
const t = Date.now();
const g = page.getByRole('group', { name: 'Recipes' });
for (const s of ['moving', 'dressed']) { await page.locator(`[data-loops=${s}]`).waitFor({ timeout: 60000 }).catch(()=>console.log('no', s)); console.log(s, Date.now() - t); }
await page.screenshot({ path: '/tmp/a.png' });
await g.getByRole('button', { name: /^Put on Prism wake/ }).click();
await page.waitForTimeout(1500);
await page.screenshot({ path: '/tmp/b.png' });
await page.keyboard.press('k');
await page.keyboard.press('Shift+S');
await page.waitForTimeout(600);
await page.screenshot({ path: '/tmp/c.png' });
console.log(errors);
await stage.close();
