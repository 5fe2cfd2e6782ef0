import type { Accent, Band } from './grid';

/** Where an accent was found that a person took away or made another: it stays away when accents are found again. */
export interface GoneAccent {
  readonly at: number;
  readonly band: Band;
}

/** A song's accents, and those of what was found that a person does not want. */
export interface Accents {
  readonly accents: readonly Accent[];
  readonly accentsGone: readonly GoneAccent[];
}

/** Two of a band this near are one, seconds; and what was found again is the same within this. */
const SAME_S = 0.02;
const AGAIN_S = 0.05;

/** An accent of a song, by where it is and whose it is. */
export type AccentKey = GoneAccent;

export const isAccent = (a: Accent, key: AccentKey | null): boolean =>
  key !== null && a.band === key.band && Math.abs(a.at - key.at) < 1e-6;

const BANDS: readonly Band[] = ['low', 'mid', 'high'];

/** As they are found: by time, and at one time kicks before snares before hats. */
const inOrder = (accents: readonly Accent[]): Accent[] =>
  accents.toSorted((a, b) => a.at - b.at || BANDS.indexOf(a.band) - BANDS.indexOf(b.band));

/** An accent added by hand, unless its band has one there. */
export function addedAccent(song: Accents, accent: Omit<Accent, 'hand'>): Accents {
  const at = Number(accent.at.toFixed(4));
  if (song.accents.some((a) => a.band === accent.band && Math.abs(a.at - at) < SAME_S)) return song;
  return { ...song, accents: inOrder([...song.accents, { ...accent, at, hand: true }]) };
}

/** An accent taken away, for good. */
export function removedAccent({ accents, accentsGone }: Accents, key: AccentKey): Accents {
  const gone = accents.find((a) => isAccent(a, key));
  if (!gone) return { accents, accentsGone };
  return {
    accents: accents.filter((a) => a !== gone),
    // One that was only ever a person's leaves nothing to be found again.
    accentsGone: gone.hand ? accentsGone : [...accentsGone, { at: gone.at, band: gone.band }],
  };
}

/** An accent made stronger or weaker, put elsewhere, or given to another band. */
export function changedAccent(
  song: Accents,
  key: AccentKey,
  change: Partial<Pick<Accent, 'at' | 'band' | 'strength'>>,
): Accents {
  const was = song.accents.find((a) => isAccent(a, key));
  if (!was) return song;
  const rest = removedAccent(song, key);
  const next = { ...was, ...change, hand: true as const };
  const taken = rest.accents.some((a) => a.band === next.band && Math.abs(a.at - next.at) < SAME_S);
  return taken ? song : { ...rest, accents: inOrder([...rest.accents, next]) };
}

/** What was found again, with what a person did to what was found before: theirs stay, what they took away stays away. */
export function foundAgain({ accents, accentsGone }: Accents, found: readonly Accent[]): Accent[] {
  const mine = accents.filter((a) => a.hand);
  const near = (a: Accent, b: GoneAccent) => a.band === b.band && Math.abs(a.at - b.at) < AGAIN_S;
  const kept = found.filter((a) => !accentsGone.some((g) => near(a, g)) && !mine.some((m) => near(a, m)));
  return inOrder([...kept, ...mine]);
}
