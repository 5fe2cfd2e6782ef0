import { openStage, openDemo } from '/work/main/e2e/stage';
const stage = await openStage();
const { page, errors } = await stage.newPage();
const shot = (n: string) => page.screenshot({ path: `/tmp/${n}.png` });
try {
  await openDemo(page);
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.getByRole('button', { name: 'Open Lamplighter, every move' }).click();
  await page.waitForTimeout(7000);
  await shot('m1');
  await page.getByRole('button', { name: /^Add Hold/ }).click();
  await page.getByRole('button', { name: 'More for Hold' }).click();
  await page.waitForTimeout(300);
  await shot('m2');
} catch (e) {
  console.log(e);
  await shot('m1');
}
console.log(errors);
await stage.close();
