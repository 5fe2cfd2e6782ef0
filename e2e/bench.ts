/** `npm run bench`: ratios and counts of the real code in Chromium and Node, not bare times. */
import { readFile } from 'node:fs/promises';
import { analyse } from '@skipback/core/beats/analyse';
import { bandSongs } from '@skipback/core/beats/fixtures/bands';
import { loopVerdict } from '@skipback/core/checks/result';
import { compilePiece, compileProject } from '@skipback/core/project/compile';
import { pieceOf } from '@skipback/core/project/schema';
import { ONE_FRAME } from '@skipback/core/looks/facts';
import { drawStack, tablesOf } from '@skipback/core/looks/draw';
import { LookSchema } from '@skipback/core/looks/look';
import { TREATMENTS } from '@skipback/core/looks/registry';
import { resolveLooks } from '@skipback/core/looks/resolve';
import { Surface } from '@skipback/core/pixels/surface';
import { newProject } from '@skipback/core/project/new-project';
import type { Measured, OnceMeasured, Shape } from '../web/src/measure/measure';
import { codedClip } from './coded-clips';
import { addBoomerang, enter, openCard, setSpan, startWith } from './journey';
import { printLaying } from './laying-costs';
import { printFollowing } from './follow-quality';
import { printMotionQuality } from './motion-quality';
import { printQuickCut } from './quick-cut';
import { openStage } from './stage';

const RUNS = Number(process.env['RUNS'] ?? 3);
const median = (values: number[]) => values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)]!;

const stage = await openStage();
try {
  const clip = await codedClip('large');
  const bytes = (await readFile(clip)).toString('base64');
  const { page } = await stage.newPage();
  await page.goto(`${stage.address}/bench.html`);
  const runs: Measured[] = [];
  for (let i = 0; i < RUNS; i++)
    runs.push(
      await page.evaluate(async (base64) => {
        const file = new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], 'large.mp4');
        const { measure } = window as unknown as {
          measure: (f: File, first: number, end: number, trips: number) => Promise<Measured>;
        };
        return measure(file, 100, 160, 5);
      }, bytes),
    );
  const one = runs[0]!;
  const ratios = runs.map((r) => r.renderFps / r.bareFps);
  console.log('60-frame span, 5 trips, 1280x720 H.264 with one key frame in 250:');
  console.log(
    `  result frames ${one.resultFrames}, distinct ${one.distinctFrames}, lead-in ${one.leadInFrames}`,
  );
  console.log(
    `  decoded ${one.decodedFrames} (planned ${one.plannedDecodes}; distinct + lead-in ${one.distinctFrames + one.leadInFrames})`,
  );
  console.log(
    `  decoded per distinct frame shown, without the lead-in: ${((one.decodedFrames - one.leadInFrames) / one.distinctFrames).toFixed(3)}`,
  );
  console.log(`  decoded per result frame: ${(one.decodedFrames / one.resultFrames).toFixed(3)}`);
  console.log(
    `  render speed against the bare encoder: ${median(ratios).toFixed(2)} (${ratios.map((r) => r.toFixed(2)).join(', ')})`,
  );
  console.log(
    `  peak bytes of pictures held: ${(one.peakBytes / 2 ** 20).toFixed(0)} MiB; left open: ${one.leftOpen}`,
  );

  const once = await page.evaluate(async (base64) => {
    const file = new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], 'large.mp4');
    const { measureOnce } = window as unknown as {
      measureOnce: (f: File, first: number, end: number, trips: number) => Promise<OnceMeasured>;
    };
    // Thirty frames there and back, from a key frame on: trips of 60.
    return measureOnce(file, 0, 31, 5);
  }, bytes);
  console.log(
    `  each period encoded once, 5 trips of ${once.frames / 5}: ${(once.onceFps / once.eachFps).toFixed(2)} times as fast, ${once.encoded} of ${once.frames} encoded, file ${once.sizeRatio.toFixed(3)} of the size`,
  );

  const { page: first } = await stage.newPage();
  const opened = Date.now();
  for (const [state, words] of [
    ['moving', 'the first ones move'],
    ['dressed', 'all that is drawn on one group of them is there'],
  ] as const) {
    await first.locator(`[data-loops=${state}]`).first().waitFor({ timeout: 60_000 });
    console.log(
      `Gallery of the first page: ${words} ${((Date.now() - opened) / 1000).toFixed(1)} s after it opened`,
    );
  }
  await first.context().close();
  const { page: gif } = await stage.newPage();
  await startWith(gif, clip);
  await setSpan(gif, 100, 200);
  await gif.getByRole('link', { name: 'Render' }).first().click();
  await gif.getByLabel('File', { exact: true }).selectOption('gif');
  for (const dither of ['none', 'pattern', 'diffused']) {
    await gif.getByLabel('Dither').selectOption(dither);
    const began = Date.now();
    await gif.getByRole('button', { name: 'Render 100 frames' }).click();
    await gif.getByText('Rendering').waitFor({ timeout: 60_000 });
    await gif.getByRole('button', { name: /^Save it/ }).waitFor({ timeout: 120_000 });
    console.log(`GIF of 100 frames at 480 pixels, ${dither}: ${((Date.now() - began) / 1000).toFixed(1)} s`);
  }
  await gif.context().close();

  const shaped = (shape: Shape, trips = 5) =>
    page.evaluate(
      async ([base64, given, count]) => {
        const file = new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], 'large.mp4');
        const { measure } = window as unknown as {
          measure: (f: File, first: number, end: number, trips: number, shape: Shape) => Promise<Measured>;
        };
        return measure(file, 100, 160, count, given);
      },
      [bytes, shape, trips] as [string, Shape, number],
    );
  let treatedInAll = 0;
  for (const names of [['grade'], ['split', 'outline', 'grade']]) {
    const treated = await shaped({ looks: names.map((look) => ({ look })) });
    treatedInAll = treated.treated;
    console.log(
      `  with ${names.length} look${names.length > 1 ? 's' : ''} (${names.join(', ')}): render ${(treated.renderFps / treated.bareFps).toFixed(2)} of the bare encoder; drawn on ${treated.treated} pictures, ${treated.treatedAgain} the same again; left open: ${treated.leftOpen}`,
    );
  }
  const trailing = await shaped({ looks: [{ look: 'trail', values: { copies: 5 } }] });
  console.log(
    `  boomerang of 5 trips with a trail of 5: decoded ${trailing.decodedFrames} for ${trailing.distinctFrames} source frames and a lead-in of ${trailing.leadInFrames}`,
  );
  // One trip each, so that every picture is made for the first time.
  const made: readonly (readonly [string, Shape])[] = [
    ['mix at 50 %', { between: 'mix', percent: 50 }],
    ['flow at 50 %', { between: 'flow', percent: 50 }],
    ['flow at 25 %', { between: 'flow', percent: 25 }],
    ['shutter 360° at 400 %', { shutter: 360, percent: 400 }],
    ['trail of 5', { looks: [{ look: 'trail', values: { copies: 5 } }] }],
    ['smear of 8', { looks: [{ look: 'smear', values: { back: 4, on: 3 } }] }],
  ];
  for (const [words, shape] of made) {
    const m = await shaped(shape, 1);
    console.log(
      `  ${words}: ${m.renderFps.toFixed(0)} pictures a second, ${(m.renderFps / m.bareFps).toFixed(2)} of the bare encoder; ${m.treated} made of ${m.resultFrames}; decoded ${m.decodedFrames} for ${m.distinctFrames} source frames and a lead-in of ${m.leadInFrames}; left open: ${m.leftOpen}`,
    );
  }
  console.log(`  pictures made anew in the plain one: ${one.made}, with looks: ${treatedInAll}`);

  const { page: bench } = await stage.newPage();
  await startWith(bench, clip);
  await setSpan(bench, 100, 160);
  await addBoomerang(bench, { trips: 5, back: '100', turn: 'once' });
  await bench.keyboard.press('Shift+L');
  await bench.keyboard.press('Space');
  await bench.waitForTimeout(10_000);
  console.log(
    `Preview of the same, ten seconds from a cold start: ${await bench.getByTestId('stats').textContent()}`,
  );
  await bench.keyboard.press('Space');
  await bench.getByRole('button', { name: 'Looks', exact: true }).click();
  for (const look of ['Split', 'Outline', 'Grade'])
    await bench.getByRole('button', { name: new RegExp(`^Add ${look}\\.`) }).click();
  await bench.mouse.move(640, 250);
  await bench.waitForTimeout(4000);
  await bench.keyboard.press('Space');
  await bench.waitForTimeout(10_000);
  console.log(`The same with three looks: ${await bench.getByTestId('stats').textContent()}`);
  await bench.keyboard.press('Space');
  await openCard(bench, 'Boomerang');
  await enter(bench, 'Boomerang: Round trips', '999');
  await bench.waitForTimeout(1500);
  const redraws = async (closer: number) => {
    for (let i = 0; i < closer; i++) await bench.keyboard.press('=');
    const intervals = await bench.evaluate(redrawIntervals);
    return `${intervals.filter((ms) => ms < 34).length} of ${intervals.length} within two display frames`;
  };
  console.log(
    `1998 segments, the result zoomed at every display frame: far out ${await redraws(0)}, close up ${await redraws(12)}`,
  );
  await printQuickCut((await stage.newPage()).page);
} finally {
  await stage.close();
}

/** Zooms the result strip once a display frame, and gives the time from each frame to the next. */
async function redrawIntervals(): Promise<number[]> {
  const weave = document.querySelector('[aria-label^="Weave"]')!;
  const { left, bottom, width } = weave.getBoundingClientRect();
  const intervals: number[] = [];
  let last = performance.now();
  for (let i = 0; i < 90; i++) {
    await new Promise((next) => requestAnimationFrame(next));
    const now = performance.now();
    intervals.push(now - last);
    last = now;
    const at = { clientX: left + width / 2, clientY: bottom - 40, deltaY: i % 2 ? 20 : -20 };
    weave.dispatchEvent(new WheelEvent('wheel', { bubbles: true, cancelable: true, ...at }));
  }
  return intervals.slice(5);
}

printMotionQuality();
printLaying();
printFollowing();

for (const [width, height] of [
  [1280, 720],
  [1920, 1080],
] as const) {
  const surface = new Surface(width, height);
  surface.loadRgba(Uint8Array.from({ length: 4 * width * height }, (_, i) => (i * 37 + (i >> 9)) & 255));
  const apart = new Uint8Array(8 * width * height);
  const timed = (work: () => void) => {
    for (let i = 0; i < 6; i++) work();
    return median(
      Array.from({ length: 11 }, () => {
        const from = performance.now();
        work();
        return performance.now() - from;
      }),
    );
  };
  const copy = timed(() => apart.copyWithin(0, 4 * width * height));
  const costs = TREATMENTS.filter((t) => !t.gather && !t.brings).map(({ id, shownWith }) => {
    const { drawn } = resolveLooks([LookSchema.parse({ id, look: id, values: shownWith })], ONE_FRAME);
    const ms = timed(() => drawStack(surface, drawn[0]!, 1, tablesOf({})));
    return `${id} ${ms.toFixed(1)} (${(ms / copy).toFixed(0)})`;
  });
  console.log(
    `Looks on ${width}x${height}, ms a picture on one core (times a plain copy of it, ${copy.toFixed(2)}): ${costs.join(', ')}`,
  );
}

const [song] = bandSongs(1, 120, ['disco, 116']);
const analysed = performance.now();
analyse(song!.mono, song!.rateHz);
const analysis = (song!.mono.length / song!.rateHz / (performance.now() - analysed)) * 1000;
console.log(
  `Beats of a song of two minutes: ${analysis.toFixed(0)} times real time (${analysis >= 100 ? 'at least' : 'UNDER'} 100)`,
);

const table = { kind: 'constant', rate: { num: 30, den: 1 }, count: 900 } as const;
const values = { by: 'trips', trips: 999, length: 2, backPercent: 150, turn: 'once', ends: 'home' };
const piece = pieceOf({
  id: 'p',
  clipId: 'c',
  span: { in: 10, out: 20 },
  chain: [
    { id: 'a', move: 'boomerang', on: true, values: { ...values, trips: 5 } },
    { id: 'b', move: 'boomerang', on: true, values: { ...values, trips: 500 } },
  ],
});
const clip = {
  id: 'c',
  mediaId: 'm',
  name: 'c',
  marks: [],
  readAt: null,
  tracks: [],
  framing: 'fit' as const,
};
const compile = () => compilePiece(piece, clip, table, table.rate);
for (let i = 0; i < 5; i++) compile();
const compiled = compile();
const times = Array.from({ length: 9 }, () => {
  const began = performance.now();
  compile();
  return performance.now() - began;
});
const took = times.sort((a, b) => a - b)[4]!;
console.log(
  `${compiled.path.segments.length} segments, ${compiled.shown.length} frames compiled, sampled, checked, middle of nine: ${took < 50 ? 'within' : 'OVER'} 50 ms (${took.toFixed(0)})`,
);

const pieces = Array.from({ length: 60 }, (_, i) => ({ ...piece, id: `p${i}`, chain: [piece.chain[0]!] }));
const known = new Map(pieces.map((p) => [p, compilePiece(p, clip, table, table.rate)]));
const edited = { ...pieces[30]!, span: { in: 11, out: 20 } };
const project = { ...newProject('x', 'x', 0), clips: [clip], pieces: pieces.with(30, edited) };
const from = performance.now();
let fresh = 0;
const laid = compileProject(
  project,
  (p, c) => known.get(p) ?? (fresh++, compilePiece(p, c, table, table.rate)),
);
const verdict = loopVerdict(laid);
const spent = performance.now() - from;
console.log(
  `60 pieces, one value changed: ${fresh} piece worked out again, ${laid.totalFrames} frames laid, ${verdict.skips.length} skips, ${spent < 16 ? 'within' : 'OVER'} one 60 Hz frame (${spent.toFixed(1)} ms)`,
);
