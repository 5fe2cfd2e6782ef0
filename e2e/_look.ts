import { openStage, openDemo } from '/work/main/e2e/stage';
const stage = await openStage();
const { page, errors } = await stage.newPage();
const shot = (n: string) => page.screenshot({ path: `/tmp/${n}.png` });
try {
  await openDemo(page);
  await page.waitForTimeout(9000);
  await page.getByRole('button', { name: 'Find loops near the span' }).click();
  await page.getByRole('group', { name: 'Found loops' }).getByRole('button').first().waitFor({timeout:20000});
  await page.waitForTimeout(300);
  await shot('m1');
  await page.keyboard.press('Escape');
  await page.waitForTimeout(300);
  await page.keyboard.press('Home');
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.getByRole('button', { name: 'Open Lamplighter, every move' }).click();
  await page.waitForTimeout(2500);
  await page.mouse.click(160, 760);
  await page.waitForTimeout(1500);
  await shot('m2');
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.waitForTimeout(1200);
  await shot('m3');
} catch (e) { console.log(e); await shot('m1'); }
console.log(errors);
await stage.close();
