import type { MadeSegment, MusicPlace, Place, SegmentPlace, SourcePlace } from './place';

interface Named {
  readonly id: string;
  readonly name: string;
}

/** What places are told with: marks and moves by their names, and the number of the first frame. */
export interface Telling {
  readonly marks: readonly Named[];
  /** What a part of a move is called; undefined where the move is not there. */
  partName(making: SegmentPlace['makers'][number]): string | undefined;
  /** 0 or 1: what the first frame is called. */
  readonly first: number;
}

/** Without marks or moves. */
export const PLAIN_TELLING: Telling = { marks: [], partName: () => undefined, first: 0 };

/** Accents of each band as people call them. */
export const ACCENT_WORDS = { low: 'kick', mid: 'snare', high: 'hat' } as const;

const tidy = (n: number): string => String(Number(n.toFixed(2)));

const ordinal = (n: number): string => {
  const last = n % 10;
  const teen = n % 100 >= 11 && n % 100 <= 13;
  return `${n}${teen ? 'th' : last === 1 ? 'st' : last === 2 ? 'nd' : last === 3 ? 'rd' : 'th'}`;
};

function plusText(plus: number | { readonly beats: number } | undefined): string {
  const by = typeof plus === 'number' ? plus : plus?.beats;
  if (plus === undefined || by === undefined || by === 0) return '';
  return ` ${by < 0 ? '-' : '+'} ${tidy(Math.abs(by))} ${typeof plus === 'number' ? 'f' : 'b'}`;
}

const showingText = (showing: SourcePlace['showing']): string =>
  showing === undefined || showing === 1
    ? ''
    : showing === 'every'
      ? ' (every time)'
      : ` (${ordinal(showing)} time)`;

/** A mark as it is told: one that is called mark already is not called so twice. */
export const markText = (name: string): string => (/^mark\b/i.test(name) ? name : `mark ${name}`);

/** A place of the clip, in words: `mark catch`, `source 93 (2nd time)`. */
export function sourceText(place: SourcePlace, marks: readonly Named[], first = 0): string {
  const name =
    'mark' in place
      ? markText(marks.find((m) => m.id === place.mark)?.name ?? '(gone)')
      : `source ${place.source + first}`;
  return name + plusText(place.plus) + showingText(place.showing);
}

/** A place of the song, in words: `beat 5`, `bar 2 + 1 b`, `kick 3`. */
export function musicText(place: MusicPlace): string {
  const name =
    'accent' in place
      ? `${ACCENT_WORDS[place.band]} ${place.accent}`
      : 'beat' in place
        ? `beat ${tidy(place.beat)}`
        : `bar ${tidy(place.bar)}`;
  return name + plusText(place.plus);
}

/** Parts people write as fractions. */
const FRACTIONS: readonly (readonly [number, string])[] = [2, 3, 4, 5, 6, 8].flatMap((under) =>
  Array.from({ length: under - 1 }, (_, i) => [(i + 1) / under, `${i + 1}/${under}`] as const),
);

const shareText = (share: number): string =>
  FRACTIONS.find(([value]) => Math.abs(value - share) < 1e-4)?.[1] ?? `${tidy(share * 100)} %`;

/** What a move made, in words: `boomerang’s way back, the 2nd`. */
export function segmentText({ makers, nth }: MadeSegment, { partName }: Telling): string {
  const names = makers.flatMap((m) => (m.part >= 0 ? [partName(m)] : [])).filter((n) => n !== undefined);
  if (names.length === 0) return makers.length === 0 ? 'the whole span' : 'a part of it';
  return `${names.toReversed().join(' in ')}${nth > 0 ? `, the ${ordinal(nth + 1)}` : ''}`;
}

/** A place in the words it can be typed in; a part of a move is told, and kept when it is not typed anew. */
export function placeText(place: Place, telling: Telling): string {
  if (typeof place === 'number') return `${tidy(place + telling.first)} f`;
  if ('source' in place || 'mark' in place) return sourceText(place, telling.marks, telling.first);
  if ('beats' in place) return `${tidy(place.beats)} beat${place.beats === 1 ? '' : 's'}`;
  if ('share' in place) return shareText(place.share) + plusText(place.plus);
  if ('end' in place) return place.end === 0 ? 'end' : `end - ${tidy(place.end)} f`;
  if ('makers' in place) {
    const inner = place.makers[place.makers.length - 1];
    const name = (inner && telling.partName(inner)) ?? 'what is gone';
    return `${place.edge === 'from' ? 'beginning' : 'end'} of ${name}${plusText(place.plus)}`;
  }
  return musicText(place);
}
