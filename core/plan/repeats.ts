/** A stretch of a row that is one period, so many times; what repeats nothing is there once. */
export interface Repeated {
  readonly first: number;
  readonly period: number;
  readonly times: number;
}

/**
 * Cuts a row into stretches that repeat and those that do not, in order, together the whole row. `content` has equal numbers
 * where pictures are equal. Periods are the shortest there are, and at least `least` long: what repeats within less (a held
 * frame, a stutter) counts as not repeating. Found by where each window of `least` comes again (Rabin and Karp 1987), then
 * compared in full.
 */
export function repeatsIn(content: ArrayLike<number>, least: number): Repeated[] {
  const count = content.length;
  const again = nextAlike(content, least);
  const found: Repeated[] = [];
  let plain = 0;
  let at = 0;
  while (at + least <= count) {
    const period = again[at]! - at;
    if (again[at] === -1 || period >= count) {
      at++;
      continue;
    }
    let end = at;
    while (end + period < count && content[end] === content[end + period]) end++;
    const times = Math.floor((end - at) / period) + 1;
    if (period < least || times < 2) {
      // Nothing in it begins a longer period before it ends, but the next place.
      at = period < least ? Math.max(at + 1, end + 1 - least) : at + 1;
      continue;
    }
    if (at > plain) found.push({ first: plain, period: at - plain, times: 1 });
    found.push({ first: at, period, times });
    at += period * times;
    plain = at;
  }
  if (plain < count) found.push({ first: plain, period: count - plain, times: 1 });
  return found;
}

/** For each place the next one at which the same `window` numbers follow, or -1. */
function nextAlike(content: ArrayLike<number>, window: number): Int32Array {
  const count = content.length;
  const next = new Int32Array(count).fill(-1);
  if (window > count) return next;
  const base = 0x01000193;
  let top = 1;
  for (let i = 1; i < window; i++) top = Math.imul(top, base);
  const last = new Map<number, number>();
  // The hash of a window read backward: its last number counts most, so that it can be taken out.
  let hash = 0;
  for (let i = count - 1; i >= 0; i--) {
    if (i + window < count) hash = (hash - Math.imul(content[i + window]! + 1, top)) | 0;
    hash = (Math.imul(hash, base) + content[i]! + 1) | 0;
    if (i + window > count) continue;
    const seen = last.get(hash);
    if (seen !== undefined && sameFor(content, i, seen, window)) next[i] = seen;
    last.set(hash, i);
  }
  return next;
}

function sameFor(content: ArrayLike<number>, a: number, b: number, window: number): boolean {
  for (let i = 0; i < window; i++) if (content[a + i] !== content[b + i]) return false;
  return true;
}
