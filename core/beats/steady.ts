import { median, peakNear, smoothed } from './track';

/** How far from the tempo as heard it is looked for, as a share, and how finely: so many steps to a turn over the whole song. */
const NEAR = 0.02;
const STEPS = 16;
/** Parts of a beat that things are struck at: beats, halves, quarters. */
const PARTS = [1, 2, 4];
/** What is held against the whole song, seconds. */
const STRETCH_S = 8;
/** Onsets under this many deviations are left out, and over this many count as this many. */
const LEAST = 0.5;
const MOST = 4;
/** From this coherence on a song is steady: its stretches then lie within some hundredths of a beat of one row. */
const STEADY = 0.95;
/** Of what a stretch's onsets would make at their own tempo near the song's, they make at least this share at that and in its phase, where the song is steady. */
const AT_ONE = 0.7;
/** And this share of what those do, by their weight, that are most in phase. */
const AS_OTHERS = 0.4;
/** A stretch's own tempo is looked for so far from the song's, as a share, in so many steps. */
const OWN = { near: 0.16, steps: 33 };
/** Stretches with less than this share of the onsets that the strongest has tell nothing; so much of the song, in stretches, may be a fill or a break. */
const SPARSE = 0.25;
const BREAKS = 0.12;
/** Fewer stretches tell nothing; what is longer than this keeps no one tempo, and would take long. */
const FEWEST = 3;
const LONGEST_S = 1200;

/** A moment something is struck at, in curve values, and how strongly. */
interface Hit {
  readonly at: number;
  readonly weight: number;
}

/**
 * The beat period that a song played to a click or by a machine keeps through all of it, near a period as heard; nothing
 * where it wanders. Found as the frequency at which the onsets are most in phase, through the whole song, at beats,
 * halves and quarters (a periodogram of the onsets); a song is steady where the sum over its length is nearly the sum of its
 * stretches' own (phase coherence). Which of the parts are beats is not told: half a beat too many in a fill changes nothing.
 */
export function steadyPeriod(curve: Float32Array, near: number, rateHz: number): number | undefined {
  const stretch = STRETCH_S * rateHz;
  if (curve.length < FEWEST * stretch || curve.length > LONGEST_S * rateHz) return undefined;
  const hits = hitsOf(smoothed(curve));
  const step = near / (STEPS * curve.length);
  const sums: { sum: number; coherence: number }[] = [];
  const count = Math.floor((2 * NEAR) / step) + 1;
  for (let i = 0; i < count; i++) {
    const parts = PARTS.map((part) => phaseSums(hits, part / (near * (1 - NEAR + i * step)), stretch));
    const coherence = Math.max(...parts.map((p) => p.whole / (p.stretches || 1)));
    sums.push({ sum: parts.reduce((all, p) => all + p.whole, 0), coherence });
  }
  const best = sums.reduce((top, { sum }, i) => (sum > sums[top]!.sum ? i : top), 0);
  if (sums[best]!.coherence < STEADY) return undefined;
  const top = peakNear(
    Float32Array.from(sums, (s) => s.sum),
    best,
  );
  const period = near * (1 - NEAR + step * top);
  return keptThroughout(hits, period, stretch) ? period : undefined;
}

/**
 * Whether every stretch by itself keeps a period: another tempo near it, which the sum over the song would not show, fits none
 * of them much better, and they are in phase. A few may be fills or breaks.
 */
function keptThroughout(hits: readonly Hit[], period: number, stretch: number): boolean {
  const all = PARTS.map((part) => pointer(hits, part / period));
  const part = all.reduce((top, p, i) => (p.length > all[top]!.length ? i : top), 0);
  const turns = PARTS[part]! / period;
  const { x, y, length } = all[part]!;
  const stretches: Hit[][] = [];
  for (const hit of hits) (stretches[Math.floor(hit.at / stretch)] ??= []).push(hit);
  const weightOf = (of: readonly Hit[]) => of.reduce((sum, h) => sum + h.weight, 0);
  const most = Math.max(...stretches.map((of) => weightOf(of ?? [])));
  const telling = stretches.filter((of) => weightOf(of ?? []) > SPARSE * most);
  const inPhase = telling.map((of) => {
    const here = pointer(of, turns);
    return (here.x * x + here.y * y) / (length || 1);
  });
  const shares = telling.map((of, i) => inPhase[i]! / weightOf(of)).sort((a, b) => a - b);
  const usual = shares[Math.floor(0.75 * shares.length)] ?? 0;
  const kept = telling.filter((of, s) => {
    let own = 0;
    for (let i = 0; i < OWN.steps; i++) {
      const other = pointer(of, turns * (1 - OWN.near + (2 * OWN.near * i) / (OWN.steps - 1)));
      own = Math.max(own, other.length);
    }
    return inPhase[s]! >= AT_ONE * own && inPhase[s]! >= AS_OTHERS * usual * weightOf(of);
  });
  return kept.length >= telling.length - Math.ceil(BREAKS * telling.length);
}

/** The sum of hits as pointers that make so many turns a curve value. */
function pointer(hits: readonly Hit[], turns: number): { x: number; y: number; length: number } {
  let [x, y] = [0, 0];
  for (const { at, weight } of hits) {
    const angle = 2 * Math.PI * turns * at;
    x += weight * Math.cos(angle);
    y += weight * Math.sin(angle);
  }
  return { x, y, length: Math.hypot(x, y) };
}

function hitsOf(curve: Float32Array): Hit[] {
  const hits: Hit[] = [];
  curve.forEach((v, t) => {
    if (v > LEAST && v >= (curve[t - 1] ?? 0) && v > (curve[t + 1] ?? 0))
      hits.push({ at: peakNear(curve, t), weight: Math.min(MOST, v) });
  });
  return hits;
}

/** How long the sum of the hits as turning pointers is: over the whole song, and its stretches' added up. */
function phaseSums(
  hits: readonly Hit[],
  turns: number,
  stretch: number,
): { whole: number; stretches: number } {
  let [wholeX, wholeY, x, y, stretches] = [0, 0, 0, 0, 0];
  let end = stretch;
  const close = () => {
    stretches += Math.hypot(x, y);
    wholeX += x;
    wholeY += y;
    [x, y] = [0, 0];
  };
  for (const { at, weight } of hits) {
    while (at >= end) {
      close();
      end += stretch;
    }
    const angle = 2 * Math.PI * turns * at;
    x += weight * Math.cos(angle);
    y += weight * Math.sin(angle);
  }
  close();
  return { whole: Math.hypot(wholeX, wholeY), stretches };
}

/** Share of a beat within which a hit belongs to it. */
const BELONGS = 0.12;

/** Beats a period apart over the whole of a curve, where most is struck, in the middle of those hits. Places with fractions. */
export function evenBeats(curve: Float32Array, period: number): number[] {
  const smooth = smoothed(curve);
  const beatsFrom = (start: number) =>
    Array.from({ length: Math.ceil((smooth.length - start) / period) }, (_, k) => start + k * period);
  let start = 0;
  let most = -1;
  for (let from = 0; from < period; from++) {
    const sum = beatsFrom(from).reduce((all, b) => all + Math.min(MOST, smooth[Math.round(b)] ?? 0), 0);
    if (sum > most) [start, most] = [from, sum];
  }
  const offs = hitsOf(smooth).flatMap(({ at }) => {
    const off = at - start - period * Math.round((at - start) / period);
    return Math.abs(off) <= BELONGS * period ? [off] : [];
  });
  const first = start + (offs.length > 0 ? median(offs) : 0);
  return beatsFrom(first < 0 ? first + period : first);
}
