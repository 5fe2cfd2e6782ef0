import { isDriver } from '@skipback/core/looks/driver';
import type { CompiledPiece } from '@skipback/core/project/compile';
import type { Framing } from '@skipback/core/project/schema';
import type { Between } from '@skipback/core/gather/gather';
import { rateText } from '@skipback/core/time/rational';

/** What a picture between two source frames is made of, as it is called. */
export const BETWEEN_WORDS: Record<Between, string> = { repeat: 'repeat', mix: 'blend', flow: 'motion flow' };
export const FRAMING_WORDS: Record<Framing, string> = {
  fit: 'whole picture',
  fill: 'fill the frame',
  centre: 'own size',
};

/** How a piece's clip is read, as one line: what is as usual only in short. */
export function readingWords({ piece, clip }: CompiledPiece, isFirst: boolean): string {
  const { shutter, steady, dissolve } = piece;
  return [
    clip.readAt ? `${rateText(clip.readAt)}/s` : 'own rate',
    FRAMING_WORDS[clip.framing].split(' ')[0]!,
    BETWEEN_WORDS[piece.between],
    ...(isDriver(shutter) ? ['shutter moves'] : shutter > 0 ? [`shutter ${Math.round(shutter)}°`] : []),
    ...(steady ? ['stabilised'] : []),
    ...(isFirst || dissolve === 0 ? [] : ['dissolve']),
  ].join(' · ');
}
