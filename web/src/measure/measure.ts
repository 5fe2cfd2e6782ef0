/**
 * The page of `npm run bench`: the real reader, planner, decoder and renderer, without the screens.
 * Puts `measure` on the window for the script that drives it.
 */
import { untouched } from '@skipback/core/looks/resolve';
import { boomerang } from '@skipback/core/moves/boomerang';
import { sampleFrames, spanPath } from '@skipback/core/path/path';
import { planCost } from '@skipback/core/plan/decode-plan';
import { inspectClip } from '@skipback/media/import/inspect';
import { bareEncoder } from '@skipback/media/render/bare-encoder';
import { DEFAULT_RENDER } from '@skipback/media/render/messages';
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
}

/** Renders `trips` boomerangs of [first, end), and the same number of ready frames by the encoder alone. */
async function measure(file: File, first: number, end: number, trips: number): Promise<Measured> {
  const inspection = await inspectClip(file, file.name);
  if (!inspection.ok) throw new Error(inspection.notice.text);
  const { table, index, width, height } = inspection.facts;
  if (table.kind !== 'constant') throw new Error('the measured clip has a constant rate');
  const base = spanPath(table, first, end, table.rate);
  const { path } = boomerang.apply(base, { ...boomerang.defaults, trips }, { table });
  const shown = sampleFrames(path, table);
  const scratch = await (await navigator.storage.getDirectory()).getFileHandle('measure', { create: true });
  const job = {
    clips: [{ clipId: 'c', file, index, framing: 'fit' as const }],
    clipPlaces: new Int32Array(shown.length),
    clipFrames: shown,
    recipes: untouched(shown.length),
    rate: table.rate,
    width,
    height,
    settings: DEFAULT_RENDER,
    sound: undefined,
    cuts: [],
    target: scratch,
  };
  const { counts, setting } = await renderFile(job, new AbortController().signal, () => undefined);
  const bare = await bareEncoder(job, setting);
  const { counts: second } = await renderFile(job, new AbortController().signal, () => undefined);
  const again = await bareEncoder(job, setting);
  const request = { wanted: shown, loops: false, start: 0, keys: index.keys, capacity: 300, held: [] };
  return {
    resultFrames: shown.length,
    distinctFrames: counts.distinct,
    leadInFrames: first - index.keys.findLast((k) => k <= first)!,
    plannedDecodes: planCost(request, shown.length).decoded,
    decodedFrames: counts.decoded,
    renderFps: shown.length / ((counts.elapsedMs + second.elapsedMs) / 2 / 1000),
    made: counts.made,
    bareFps: shown.length / ((bare + again) / 2 / 1000),
    peakBytes: counts.peakBytes,
    leftOpen: counts.leftOpen,
  };
}

Object.assign(window, { measure });
