/**
 * The page of `npm run bench`: the real reader, planner, decoder and renderer, without the screens.
 * Puts `measure` on the window for the script that drives it.
 */
import { frame } from '@skipback/core/time/units';
import { NOTHING_BROUGHT } from '@skipback/core/looks/brought';
import type { Between } from '@skipback/core/gather/gather';
import { LookSchema } from '@skipback/core/looks/look';
import { recipesOf } from '@skipback/core/looks/recipes';
import { boomerang } from '@skipback/core/moves/boomerang';
import { speed } from '@skipback/core/moves/speed';
import { compilePiece } from '@skipback/core/project/compile';
import { pieceOf } from '@skipback/core/project/schema';
import { planCost } from '@skipback/core/plan/decode-plan';
import { inspectClip } from '@skipback/media/import/inspect';
import { bareEncoder } from '@skipback/media/render/bare-encoder';
import { DEFAULT_RENDER, type RenderJob } from '@skipback/media/render/messages';
import { renderFile } from '@skipback/media/render/render';

export interface Measured {
  readonly resultFrames: number;
  readonly distinctFrames: number;
  readonly leadInFrames: number;
  readonly plannedDecodes: number;
  readonly decodedFrames: number;
  readonly renderFps: number;
  readonly bareFps: number;
  readonly peakBytes: number;
  readonly leftOpen: number;
  /** Pictures that were converted or placed: 0 for a plain boomerang of a clip in the file's colour and size. */
  readonly made: number;
  /** Pictures that looks were drawn on, and those that were used again. */
  readonly treated: number;
  readonly treatedAgain: number;
}

/** How the measured boomerang looks: looks by their ids or with values, what is between its frames, how fast it is. */
export interface Shape {
  readonly looks?: readonly { readonly look: string; readonly values?: Record<string, unknown> }[];
  readonly between?: Between;
  readonly shutter?: number;
  readonly percent?: number;
}

/** What a period encoded once comes to, beside encoding it each time. */
export interface OnceMeasured {
  readonly frames: number;
  readonly encoded: number;
  /** Frames a second, each way by turns. */
  readonly onceFps: number;
  readonly eachFps: number;
  /** Bytes of a file against the other's, both at one setting: what is found for them differs a little from run to run. */
  readonly sizeRatio: number;
}

/** The job of `trips` boomerangs of [first, end) in a shape, every picture encoded. */
async function jobOf(
  file: File,
  first: number,
  end: number,
  trips: number,
  { looks = [], between = 'repeat', shutter = 0, percent = 100 }: Shape = {},
): Promise<{ job: RenderJob; keys: readonly number[] }> {
  const inspection = await inspectClip(file, file.name);
  if (!inspection.ok) throw new Error(inspection.notice.text);
  const { table, index, width, height } = inspection.facts;
  if (table.kind !== 'constant') throw new Error('the measured clip has a constant rate');
  const piece = pieceOf({
    id: 'p',
    clipId: 'c',
    span: { in: first, out: end },
    chain: [
      { id: 'v', move: 'speed', on: true, values: { ...speed.defaults, by: 'percent', percent } },
      { id: 's', move: 'boomerang', on: true, values: { ...boomerang.defaults, trips } },
    ],
    between,
    shutter,
    looks: looks.map((l) => LookSchema.parse({ id: l.look, ...l })),
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
  const compiled = compilePiece(piece, clip, table, table.rate);
  const { shown } = compiled;
  const row = {
    pieces: [{ startFrame: frame(0), compiled }],
    missing: [],
    beyond: [],
    totalFrames: frame(shown.length),
    brought: NOTHING_BROUGHT,
  };
  const { recipes } = recipesOf(row, [], undefined);
  const scratch = await (await navigator.storage.getDirectory()).getFileHandle('measure', { create: true });
  const job: RenderJob = {
    clips: [{ clipId: 'c', file, index, framing: 'fit' as const }],
    clipPlaces: new Int32Array(shown.length),
    clipFrames: shown,
    recipes,
    rate: table.rate,
    width,
    height,
    settings: DEFAULT_RENDER,
    transparent: false,
    threads: 1,
    sound: undefined,
    cuts: [],
    repeats: 'encoded',
    name: 'measured',
    target: scratch,
    lacks: [],
  };
  return { job, keys: index.keys };
}

/** Renders `trips` boomerangs of [first, end) in a shape, and the same number of ready frames by the encoder alone. */
async function measure(
  file: File,
  first: number,
  end: number,
  trips: number,
  shape?: Shape,
): Promise<Measured> {
  const { job, keys } = await jobOf(file, first, end, trips, shape);
  const shown = job.clipFrames;
  const { counts, setting } = await renderFile(job, new AbortController().signal, () => undefined);
  const bare = await bareEncoder(job, setting);
  const { counts: second } = await renderFile(job, new AbortController().signal, () => undefined);
  const again = await bareEncoder(job, setting);
  const request = { wanted: shown, loops: false, start: 0, keys, capacity: 300, held: [] };
  return {
    resultFrames: shown.length,
    distinctFrames: counts.distinct,
    leadInFrames: first - keys.findLast((k) => k <= first)!,
    plannedDecodes: planCost(request, shown.length).decoded,
    decodedFrames: counts.decoded,
    renderFps: shown.length / ((counts.elapsedMs + second.elapsedMs) / 2 / 1000),
    made: counts.made,
    treated: counts.treated,
    treatedAgain: counts.treatedAgain,
    bareFps: shown.length / ((bare + again) / 2 / 1000),
    peakBytes: counts.peakBytes,
    leftOpen: counts.leftOpen,
  };
}

/** Renders the same with its periods encoded once, and each time, by turns. */
async function measureOnce(file: File, first: number, end: number, trips: number): Promise<OnceMeasured> {
  const { job } = await jobOf(file, first, end, trips);
  const rendered = async (repeats: 'packets' | 'encoded') => {
    const { counts, setting } = await renderFile(
      { ...job, repeats },
      new AbortController().signal,
      () => undefined,
    );
    const told = 'bitrate' in setting ? setting.bitrate : 1;
    return { ...counts, bytes: (await job.target.getFile()).size / told };
  };
  const [each, once] = [await rendered('encoded'), await rendered('packets')];
  const [again, second] = [await rendered('encoded'), await rendered('packets')];
  const frames = job.clipFrames.length;
  return {
    frames,
    encoded: once.encoded,
    onceFps: (2000 * frames) / (once.elapsedMs + second.elapsedMs),
    eachFps: (2000 * frames) / (each.elapsedMs + again.elapsedMs),
    sizeRatio: (once.bytes + second.bytes) / (each.bytes + again.bytes),
  };
}

Object.assign(window, { measure, measureOnce });
