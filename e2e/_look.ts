import { openStage } from '/work/main/e2e/stage';
import { codedClip } from '/work/main/e2e/coded-clips';
import { startWith } from '/work/main/e2e/journey';
const stage = await openStage();
const { page, errors } = await stage.newPage();
try {
  await startWith(page, await codedClip('uneven'));
  await page.waitForTimeout(2500);
} catch (e) { console.log(e);  }
await page.screenshot({ path: '/tmp/u.png' });
console.log(errors);
await stage.close();
