import { z } from 'zod';
import { type Music, frameAfter, frameOfBeat, frameOn } from '../beats/music';
import { sumOf } from '../time/sum';
import { type AnyMove, inFrames } from './move';

/** A length or a place given in beats of the song instead of frames. */
export const InBeatsSchema = z.object({ beats: z.number().min(-10_000).max(10_000) });
export type InBeats = z.infer<typeof InBeatsSchema>;

export const isInBeats = (value: unknown): value is InBeats => InBeatsSchema.safeParse(value).success;

/**
 * Values with those given in beats as frames: a length as long as so many beats from the beginning of what
 * comes in, a place where that beat falls (0 is the first beat). Undefined where beats are needed and there
 * are none.
 */
export function resolveBeats(
  move: AnyMove,
  values: Record<string, unknown>,
  music: Music | undefined,
): Record<string, unknown> | undefined {
  const inBeats = move.fields.filter(inFrames).filter((f) => isInBeats(values[f.key]));
  if (inBeats.length === 0) return values;
  if (!music || music.beats.length < 2) return undefined;
  const out = { ...values };
  for (const field of inBeats) {
    const { beats } = values[field.key] as InBeats;
    const frames = field.kind === 'place' ? frameOfBeat(music, beats) : frameAfter(music, beats);
    out[field.key] = Math.max(field.min, frameOn(frames, music));
  }
  return out;
}

/** The values that are given in beats, by their keys. */
export const beatsIn = (values: Record<string, unknown>): Record<string, number> =>
  Object.fromEntries(Object.entries(values).flatMap(([key, v]) => (isInBeats(v) ? [[key, v.beats]] : [])));

/** Values with those given in beats as some frames that are allowed: for checking the rest of them. */
export function withoutBeatValues(move: AnyMove, values: Record<string, unknown>): Record<string, unknown> {
  const out = { ...values };
  for (const field of move.fields)
    if (inFrames(field) && isInBeats(values[field.key])) out[field.key] = Math.max(1, field.min);
  return out;
}

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
