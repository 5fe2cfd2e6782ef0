/** Letters and figures a reel name has at most, as CMX 3600 allows. */
const LONGEST = 8;
/** Names that stand for something else there: black, the auxiliary source. */
const RESERVED = new Set(['BL', 'BLACK', 'AX', 'BARS', 'TONE']);

/** A clip's name as a reel would have it: capital letters and figures, whatever can be had of other scripts' accents. */
const plainName = (clipName: string): string =>
  clipName
    .replace(/\.[^.]+$/, '')
    .normalize('NFKD')
    .toUpperCase()
    .replace(/[^A-Z0-9]/g, '');

/** A reel name for every clip: no two share one, and none is one that means something else. */
export function reelsOf(clipNames: readonly string[]): ReadonlyMap<string, string> {
  const reels = new Map<string, string>();
  const taken = new Set(RESERVED);
  for (const name of clipNames) {
    if (reels.has(name)) continue;
    const plain = plainName(name);
    const first = (plain || 'CLIP').slice(0, LONGEST);
    let reel = plain === '' ? '' : first;
    for (let n = 1; reel === '' || taken.has(reel); n++) {
      const number = String(n);
      reel = `${first.slice(0, LONGEST - number.length)}${number}`;
    }
    taken.add(reel);
    reels.set(name, reel);
  }
  return reels;
}
