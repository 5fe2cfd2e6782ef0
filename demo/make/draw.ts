/**
 * Draws the demo clips: `npm run demo:draw [-- name ...] [-- --still 1.2]`.
 * Needs Debian's chromium and ffmpeg. Frames go from the page straight into ffmpeg.
 */
import { spawn } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { chromium } from '@playwright/test';
import { clipSound } from './clip-sound';
import { CLIP_PLANS, type ClipPlan } from './shots';
import { wavBytes } from './wav';

const here = fileURLToPath(new URL('.', import.meta.url));
const media = join(here, '..', 'media');

async function bundle(): Promise<string> {
  const result = await build({
    entryPoints: [join(here, 'scenes/index.ts')],
    bundle: true,
    write: false,
    format: 'iife',
    globalName: 'demo',
    target: 'chrome120',
  });
  return result.outputFiles[0]!.text;
}

async function openPage(script: string, plan: ClipPlan) {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: [
      '--no-sandbox',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--use-gl=angle',
      '--use-angle=swiftshader',
      '--enable-unsafe-swiftshader',
      '--ignore-gpu-blocklist',
    ],
  });
  const page = await browser.newPage();
  page.on('console', (m) => m.type() === 'error' && console.error(m.text()));
  page.on('pageerror', (e) => console.error(e.message));
  await page.addScriptTag({ content: script });
  await page.evaluate(`demo.begin(${JSON.stringify(plan.name)}, ${plan.width}, ${plan.height})`);
  const frame = async (index: number) =>
    Buffer.from(
      (await page.evaluate(`demo.frame(${index}, ${plan.rateHz}, ${plan.samples})`)) as string,
      'base64',
    );
  return { frame, close: () => browser.close() };
}

async function drawClip(script: string, plan: ClipPlan): Promise<void> {
  const page = await openPage(script, plan);
  const work = await mkdtemp(join(tmpdir(), 'skip-back-draw-'));
  const wav = join(work, 'sound.wav');
  await writeFile(wav, wavBytes(clipSound(plan.name, plan.durationS), 48000));
  const args = [
    '-y',
    '-loglevel',
    'error',
    '-f',
    'image2pipe',
    '-c:v',
    'mjpeg',
    '-framerate',
    plan.rate,
    '-i',
    '-',
    '-i',
    wav,
  ];
  const ffmpeg = spawn(
    'ffmpeg',
    [
      ...args,
      '-vf',
      'scale=in_range=full:out_range=tv:out_color_matrix=bt709',
      '-colorspace',
      'bt709',
      '-color_primaries',
      'bt709',
      '-color_trc',
      'bt709',
      ...plan.video,
      ...plan.audio,
      join(media, plan.file),
    ],
    { stdio: ['pipe', 'inherit', 'inherit'] },
  );
  const count = Math.round(plan.durationS * plan.rateHz);
  for (let i = 0; i < count; i++) {
    if (!ffmpeg.stdin.write(await page.frame(i)))
      await new Promise((resolve) => ffmpeg.stdin.once('drain', resolve));
    if (i % 30 === 0) console.log(`${plan.name}: ${i} of ${count} frames`);
  }
  ffmpeg.stdin.end();
  await new Promise((resolve) => ffmpeg.once('close', resolve));
  await page.close();
  await rm(work, { recursive: true });
}

async function drawStill(script: string, plan: ClipPlan, atS: number): Promise<void> {
  const page = await openPage(script, plan);
  await page.frame(0);
  const started = performance.now();
  const path = join(tmpdir(), `${plan.name}.jpg`);
  await writeFile(path, await page.frame(Math.round(atS * plan.rateHz)));
  console.log(path, `${Math.round(performance.now() - started)} ms`);
  await page.close();
}

const words = process.argv.slice(2);
const stillAt = words.indexOf('--still');
const atS = stillAt >= 0 ? Number(words[stillAt + 1]) : undefined;
const names = words.filter((w) => CLIP_PLANS.some((p) => p.name === w));
const script = await bundle();
for (const plan of CLIP_PLANS.filter((p) => names.length === 0 || names.includes(p.name)))
  await (atS === undefined ? drawClip(script, plan) : drawStill(script, plan, atS));
