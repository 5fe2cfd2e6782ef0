import { sumOf } from '../time/sum';
import type { InBeats } from './place';

/** Beats from `2 b`, `0.5 beats`, `1/4 b`, `2 bars - 1 b`; undefined when it is none of these, or has other units in it. */
export function parseBeats(typed: string, beatsPerBar: number): InBeats | undefined {
  const factor = (unit: string) =>
    /^(b|beats?)$/.test(unit) ? 1 : /^bars?$/.test(unit) ? beatsPerBar : undefined;
  const beats = sumOf(typed, { factor });
  return beats === undefined || beats < 0 ? undefined : { beats: Number(beats.toPrecision(12)) };
}

/** Beats as people write them. */
export const beatsText = ({ beats }: InBeats): string =>
  `${Number(beats.toFixed(3))} beat${beats === 1 ? '' : 's'}`;
