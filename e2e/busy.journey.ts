/** Pictures that are too busy for an encoder are made all the same, as near as it can, and that is said. */
import { join } from 'node:path';
import { WORK, pictureHashes, run } from './coded-clips';
import { enter, expect, render, startWith, test } from './journey';

/** A clip of which nothing repeats and nothing is even. */
async function busyClip(name: string, picture: string): Promise<string> {
  const path = join(WORK, name);
  await run('ffmpeg', [
    ...['-y', '-f', 'lavfi', '-i', picture, '-frames:v', '45', '-pix_fmt', 'yuv420p'],
    ...['-c:v', 'libx264', '-qp', '4', path],
  ]);
  return path;
}

for (const [name, picture, says] of [
  [
    'noise-320.mp4',
    "nullsrc=s=320x180:r=30,geq=lum='random(1)*255':cb='random(2)*255':cr='random(3)*255'",
    true,
  ],
  ['cells-640.mp4', 'cellauto=s=640x360:r=30:rule=30:random_fill_ratio=0.5', undefined],
  ['cells-128.mp4', 'cellauto=s=128x72:r=30:rule=110', undefined],
  ['small-even.mp4', 'color=c=gray:s=128x72:r=30', false],
] as const)
  test(`${name} ends as H.264`, async ({ page, allowedErrors }) => {
    // What the encoder gives up is tried before, and is no fault.
    allowedErrors.push(/OpenH264|Encod/);
    await startWith(page, await busyClip(name, picture));
    await enter(page, 'Span in', '0');
    await enter(page, 'Span out', '45');
    const file = await render(page, 'mp4-h264', join(WORK, `made-${name}`));
    expect(await pictureHashes(file)).toHaveLength(45);
    const said = page.getByText(/too busy for MP4, H.264/);
    if (says === true) await expect(said).toBeVisible();
    if (says === false) await expect(said).toHaveCount(0);
  });
