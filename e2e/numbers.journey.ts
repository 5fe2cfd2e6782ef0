/** What is typed into fields: both halves of a pair, empty fields, the decimal comma, and refusals with words. */
import { codedClip } from './coded-clips';
import { addBoomerang, enter, expect, startWith, test } from './journey';

test('a value is taken as it is meant, or refused in words', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await addBoomerang(page, { trips: 2, back: '100 %', turn: 'once' });
  await page.getByLabel('Boomerang: Set by').selectOption({ label: 'total length' });
  const total = page.getByLabel(/^Boomerang: .*length$/i);
  // It offers what it is now; of a pair that half counts which is changed.
  const [frames] = (await total.inputValue()).split(/\s{2,}/);
  await total.fill(`${frames}  2 s`);
  await total.press('Enter');
  await expect(total).toHaveValue('60 f  2 s');
  await total.fill('90 f  2 s');
  await total.press('Enter');
  await expect(total).toHaveValue('90 f  3 s');

  // Refused: it says why, keeps the focus, and Tab puts the old value back.
  const out = page.getByLabel('Span out', { exact: true });
  const before = await out.inputValue();
  for (const [typed, words] of [
    ['', /It needs a value/],
    ['soon', /“soon” is not understood here/],
    ['1:00:00:00', /At most 300 f/],
  ] as const) {
    await out.fill(typed);
    await out.press('Enter');
    const refusal = page.getByRole('alert').filter({ hasText: words });
    await expect(refusal).toBeVisible();
    await expect(out).toBeFocused();
    expect(await out.getAttribute('aria-describedby')).toBe(await refusal.getAttribute('id'));
  }
  await out.press('Escape');
  await expect(out).toHaveValue(before);
  await expect(out).not.toBeFocused();
  await expect(page.getByRole('alert')).toHaveCount(0);

  await page.getByRole('button', { name: 'Sound', exact: true }).click();
  await page.getByLabel('The clips’ own sound').check();
  const level = page.getByLabel('Clip level', { exact: true });
  await level.fill('-3,5');
  await level.press('Enter');
  await expect(level).toHaveValue(/^-3\.5/);
  await level.fill('');
  await level.press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: /It needs a value. A number from/ })).toBeVisible();
  await level.press('Escape');
  await expect(level).toHaveValue(/^-3\.5/);
  await page.keyboard.press('Escape');
  await expect(level).toHaveCount(0);
  // A sum, other units, and what would end before it begins: the other edge gives way, and that is said.
  for (const [typed, shown] of [
    ['60+10', '70'],
    ['3 s', '90'],
    ['(1 s + 20) * 2 / 4', '25'],
  ] as const) {
    await enter(page, 'Span out', typed);
    await expect(out).toHaveValue(shown);
  }
  await enter(page, 'Span in', '40');
  await expect(page.getByText('The span’s end gave way: it is frame 40 to 41 now.')).toBeVisible();
  await expect(out).toHaveValue('41');
  await enter(page, 'Span out', '120');
  await enter(page, 'Span in', '1,5 s');
  await expect(page.getByLabel('Span in', { exact: true })).toHaveValue('45');
});
