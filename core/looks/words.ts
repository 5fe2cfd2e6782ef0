import { percentText } from '../time/entry';
import { PLAIN_TELLING, type Telling, markText, placeText } from '../places/words';
import type { Driver } from './driver';
import type { Condition, Scope } from './scope';

const WAYS = { forward: 'forward', backward: 'backward', held: 'held' } as const;
const frames = (n: number) => `${n} frame${n === 1 ? '' : 's'}`;

/** "for 6 frames", "2 frames before to 3 after"; nothing where it is the frame itself. */
function around(before: number, after: number): string {
  if (before === 0) return after === 1 ? '' : `, for ${frames(after)}`;
  return after === 0 ? `, the ${frames(before)} before` : `, ${frames(before)} before to ${after} after`;
}

const nth = (n: number): string =>
  `${n}${['th', 'st', 'nd', 'rd'][n % 10 > 3 || Math.floor(n / 10) === 1 ? 0 : n % 10]}`;

/** A condition in plain words, as it is read after "where it is" or "on". */
export function conditionWords(condition: Condition, telling = PLAIN_TELLING): string {
  const words = plainly(condition, telling);
  return condition.not ? `not ${words}` : words;
}

function rangeWords({ from, to }: Extract<Condition, { kind: 'range' }>, telling: Telling): string {
  if (typeof from === 'number' && typeof to === 'number')
    return `frames ${from + telling.first} to ${to + telling.first}`;
  return `${placeText(from, telling)} to ${placeText(to, telling)}`;
}

function plainly(c: Condition, telling: Telling): string {
  switch (c.kind) {
    case 'range':
      return rangeWords(c, telling);
    case 'way':
      return `${WAYS[c.way]} parts`;
    case 'slower':
      return `slower than ${percentText(c.percent)}`;
    case 'faster':
      return `faster than ${percentText(c.percent)}`;
    case 'first':
      return `first ${frames(c.frames)} of ${WAYS[c.way]} parts`;
    case 'last':
      return `last ${frames(c.frames)} of ${WAYS[c.way]} parts`;
    case 'joins':
      return `at joins${around(c.before, c.after)}`;
    case 'turns':
      return `at turns${around(c.before, c.after)}`;
    case 'beats': {
      const one = c.of === 'beats' ? 'beat' : 'bar';
      const which = c.every === 1 ? `every ${one}` : `every ${nth(c.every)} ${one}`;
      return `${which}${c.from > 1 ? ` from the ${nth(c.from)}` : ''}${around(c.before, c.after)}`;
    }
    case 'accents':
      return `on ${{ low: 'kicks', mid: 'snares', high: 'hats' }[c.band]}${around(c.before, c.after)}`;
    case 'mark':
      return `${markText(c.name || 'without a name')}${around(c.before, c.after)}`;
    case 'unknown':
      return 'nowhere: this version does not know its condition';
  }
}

/** A scope in plain words: "backward parts, first 6 frames of held parts". */
export function scopeWords({ all, either, fadeIn, fadeOut }: Scope, telling = PLAIN_TELLING): string {
  const where =
    all.length === 0
      ? 'everywhere'
      : all.map((c) => conditionWords(c, telling)).join(either ? ' or ' : ' and ');
  const fades = [fadeIn > 0 ? `in over ${fadeIn} f` : '', fadeOut > 0 ? `out over ${fadeOut} f` : ''].filter(
    Boolean,
  );
  return fades.length > 0 ? `${where}, ${fades.join(', ')}` : where;
}

/** What moves a value, in a word or two. */
export function driverWords(driver: Driver): string {
  switch (driver.kind) {
    case 'keys':
      return driver.keys.length === 1 ? 'one keyframe' : `${driver.keys.length} keyframes`;
    case 'pulse':
      return { beats: 'on beats', bars: 'on bars', low: 'on kicks', mid: 'on snares', high: 'on hats' }[
        driver.on
      ];
    case 'steps':
      return 'steps';
    case 'speed':
      return 'clip speed';
    case 'progress':
      return 'start to end';
    case 'random':
      return 'random';
  }
}
