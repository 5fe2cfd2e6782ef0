import { execSync } from 'node:child_process';
import { openStage, openDemo } from './stage';
const stage = await openStage();
const { page, errors } = await stage.newPage();
await openDemo(page);
await page.goto(stage.address);
await page.getByRole('button', { name: 'Open Lamplighter, looks' }).click();
await page
  .getByText('Drawing the pictures')
  .waitFor({ state: 'detached', timeout: 90000 })
  .catch(() => undefined);
await page.waitForTimeout(15000);
await page.locator('body').press('Shift+L');
await page.keyboard.press('Space');
const rss = () =>
  Math.max(
    ...execSync('ps -eo rss,args')
      .toString()
      .split('\n')
      .filter((l) => /type=renderer/.test(l))
      .map((l) => Number(l.trim().split(/\s+/)[0])),
  ) / 1024;
for (let i = 0; i < 31; i++) {
  console.log(i * 20, Math.round(rss()), await page.getByTestId('stats').textContent());
  await page.waitForTimeout(20000);
}
console.log(errors);
await stage.close();
