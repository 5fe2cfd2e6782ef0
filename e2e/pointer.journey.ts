/** Hands over the weave at random: whatever lies under the pointer, the picture goes on. */
import { MOVES } from '@skipback/core/moves/registry';
import { pieceOf } from '@skipback/core/project/schema';
import { codedClip } from './coded-clips';
import { openEdited } from './edited-project';
import { expect, startWith, test } from './journey';

const turned = (move: string): Record<string, unknown> => {
  const { fields } = MOVES.find((m) => m.id === move)!;
  return fields.some((f) => f.key === 'turn') ? { turn: 'once' } : {};
};
const CHAINS: readonly (readonly string[])[] = [
  ...MOVES.map((m) => [m.id]),
  ...MOVES.flatMap((a) => MOVES.map((b) => [a.id, b.id])),
];
const FORMS = ['Weave', 'Curve', 'Speed', 'Pattern'] as const;

/** Numbers that look drawn by chance and are the same every time (Park and Miller 1988). */
function drawn(seed: number): (below: number) => number {
  let at = seed;
  return (below) => {
    at = (at * 48_271) % 2_147_483_647;
    return at % below;
  };
}

test('every move and pair of moves, in every form, on clips of 23.976 to 120 and an uneven one', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const clips = await Promise.all((['cinema', 'ntsc', 'fast', 'quick', 'uneven'] as const).map(codedClip));
  await startWith(page, ...clips);
  await openEdited(page, 'pointed-at', (project) => ({
    ...project,
    pieces: CHAINS.map((moves, n) =>
      pieceOf({
        id: `p${n}`,
        clipId: project.clips[n % project.clips.length]!.id,
        span: { in: 7 + (n % 11), out: 40 + ((n * 7) % 19) },
        chain: moves.map((move, i) => ({ id: `${n} ${i}`, move, on: true, values: turned(move) })),
      }),
    ),
  }));
  const any = drawn(4711);
  const picture = page.getByTestId('picture');
  for (const [i, form] of FORMS.entries()) {
    await picture.click();
    await page.keyboard.press(String(i + 1));
    const group = page.getByRole('group', { name: new RegExp(`^${form}: `) });
    for (let n = 0; n < 45; n++) {
      // A Pattern is shown where the piece has one; where not, the form is empty.
      const box =
        (await group.count()) > 0 ? await group.boundingBox() : { x: 20, y: 560, width: 1240, height: 200 };
      const at = { x: box!.x + 2 + any(box!.width - 4), y: box!.y + 2 + any(box!.height - 4) };
      await page.mouse.move(at.x, at.y);
      const what = any(12);
      if (what < 2) await page.mouse.wheel(0, any(2) === 0 ? -240 : 200);
      else if (what < 5) await page.mouse.click(at.x, at.y);
      else if (what === 5) {
        await page.mouse.down();
        await page.mouse.move(at.x + any(80) - 40, at.y + any(20) - 10, { steps: 3 });
        await page.mouse.up();
      } else if (what === 6) await page.keyboard.press(any(2) === 0 ? 'ArrowRight' : 'Shift+ArrowLeft');
      else if (what === 7) await page.keyboard.press(any(2) === 0 ? 'Period' : 'h');
      else if (what === 8) await page.keyboard.press(any(2) === 0 ? 's' : 'm');
      else if (what === 9) await page.keyboard.press(any(3) === 0 ? '0' : 'z');
      else for (let k = 1; k < 6; k++) await page.mouse.move(at.x + k * 3, at.y - k);
    }
    await page.keyboard.press('Escape');
  }
  await expect(page.getByText(/picture stopped/i)).toHaveCount(0);
  // It plays as ever.
  await picture.click();
  if ((await page.getByTestId('source-frame').count()) > 0) await page.keyboard.press('s');
  await page.keyboard.press('Home');
  const position = page.getByTestId('timecode');
  const before = await position.textContent();
  await page.keyboard.press('Space');
  await expect(position).not.toHaveText(before ?? '', { timeout: 20_000 });
  await page.keyboard.press('k');
});
