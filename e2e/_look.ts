import { openStage, openDemo } from '/work/main/e2e/stage';
const stage = await openStage();
const { page, errors } = await stage.newPage();
try {
  await page.waitForTimeout(800);
  await page.screenshot({ path: '/tmp/s1.png' });
  await openDemo(page);
  await page.waitForTimeout(6000);
  await page.screenshot({ path: '/tmp/s2.png' });
  await page.keyboard.press('Shift+L');
  await page.keyboard.press('Space');
  await page.waitForTimeout(6000);
  console.log(await page.getByTestId('stats').textContent().catch(e=>String(e)));
  await page.screenshot({ path: '/tmp/s3.png' });
} catch (e) { console.log(e); await page.screenshot({ path: '/tmp/s2.png' }); }
console.log(errors);
await stage.close();
