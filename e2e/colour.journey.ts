/** Colour and quality, measured on files: bars of every tagging, straight, scaled, turned and mixed. */
import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { WORK, codedClip, run } from './coded-clips';
import { enter, expect, render, setSpan, startWith, test } from './journey';
import { ALONE, whileMachineKeepsUp } from './machine';

const BARS: readonly (readonly [number, number, number])[] = [
  [235, 235, 235],
  [200, 200, 200],
  [180, 180, 16],
  [16, 180, 180],
  [16, 180, 16],
  [180, 16, 180],
  [180, 16, 16],
  [16, 16, 180],
];

interface Kind {
  readonly matrix: 'bt709' | 'smpte170m';
  readonly range: 'tv' | 'pc';
  readonly tagged: boolean;
  readonly size: string;
  readonly turn?: number;
}

/** A clip of eight bars of known colours, encoded with a matrix and range, tagged or not. */
async function bars(name: string, { matrix, range, tagged, size, turn }: Kind): Promise<string> {
  const path = join(WORK, `bars-${name}.mp4`);
  const [w, h] = size.split('x').map(Number) as [number, number];
  const sources = BARS.flatMap(([r, g, b]) => {
    const hex = [r, g, b].map((v) => v.toString(16).padStart(2, '0')).join('');
    return ['-f', 'lavfi', '-i', `color=0x${hex}:s=${w / 8}x${h}:r=30:d=1,format=gbrp`];
  });
  const inputs = BARS.map((_, i) => `[${i}:v]`).join('');
  const out = matrix === 'bt709' ? 'bt709' : 'bt601';
  const flat = join(WORK, `bars-${name}-flat.mp4`);
  const tags = [
    '-colorspace',
    matrix,
    '-color_primaries',
    matrix,
    '-color_trc',
    matrix,
    '-color_range',
    range,
  ];
  await run('ffmpeg', [
    ...['-y', ...sources, '-filter_complex'],
    `${inputs}hstack=inputs=8,scale=out_color_matrix=${out}:out_range=${range},format=yuv420p`,
    ...['-c:v', 'libx264', '-crf', '2', '-preset', 'veryfast', ...(tagged ? tags : []), turn ? flat : path],
  ]);
  if (turn) await run('ffmpeg', ['-y', '-i', flat, '-metadata:s:v', `rotate=${turn}`, '-c', 'copy', path]);
  return path;
}

/** Values across a picture, eight to a bar, so that the edges between bars can be left out. */
const CELLS = 64;

/** Mean red, green and blue of the middle of each bar. */
function middles(raw: Buffer): number[][] {
  return BARS.map((_, bar) =>
    [0, 1, 2].map((c) => {
      const cells = [3, 4].map((k) => raw[3 * (8 * bar + k) + c]!);
      return cells.reduce((a, b) => a + b, 0) / cells.length;
    }),
  );
}

/** The bars of a frame of a file, read as it is tagged. */
async function readBars(file: string, frame: number, across = true): Promise<number[][]> {
  const scale = across ? `scale=${CELLS}:1:flags=area` : `scale=1:${CELLS}:flags=area`;
  const raw = await run('ffmpeg', [
    '-i',
    file,
    '-vf',
    `select=eq(n\\,${frame}),scale=in_color_matrix=bt709:in_range=tv,format=gbrp,${scale}`,
    ...['-frames:v', '1', '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-'],
  ]);
  return middles(raw);
}

/** How far values are from the bars at most. */
const furthest = (read: number[][]): number =>
  Math.max(...read.flatMap((rgb, i) => rgb.map((v, c) => Math.abs(v - BARS[i]![c]!))));

/** Holds values against the bars: at most three levels off beyond `loss`, what the encoder makes of an untouched picture. */
function expectBars(read: number[][], loss: number, words: string): void {
  expect(furthest(read), `${words}: ${JSON.stringify(read)}`).toBeLessThanOrEqual(3 + loss);
}

async function tagsOf(file: string): Promise<string> {
  const text = await run('ffprobe', [
    ...[
      '-select_streams',
      'v:0',
      '-show_entries',
      'stream=pix_fmt,color_range,color_space',
      '-of',
      'csv=p=0',
      file,
    ],
  ]);
  return text.toString().trim();
}

const FORMATS = [
  ['mp4-h264', 'mp4'],
  ['webm-vp9', 'webm'],
  ['webm-av1', 'webm'],
] as const;

test('bars of every tagging, straight, scaled and mixed in one file, come out as they went in', async ({
  page,
}) => {
  const clips = [
    await bars('hd', { matrix: 'bt709', range: 'tv', tagged: true, size: '1280x720' }),
    await bars('hd-untagged', { matrix: 'bt709', range: 'tv', tagged: false, size: '1280x720' }),
    await bars('hd-601', { matrix: 'smpte170m', range: 'tv', tagged: true, size: '1280x720' }),
    await bars('hd-full', { matrix: 'bt709', range: 'pc', tagged: true, size: '1280x720' }),
    await bars('sd-untagged', { matrix: 'smpte170m', range: 'tv', tagged: false, size: '640x360' }),
    await bars('sd-full', { matrix: 'smpte170m', range: 'pc', tagged: true, size: '960x540' }),
  ];
  await startWith(page, ...clips);
  await enter(page, 'Span in', '0');
  await enter(page, 'Span out', '6');
  for (const clip of clips.slice(1)) {
    await page.getByRole('button', { name: `Add a piece of ${clip.split('/').at(-1)!}` }).click();
    await enter(page, 'Span in', '0');
    await enter(page, 'Span out', '6');
  }
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('Quality', { exact: true }).selectOption('finest');
  let loss = 0;
  for (const [format, ending] of FORMATS) {
    const file = await render(page, format, join(WORK, `bars.${ending}`));
    expect(await tagsOf(file)).toMatch(/^yuv420p,tv,bt709/);
    // The first piece goes to the encoder as it was decoded: what it is off by is the encoder's doing.
    loss = furthest(await readBars(file, 3));
    expect(loss).toBeLessThan(10);
    for (let i = 1; i < clips.length; i++)
      expectBars(await readBars(file, 6 * i + 3), loss, `${format}, ${clips[i]!}`);
  }
  // The screen shows the same: of the first piece, and of the last one, which is scaled.
  await page.getByRole('link', { name: 'Weave' }).click();
  await expect(page.getByTestId('length')).toBeVisible();
  for (const key of ['Home', 'End']) {
    await page.keyboard.press(key);
    await expect(async () => {
      const shot = join(WORK, 'screen.png');
      await page.getByTestId('picture').screenshot({ path: shot });
      const scale = `format=gbrp,scale=${CELLS}:1:flags=area`;
      const seen = middles(
        await run('ffmpeg', ['-i', shot, '-vf', scale, '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-']),
      );
      expectBars(seen, loss, key);
    }).toPass({ timeout: 15_000 });
  }
});

/** Has workers' decoders give what those of graphics cards do: colour differences in pairs. */
const IN_PAIRS = `
  const Own = Worker;
  const prelude = \`
    const Real = VideoDecoder;
    const paired = async (picture) => {
      const { width, height } = picture.visibleRect;
      const [w, h] = [(width + 1) >> 1, (height + 1) >> 1];
      const planes = new Uint8Array(width * height + 2 * w * h);
      await picture.copyTo(planes);
      const pairs = planes.slice();
      const chroma = width * height;
      for (let i = 0; i < w * h; i++) {
        pairs[chroma + 2 * i] = planes[chroma + i];
        pairs[chroma + 2 * i + 1] = planes[chroma + w * h + i];
      }
      const { timestamp, colorSpace } = picture;
      picture.close();
      const init = { format: 'NV12', codedWidth: width, codedHeight: height, timestamp, colorSpace };
      return new VideoFrame(pairs, init);
    };
    globalThis.VideoDecoder = class extends Real {
      constructor({ output, error }) {
        const order = { chain: Promise.resolve() };
        super({
          error,
          output: (picture) => {
            order.chain = order.chain.then(async () => output(await paired(picture)));
          },
        });
        this.order = order;
      }
      async flush() {
        await super.flush();
        await this.order.chain;
      }
    };
  \`;
  globalThis.Worker = class extends Own {
    constructor(url, options) {
      const code = 'import ' + JSON.stringify(new URL(url, location.href).href) + ';' + prelude;
      super(URL.createObjectURL(new Blob([code], { type: 'text/javascript' })), { ...options, type: 'module' });
    }
  };
`;

test('pictures as graphics cards decode them keep their colours: untouched, brought to ours, drawn on, seen', async ({
  page,
}) => {
  await page.addInitScript(IN_PAIRS);
  await page.reload();
  const clips = [
    await bars('pairs', { matrix: 'bt709', range: 'tv', tagged: true, size: '1280x720' }),
    await bars('pairs-601', { matrix: 'smpte170m', range: 'tv', tagged: true, size: '1280x720' }),
  ];
  await startWith(page, ...clips);
  await setSpan(page, 0, 6);
  for (const blended of [false, true]) {
    await page.getByRole('button', { name: 'Add a piece of bars-pairs-601.mp4' }).click();
    await setSpan(page, 0, 6);
    if (!blended) continue;
    // Half of its pictures are made of two.
    await page.getByRole('button', { name: /^Add Speed/ }).click();
    await page.getByRole('button', { name: 'Blend', exact: true }).click();
  }
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('Quality', { exact: true }).selectOption('finest');
  const file = await render(page, 'webm-vp9', join(WORK, 'bars-pairs.webm'));
  const loss = furthest(await readBars(file, 3));
  expect(loss).toBeLessThan(10);
  for (const frame of [9, 15, 16, 17]) expectBars(await readBars(file, frame), loss, `frame ${frame}`);
  await page.getByRole('link', { name: 'Weave' }).click();
  await page.keyboard.press('Home');
  await expect(async () => {
    const shot = join(WORK, 'screen-pairs.png');
    await page.getByTestId('picture').screenshot({ path: shot });
    const scale = `format=gbrp,scale=${CELLS}:1:flags=area`;
    const raw = await run('ffmpeg', ['-i', shot, '-vf', scale, '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-']);
    expectBars(middles(raw), loss, 'on the screen');
  }).toPass({ timeout: 15_000 });
});

test('a turned clip keeps its colours, upright, in limited range', async ({ page }) => {
  const clip = await bars('turned', {
    matrix: 'bt709',
    range: 'tv',
    tagged: true,
    size: '640x360',
    turn: 90,
  });
  await startWith(page, clip);
  const file = await render(page, 'mp4-h264', join(WORK, 'bars-turned.mp4'));
  expect(await tagsOf(file)).toMatch(/^yuv420p,tv,bt709/);
  const read = await readBars(file, 3, false);
  // Turned by a quarter the bars lie one over the other, in either order.
  expectBars(Math.abs(read[0]![0]! - 235) < 6 ? read : read.toReversed(), 9, 'turned');
});

test('high dynamic range is brought to standard range by its curve, and the clip says so', async ({
  page,
}) => {
  const hlg = join(WORK, 'high-range.webm');
  // Four greys: black, the middle grey of HLG, its reference white, and the brightest it knows.
  const signal = [0, 0.38, 0.75, 1];
  const codes = signal.map((s) => Math.round(64 + 876 * s));
  const pick = codes.reduceRight(
    (rest, code, i) => `if(lt(X,W*${i + 1}/4),${code},${rest})`,
    String(codes[3]),
  );
  await run('ffmpeg', [
    ...[
      '-y',
      '-f',
      'lavfi',
      '-i',
      `nullsrc=s=640x360:r=30:d=1,format=yuv420p10le,geq=lum='${pick}':cb=512:cr=512`,
    ],
    ...['-c:v', 'libvpx-vp9', '-profile:v', '2', '-pix_fmt', 'yuv420p10le', '-crf', '8', '-b:v', '0'],
    ...['-deadline', 'realtime', '-cpu-used', '8', '-colorspace', 'bt2020nc', '-color_primaries', 'bt2020'],
    ...['-color_trc', 'arib-std-b67', '-color_range', 'tv', hlg],
  ]);
  await startWith(page, hlg);
  await expect(page.getByText(/is in high dynamic range \(HLG\)/)).toBeVisible();
  const file = await render(page, 'webm-vp9', join(WORK, 'high-range-out.webm'));
  expect(await tagsOf(file)).toMatch(/^yuv420p,tv,bt709/);
  const raw = await run('ffmpeg', [
    ...['-i', file, '-vf', 'scale=in_color_matrix=bt709:in_range=tv,format=gbrp,scale=16:1:flags=area'],
    ...['-frames:v', '1', '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-'],
  ]);
  const greys = [2, 6, 10, 14].map((cell) => raw[3 * cell + 1]!);
  expect(greys[0]).toBeLessThan(6);
  expect(greys[1]).toBeGreaterThan(95);
  expect(greys[1]).toBeLessThan(150);
  expect(greys[2]).toBeGreaterThan(230);
  expect(greys[3]).toBeGreaterThanOrEqual(greys[2]!);
  // The screen, made of eight bits after it was made smaller, shows what the file holds.
  await page.getByRole('link', { name: 'Weave' }).click();
  await page.keyboard.press('Home');
  await expect(async () => {
    const shot = join(WORK, 'high-range-seen.png');
    await page.getByTestId('picture').screenshot({ path: shot });
    const scale = 'format=gbrp,scale=16:1:flags=area';
    const seen = await run('ffmpeg', ['-i', shot, '-vf', scale, '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-']);
    const off = [2, 6, 10, 14].map((cell, i) => Math.abs(seen[3 * cell + 1]! - greys[i]!));
    expect(Math.max(...off), `${off}`).toBeLessThanOrEqual(3);
  }).toPass({ timeout: 15_000 });
});

test(
  'a telephone’s clip of 1080 lines, ten bits and high range plays in time from its second round on',
  ALONE,
  async ({ page }) => {
    const hlg = join(WORK, 'high-range-1080.webm');
    await run('ffmpeg', [
      ...['-y', '-f', 'lavfi', '-i', 'testsrc2=s=1920x1080:r=30:d=2,noise=alls=4:allf=t,format=yuv420p10le'],
      ...['-c:v', 'libvpx-vp9', '-profile:v', '2', '-crf', '30', '-b:v', '0', '-deadline', 'realtime'],
      ...['-cpu-used', '8', '-row-mt', '1', '-colorspace', 'bt2020nc', '-color_primaries', 'bt2020'],
      ...['-color_trc', 'arib-std-b67', '-color_range', 'tv', hlg],
    ]);
    await startWith(page, hlg);
    await setSpan(page, 0, 60);
    await page.locator('body').press('Shift+L');
    const stats = async () => {
      const text = (await page.getByTestId('stats').textContent())!;
      return /(\d+) late of (\d+), (\d+) decoded/.exec(text)!.slice(1).map(Number) as [
        number,
        number,
        number,
      ];
    };
    await page.keyboard.press('Space');
    // The first round may take twice as long as it lasts.
    await page.waitForTimeout(6500);
    const { result, missed } = await whileMachineKeepsUp(4, async () => {
      const before = await stats();
      await page.waitForTimeout(4000);
      return { before, after: await stats() };
    });
    const [late, due, decoded] = result.after.map((n, i) => n - result.before[i]!) as [
      number,
      number,
      number,
    ];
    console.log(`  ${late} late of ${due}, ${decoded} decoded, ${missed} missed by the machine`);
    expect(decoded).toBe(0);
    expect(due).toBeGreaterThan(90);
    expect((late - missed) / due).toBeLessThan(0.05);
  },
);

test('quality is the picture: each comes out at least as near to its source as it promises', async ({
  page,
}) => {
  const clip = await codedClip('vp9');
  await startWith(page, clip);
  await enter(page, 'Span in', '0');
  await enter(page, 'Span out', '60');
  const promised = { draft: 33, good: 38, high: 41, finest: 44 } as const;
  await page.getByRole('link', { name: 'Render' }).first().click();
  const rows: string[] = [];
  let last = 0;
  for (const [format, ending] of FORMATS)
    for (const [quality, db] of Object.entries(promised)) {
      if (format === 'webm-av1' && quality !== 'high') continue;
      if (quality === 'draft') last = 0;
      await page.getByLabel('Quality', { exact: true }).selectOption(quality);
      const file = await render(page, format, join(WORK, `quality.${ending}`));
      const log = join(WORK, 'psnr.txt');
      await run('ffmpeg', [
        ...[
          '-i',
          file,
          '-i',
          clip,
          '-lavfi',
          `[0:v]setpts=N/30/TB[a];[1:v]trim=end_frame=60,setpts=N/30/TB[s];[a][s]psnr=stats_file=${log}`,
          '-f',
          'null',
          '-',
        ],
      ]);
      const lines = (
        await run('ffmpeg', ['-f', 'data', '-i', log, '-map', '0', '-c', 'copy', '-f', 'data', '-'])
      ).toString();
      const mse = [...lines.matchAll(/mse_avg:([\d.]+)/g)].map((m) => Number(m[1]));
      const measured = 10 * Math.log10((255 * 255) / (mse.reduce((a, b) => a + b, 0) / mse.length));
      rows.push(`${format} ${quality} ${measured.toFixed(1)} ${(await stat(file)).size}`);
      expect(mse).toHaveLength(60);
      expect(measured, rows.join('; ')).toBeGreaterThan(db);
      const { size } = await stat(file);
      // A coarser quality that takes as much room is none.
      if (format === 'webm-vp9') expect(size, quality).toBeGreaterThan(1.1 * last);
      last = size;
    }
  console.log(rows.join('\n'));
});

test('file sizes are compared before rendering, and a bar chooses one', async ({ page }) => {
  await startWith(page, await codedClip('vp9'));
  await enter(page, 'Span in', '0');
  await enter(page, 'Span out', '20');
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('File', { exact: true }).selectOption('webm-vp9');
  await page.getByRole('button', { name: 'Compare file sizes', exact: true }).click();
  const words = page.getByRole('radiogroup', { name: 'File sizes' }).getByRole('radio');
  await expect(words).toHaveCount(4, { timeout: 60_000 });
  const measured = (await words.allTextContents()).map((w) => w.match(/[\d.]+/g)!.map(Number));
  const db = measured.map((m) => m[1]!);
  [33, 38, 41, 44].forEach((promised, i) => expect(db[i]).toBeGreaterThan(promised));
  expect(measured.map((m) => m[0]!)).toEqual(measured.map((m) => m[0]!).toSorted((a, b) => a - b));
  await words.nth(3).click();
  await expect(page.getByLabel('Quality', { exact: true })).toHaveValue('finest');
});
