import type { TimePath } from '../../path/path';
import { kindOf, speedAt } from '../../path/segment';
import { toNumber } from '../../time/rational';
import { MADE_WORDS, type MadeKind } from './kinds';

/** Values a second of the speed curve that made sounds follow. */
export const SPEED_HZ = 1000;

/** A stretch of a path that calls for a made sound: seconds from the path's beginning. */
export interface MadeSpan {
  readonly kind: MadeKind;
  readonly fromS: number;
  readonly toS: number;
  /** 0 to 1. */
  readonly strength: number;
}

/** The speed along a path, `SPEED_HZ` values a second. */
export function speedCurve(path: TimePath): Float32Array {
  const perFrame = SPEED_HZ / toNumber(path.rate);
  let frames = 0;
  const parts = path.segments.map((segment) => {
    const from = Math.round(frames * perFrame);
    const start = frames;
    frames += segment.length;
    const out = new Float32Array(Math.round(frames * perFrame) - from);
    for (let i = 0; i < out.length; i++)
      out[i] = speedAt(segment, (from + i + 0.5) / perFrame - start, path.rate);
    return out;
  });
  const curve = new Float32Array(parts.reduce((sum, p) => sum + p.length, 0));
  let at = 0;
  for (const part of parts) {
    curve.set(part, at);
    at += part.length;
  }
  return curve;
}

/** Speed above which a whoosh is heard, and the one at which it is loudest. */
export const WHOOSH_FROM = 1.3;
export const WHOOSH_FULL = 5;
const SPOOL_FROM = 3;
const SPOOL_LEAST_S = 0.4;
/** Strokes no longer than this are a hand's. */
const STROKE_MOST_S = 0.4;
/** How much of the longer strokes before and after belongs to a scratch. */
const SCRATCH_EDGE_S = 0.12;
const SWELL_LEAST_S = 0.4;
const RISER_LEAST_S = 0.35;
/** A fall of speed at once, from which on it is a stop. */
const STOP_FALL = 1;

interface Stretch {
  readonly from: number;
  readonly to: number;
}

/** Stretches of a curve where something holds, those nearer than `join` values taken as one. */
function stretchesWhere(curve: Float32Array, holds: (v: number) => boolean, join: number): Stretch[] {
  const found: { from: number; to: number }[] = [];
  for (let i = 0; i < curve.length; i++) {
    if (!holds(curve[i]!)) continue;
    const last = found[found.length - 1];
    if (last && i - last.to <= join) last.to = i + 1;
    else found.push({ from: i, to: i + 1 });
  }
  return found;
}

/** Stretches of one direction; what stands still belongs to the one before. */
function strokes(curve: Float32Array): (Stretch & { readonly way: 1 | -1 })[] {
  const found: { from: number; to: number; way: 1 | -1 }[] = [];
  for (let i = 0; i < curve.length; i++) {
    const v = curve[i]!;
    const last = found[found.length - 1];
    const way = Math.abs(v) < 0.02 ? last?.way : v > 0 ? 1 : -1;
    if (way === undefined) continue;
    if (last?.way === way) last.to = i + 1;
    else found.push({ from: i, to: i + 1, way });
  }
  return found;
}

const span = (kind: MadeKind, { from, to }: Stretch, strength: number): MadeSpan => ({
  kind,
  fromS: from / SPEED_HZ,
  toS: to / SPEED_HZ,
  strength: Math.min(1, Math.max(0, strength)),
});

/** Every stretch of a path that calls for a made sound, by its own rule for each kind. */
export function madeSpans(path: TimePath): MadeSpan[] {
  const curve = speedCurve(path);
  const most = ({ from, to }: Stretch) => {
    let peak = 0;
    for (let i = from; i < to; i++) peak = Math.max(peak, Math.abs(curve[i]!));
    return peak;
  };
  const all = strokes(curve);
  const scratches = scratchesOf(all, curve.length);
  const inScratch = (s: Stretch) => scratches.some((x) => s.from >= x.from - 1 && s.to <= x.to + 1);
  const fast = stretchesWhere(curve, (v) => Math.abs(v) >= WHOOSH_FROM, 60).filter((s) => !inScratch(s));
  const spools = stretchesWhere(curve, (v) => Math.abs(v) >= SPOOL_FROM, 60).filter(
    (s) => s.to - s.from >= SPOOL_LEAST_S * SPEED_HZ,
  );
  const back = all.filter((s) => s.way === -1 && s.to - s.from >= SWELL_LEAST_S * SPEED_HZ);
  return [
    ...fast.map((s) => span('whoosh', s, (most(s) - WHOOSH_FROM) / (WHOOSH_FULL - WHOOSH_FROM))),
    ...scratches.map((s) => span('scratch', s, 0.4 + most(s) / 4)),
    ...spools.map((s) => span('spool', s, most(s) / 12 + 0.3)),
    ...back.filter((s) => !inScratch(s)).map((s) => span('swell', s, 1)),
    ...risersOf(curve),
    ...thumpsOf(path),
  ].sort((a, b) => a.fromS - b.fromS);
}

/** Short strokes in a row, at least one of them backward, with a little of the strokes around them. */
function scratchesOf(all: readonly (Stretch & { readonly way: 1 | -1 })[], end: number): Stretch[] {
  const edge = SCRATCH_EDGE_S * SPEED_HZ;
  const found: { from: number; to: number; back: boolean }[] = [];
  for (const s of all) {
    if (s.to - s.from > STROKE_MOST_S * SPEED_HZ || s.to - s.from < 8) continue;
    const last = found[found.length - 1];
    if (last && s.from - last.to < 2) {
      last.to = s.to;
      last.back ||= s.way === -1;
    } else found.push({ from: s.from, to: s.to, back: s.way === -1 });
  }
  return found
    .filter((s) => s.back)
    .map((s) => ({ from: Math.max(0, s.from - edge), to: Math.min(end, s.to + edge) }));
}

/** Stretches over which the speed grows steadily, to at least twice what it was and what is normal. */
function risersOf(curve: Float32Array): MadeSpan[] {
  const found: MadeSpan[] = [];
  let from = 0;
  let grown = 0;
  const close = (to: number) => {
    const [a, b] = [Math.abs(curve[from] ?? 0), Math.abs(curve[to - 1] ?? 0)];
    if (to - from >= RISER_LEAST_S * SPEED_HZ && b >= 2 * Math.max(0.3, a) && b >= 1.5)
      found.push(span('riser', { from, to }, 0.4 + b / 6));
  };
  for (let i = 1; i <= curve.length; i++) {
    const [a, b] = [Math.abs(curve[i - 1]!), Math.abs(curve[i] ?? 0)];
    const jump = i === curve.length || b < a - 1e-4 || b > a * 1.3 + 0.1;
    if (!jump && b > a + 1e-5) grown = i;
    // A level stretch of more than 80 ms ends it, and one before it does not belong to it.
    if (jump || i - Math.max(grown, from) > 80) {
      if (grown > from) close(grown + 1);
      from = i;
      grown = i;
    }
  }
  return found;
}

/** Instants at which a path stops dead, at least a tenth of a second apart. */
function thumpsOf(path: TimePath): MadeSpan[] {
  const found: MadeSpan[] = [];
  let frames = 0;
  path.segments.forEach((segment, i) => {
    const at = frames / toNumber(path.rate);
    frames += segment.length;
    const before = path.segments[i - 1];
    if (!before) return;
    const fall = Math.abs(before.speedOut) - Math.abs(segment.speedIn);
    const holds = kindOf(segment) === 'hold' && segment.length >= 3 && kindOf(before) !== 'hold';
    if (!holds && fall < STOP_FALL) return;
    if (at - (found[found.length - 1]?.fromS ?? -1) < 0.1) return;
    found.push({
      kind: 'thump',
      fromS: at,
      toS: at + MADE_WORDS.thump.lengthS,
      strength: Math.min(1, 0.5 + Math.max(0, fall) / 5),
    });
  });
  return found;
}
