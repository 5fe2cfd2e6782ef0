import { type TimeAt, parseLength } from '../time/amount';
import { rational } from '../time/rational';
import { parseBeats } from './beats-text';
import { type Place, type SourcePlace, inClip } from './place';
import { ACCENT_WORDS, PLAIN_TELLING, type Telling, sourceText } from './words';

/** What places are read with: the clip's marks, the number of the first frame, what times are counted at. */
export interface Reading {
  readonly marks: readonly { readonly id: string; readonly name: string }[];
  /** 0 or 1: what the first frame is called. */
  readonly first: number;
  readonly at: TimeAt;
  /** Whether a plain number is a frame of the clip. */
  readonly counts?: 'clip' | undefined;
}

/** Without marks, a song or a project. */
export const PLAIN_READING: Reading = { marks: [], first: 0, at: { rate: rational(30) } };

type Plus = number | { readonly beats: number };
type Based = { readonly base: string; readonly plus?: Plus };

/** What is typed after a place: `+ 3 f`, `- 1 beat`. */
function withoutPlus(typed: string, { at }: Reading): Based {
  const match = /^(.*\S)\s*([+\-−])\s*([\d.,]+\s*[a-z]*)$/i.exec(typed);
  if (!match) return { base: typed };
  const sign = match[2] === '+' ? 1 : -1;
  const beats = parseBeats(match[3]!, at.beat?.perBar ?? 4);
  if (beats) return { base: match[1]!, plus: { beats: sign * beats.beats } };
  const frames = parseLength(match[3]!, at.rate, { least: 0, most: 10_000_000 });
  return typeof frames === 'string' ? { base: typed } : { base: match[1]!, plus: sign * frames };
}

function withoutShowing(typed: string): { rest: string; showing?: SourcePlace['showing'] } {
  const match = /^(.*?)\s*(?:,|\(|\s)\s*(?:(every|each|first)|(\d+)(?:st|nd|rd|th))(?:\s+time)?\s*\)?$/i.exec(
    typed,
  );
  if (!match) return { rest: typed };
  const word = match[2]?.toLowerCase();
  const showing = word === 'first' ? 1 : word ? 'every' : Number(match[3]);
  return { rest: match[1]!, showing };
}

/** A frame of the clip or a mark, as it is typed: `93` where numbers are frames of it, `source 93`, `mark catch (2nd time)`. */
export function readSource(
  typed: string,
  reading: Reading = PLAIN_READING,
): number | SourcePlace | undefined {
  const { marks, first } = reading;
  const bare = typed.trim();
  const number = /^(?:f(?:rame)?\s*)?(\d+)(?:\s*f)?$/i.exec(bare);
  if (number) return Number(number[1]) - first >= 0 ? Number(number[1]) - first : undefined;
  const named = (name: string) => marks.find((m) => m.name.toLowerCase() === name.toLowerCase());
  const whole = named(bare) ?? named(bare.replace(/^mark\s+/i, ''));
  if (whole) return { mark: whole.id };
  const { rest, showing } = withoutShowing(bare);
  const { base, plus } = withoutPlus(rest, reading);
  const more = { ...(plus !== undefined && { plus }), ...(showing !== undefined && { showing }) };
  const frame = /^(?:source|src)\s+(\d+)$/i.exec(base);
  if (frame && Number(frame[1]) >= first) return { source: Number(frame[1]) - first, ...more };
  const mark = named(base) ?? named(base.replace(/^mark\s+/i, ''));
  return mark ? { mark: mark.id, ...more } : undefined;
}

const BANDS = Object.fromEntries(Object.entries(ACCENT_WORDS).map(([band, word]) => [word, band])) as Record<
  string,
  'low' | 'mid' | 'high'
>;

/** A place as it is typed, in the words that `placeText` tells it; the sentence that refuses what is none. */
export function readPlace(
  typed: string,
  reading: Reading,
  { least, most, shown }: { readonly least: number; readonly most: number; readonly shown?: string },
): Place | string {
  const text = typed.trim();
  const source = readSource(text, reading);
  if (typeof source === 'object') return source;
  if (typeof source === 'number' && reading.counts === 'clip' && /^\d+$/.test(text)) return { source };
  const share = /^(\d+)\s*\/\s*(\d+)$/.exec(text);
  if (share && Number(share[1]) < Number(share[2])) return { share: Number(share[1]) / Number(share[2]) };
  const percent = /^(\d+(?:[.,]\d+)?)\s*%$/.exec(text);
  if (percent && Number(percent[1]!.replace(',', '.')) <= 100)
    return { share: Number(percent[1]!.replace(',', '.')) / 100 };
  const { base, plus } = withoutPlus(text, reading);
  if (/^(the )?end$/i.test(base) && (plus === undefined || typeof plus === 'number'))
    return { end: plus === undefined ? 0 : -plus };
  const more = plus === undefined ? {} : { plus };
  const music = /^(beat|bar|kick|snare|hat)\s+(\d+(?:[.,]\d+)?)$/i.exec(base);
  if (music) {
    const [word, number] = [music[1]!.toLowerCase(), Number(music[2]!.replace(',', '.'))];
    if (word === 'beat') return { beat: number, ...more };
    if (word === 'bar') return { bar: number, ...more };
    if (Number.isInteger(number) && number >= 1) return { accent: number, band: BANDS[word]!, ...more };
  }
  const beats = parseBeats(text, reading.at.beat?.perBar ?? 4);
  if (beats) return beats;
  // Frames are counted from the first one's number; lengths of time are not.
  const counted = /^\d+(?:\s*f(?:rames?)?)?$/i.test(text) ? reading.first : 0;
  const frames = parseLength(text, reading.at.rate, {
    least: least + counted,
    most: most + counted,
    shown: shown ?? '',
    ...(reading.at.beat && { beat: reading.at.beat }),
  });
  if (typeof frames === 'number') return frames - counted;
  return frames.startsWith('At ')
    ? frames
    : `“${text.slice(0, 24)}” is no place here. A frame or a time (40, 1.5 s), source 93, mark ${reading.marks[0]?.name ?? 'catch'}, beat 5, kick 3, 1/3, or end - 12 f.`;
}

/** A beat of the song as it is typed: a plain number counts from where the piece begins. */
export function readBeat(typed: string, reading: Reading): number | Place | string {
  const text = typed.trim();
  if (/^\d+$/.test(text)) return Number(text);
  const place = readPlace(text, reading, { least: 0, most: 10_000_000 });
  if (typeof place === 'object' && ('beat' in place || 'bar' in place || 'accent' in place)) return place;
  return `“${text.slice(0, 24)}” is no place of the song. Type beat 5, bar 2, kick 3, or a number of beats from where the piece begins.`;
}

/** Frames of the clip and marks in a row, as they are typed. */
export function sourceListText(list: readonly unknown[], telling: Telling = PLAIN_TELLING): string {
  return list
    .map((value): string => {
      if (typeof value === 'number') return String(value + telling.first);
      if (inClip(value)) return sourceText(value, telling.marks, telling.first);
      const { to, soft } = value as { to: unknown; soft: number };
      return `${sourceListText([to], telling)} ~${soft}`;
    })
    .join(', ');
}
