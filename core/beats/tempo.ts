/**
 * The tempo through a song: autocorrelation of the onset curve in overlapping windows, read through a comb so
 * that a period is heard with its multiples, weighed by how likely people find a tempo (Ellis 2007), and
 * joined by the path that changes least (Viterbi; after Peeters 2007).
 */

/** Tempi that are considered, beats a minute. */
export const SLOWEST_BPM = 55;
export const FASTEST_BPM = 215;
/** The tempo people prefer, and how far from it, in octaves, counts as one deviation. */
const PREFERRED_BPM = 118;
const OCTAVES = 0.75;

/** How a tempo is followed: what is listened to at once and how often, seconds; what the whole song's say counts beside a window's; what it costs to be at another tempo at once. */
interface Following {
  readonly windowS: number;
  readonly hopS: number;
  readonly whole: number;
  readonly jump: number;
}
const KEPT: Following = { windowS: 10, hopS: 2, whole: 1.2, jump: Infinity };
const MOVED: Following = { windowS: 7, hopS: 1, whole: 0.6, jump: 1.2 };
/** How much each third of a period that the onsets repeat at takes from it. */
const THIRDS = 0.3;
/** Cost of changing the period, for each two-hundredth in a second. */
const STIFFNESS = 0.35;

/** Beat period at moments evenly spaced, in curve values. */
export interface TempoPath {
  readonly hopS: number;
  readonly periods: Float64Array;
}

/** Periods on offer: logarithmically spaced, a two-hundredth apart. */
function candidates(rateHz: number): Float64Array {
  const shortest = (60 * rateHz) / FASTEST_BPM;
  const longest = (60 * rateHz) / SLOWEST_BPM;
  const count = Math.ceil(Math.log(longest / shortest) / Math.log(1.005)) + 1;
  return Float64Array.from({ length: count }, (_, i) => shortest * 1.005 ** i);
}

function autocorrelation(curve: Float32Array, from: number, to: number, most: number): Float64Array {
  const out = new Float64Array(most + 1);
  const length = to - from;
  for (let lag = 0; lag <= most; lag++) {
    let sum = 0;
    for (let i = from + lag; i < to; i++) sum += curve[i]! * curve[i - lag]!;
    out[lag] = sum / Math.max(1, length - lag * 0.5);
  }
  return out;
}

const at = (row: Float64Array, place: number): number => {
  const i = Math.floor(place);
  const share = place - i;
  return i + 1 < row.length ? row[i]! * (1 - share) + row[i + 1]! * share : 0;
};

/** The most of a row within `reach` of a place. */
function peakAt(row: Float64Array, place: number, reach: number): number {
  let peak = 0;
  for (let d = -reach; d <= reach; d++) peak = Math.max(peak, at(row, place + d));
  return peak;
}

/**
 * How well each period explains an autocorrelation: its multiples counted, spread over their own width. What comes
 * again after thirds of it speaks against it: beats are mostly parted in halves, and where all eighths are played
 * alike, three of them would else do as well as two or four.
 */
function combed(row: Float64Array, periods: Float64Array): Float64Array {
  return periods.map((p) => {
    let sum = 0;
    for (let k = 1; k <= 4; k++) sum += peakAt(row, k * p, Math.max(1, k - 1));
    return sum / 4 + 0.5 * at(row, p) - THIRDS * (peakAt(row, p / 3, 1) + peakAt(row, (2 * p) / 3, 1));
  });
}

/** How far a tempo is from what people like best, in deviations. */
export const distanceFromLiked = (bpm: number): number => Math.log2(bpm / PREFERRED_BPM) / OCTAVES;

/** How readily people take a tempo as the beat: a bell over the octaves, 1 at its top. */
const likingOf = (bpm: number): number => Math.exp(-0.5 * distanceFromLiked(bpm) ** 2);

/** The tempo path of an onset curve; `moves` where the song does not keep one tempo. */
export function tempoPath(curve: Float32Array, rateHz: number, moves = false): TempoPath {
  const following = moves ? MOVED : KEPT;
  const periods = candidates(rateHz);
  const most = Math.ceil(4 * periods[periods.length - 1]!) + 2;
  const window = Math.round(following.windowS * rateHz);
  const hop = Math.round(following.hopS * rateHz);
  const windows = Math.max(1, Math.ceil(curve.length / hop));
  const like = periods.map((p) => likingOf((60 * rateHz) / p));
  const rows: Float64Array[] = [];
  const whole = new Float64Array(periods.length);
  for (let w = 0; w < windows; w++) {
    const middle = w * hop;
    const from = Math.max(0, Math.min(curve.length - window, middle - window / 2));
    const row = autocorrelation(
      curve,
      Math.floor(from),
      Math.min(curve.length, Math.floor(from) + window),
      most,
    );
    const strength = row[0]! || 1;
    const scores = combed(row, periods).map((s, i) => Math.max(0, (s / strength) * like[i]!));
    rows.push(scores);
    scores.forEach((s, i) => (whole[i]! += s / windows));
  }
  // What the whole song says keeps single windows from another octave.
  const peak = whole.reduce((a, b) => Math.max(a, b), 1e-9);
  return {
    hopS: following.hopS,
    periods: smoothest(
      rows.map((row) => {
        const top = row.reduce((a, b) => Math.max(a, b), 1e-9);
        return row.map((s, i) => s / top + following.whole * (whole[i]! / peak));
      }),
      periods,
      following,
    ),
  };
}

/** The row of periods that scores most with the least change (Viterbi). */
function smoothest(
  rows: readonly Float64Array[],
  periods: Float64Array,
  { hopS, jump }: Following,
): Float64Array {
  const n = periods.length;
  const reach = 12;
  const back: Int16Array[] = [];
  let score = Float64Array.from(rows[0]!);
  for (let w = 1; w < rows.length; w++) {
    const next = new Float64Array(n);
    const from = new Int16Array(n);
    const likeliest = score.reduce((best, s, i) => (s > score[best]! ? i : best), 0);
    for (let i = 0; i < n; i++) {
      let best = -Infinity;
      for (let j = Math.max(0, i - reach); j <= Math.min(n - 1, i + reach); j++) {
        const value = score[j]! - (STIFFNESS / hopS) * Math.abs(i - j);
        if (value > best) [best, from[i]] = [value, j];
      }
      if (score[likeliest]! - jump > best) [best, from[i]] = [score[likeliest]! - jump, likeliest];
      next[i] = best + rows[w]![i]!;
    }
    back.push(from);
    score = next;
  }
  let place = score.reduce((best, s, i) => (s > score[best]! ? i : best), 0);
  const out = new Float64Array(rows.length);
  for (let w = rows.length - 1; w >= 0; w--) {
    out[w] = periods[place]!;
    if (w > 0) place = back[w - 1]![place]!;
  }
  return out;
}

/** The period at a curve value, between the windows' own. */
export function periodAt(path: TempoPath, place: number, rateHz: number): number {
  const w = Math.min(path.periods.length - 1, Math.max(0, place / (path.hopS * rateHz)));
  const i = Math.floor(w);
  const next = path.periods[Math.min(path.periods.length - 1, i + 1)]!;
  return path.periods[i]! + (next - path.periods[i]!) * (w - i);
}
