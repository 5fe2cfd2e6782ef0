import { openDemo, openStage } from './stage';
const stage = await openStage();
try {
  const { page } = await stage.newPage();
  page.on('console', (m) => ['error', 'warning'].includes(m.type()) && console.log(m.type(), m.text()));
  page.on('pageerror', (e) => console.log('PAGEERROR', e.message));
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(stage.address);
  await openDemo(page);
  await page.waitForTimeout(4000);
  await page.getByRole('button', { name: 'Looks', exact: true }).click();
  await page.waitForTimeout(1500);
  await page.screenshot({ path: '/tmp/l1.png' });
  await page.getByRole('button', { name: /^Add Outline/ }).click();
  await page.mouse.move(640, 300);
  await page.waitForTimeout(1500);
  await page.screenshot({ path: '/tmp/l2.png' });
  await page.getByRole('button', { name: /^Where Outline applies/ }).click();
  await page.getByRole('button', { name: 'Add a condition' }).click();
  await page.waitForTimeout(600);
  await page.screenshot({ path: '/tmp/l3.png' });
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'What moves Outline: Glow' }).click();
  await page.getByLabel('Outline: Glow moves').selectOption('random');
  await page.waitForTimeout(800);
  await page.screenshot({ path: '/tmp/l4.png' });
} finally { await stage.close(); }
