import { openStage, openDemo } from '/work/main/e2e/stage';
const stage = await openStage();
const { page, errors } = await stage.newPage();
const shot = (n: string) => page.screenshot({ path: `/tmp/${n}.png` });
try {
  await openDemo(page);
  await page.waitForTimeout(5000);
  await page.keyboard.press('Shift+L');
  await page.keyboard.press('Space');
  await page.waitForTimeout(1500);
  for (let i=0;i<4;i++){ await page.waitForTimeout(3000); console.log(await page.getByTestId('stats').textContent()); }
  await page.keyboard.press('Space');
  await page.keyboard.press('Shift+?');
  await page.waitForTimeout(400);
  await shot('h1');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /Show tea/ }).click();
  await page.waitForTimeout(1500);
  await shot('h2');
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.waitForTimeout(500);
  const dl = page.waitForEvent('download');
  await page.getByRole('button', { name: /Render \d+ frames/ }).click();
  await page.waitForTimeout(1500);
  await shot('r1');
  const d = await dl; await d.saveAs('/tmp/out.mp4');
  await page.waitForTimeout(500);
  await shot('r2');
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.waitForTimeout(800);
  await shot('s1');
} catch (e) { console.log(e); await shot('err'); }
console.log(errors);
await stage.close();
