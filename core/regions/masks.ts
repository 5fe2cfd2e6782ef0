import { frameCount } from '../clip/frame-table';
import { gathersOf } from '../gather/gathers';
import { WHOLE } from '../gather/gather';
import type { Look } from '../looks/look';
import { type Notice, warning } from '../notice';
import { type CompiledPiece, liesAt } from '../project/compile';
import { type Mask, type Region, carriesOf, mapOf, maskOf, numbersAt } from './region';

/** Where the region of a look is at the frames of its list. */
export interface MaskAt {
  /** Undefined where it is nowhere. */
  at(frame: number): Mask | undefined;
  /** What is to be said when it was nowhere at so many frames that the look applies to. */
  notices(nowhere: number): readonly Notice[];
}

/** Where the regions of a piece's looks are: they lie in its clip's picture, and go where that is put. */
export function masksOfPiece(compiled: CompiledPiece, loops: boolean): (look: Look) => MaskAt {
  return ({ region }) => {
    const { clip, table, shown } = compiled;
    if (!region) return { at: () => undefined, notices: () => [] };
    const carries = carriesOf(region, clip.tracks, frameCount(table));
    const missing = region.carried !== null && !clip.tracks.some((t) => t.id === region.carried?.track);
    const gathers = gathersOf(compiled, loops);
    const known = new Map<string, Mask | undefined>();

    const atFrame = (clipFrame: number, frame: number): Mask | undefined => {
      const key = region.counts === 'clip' ? `${clipFrame}` : `${clipFrame} ${frame}`;
      if (known.has(key)) return known.get(key);
      const lies = liesAt(compiled, clipFrame);
      const carried = carries?.(clipFrame);
      const mask =
        lies && (carried || !carries)
          ? maskOf(
              region,
              numbersAt(region, region.counts === 'clip' ? clipFrame : frame),
              mapOf(lies, carried),
            )
          : undefined;
      known.set(key, mask);
      return mask;
    };
    return {
      at(frame) {
        const gather = gathers?.[frame];
        if (!gather) return atFrame(shown[frame]!, frame);
        // Between frames of the clip it is between where it is on them.
        const place = gather.along
          ? gather.frames[0]! + gather.along.reduce((a, b) => a + b, 0) / gather.along.length / WHOLE
          : gather.frames.reduce((sum, f, i) => sum + f * gather.weights[i]!, 0) / WHOLE;
        const [a, b] = [Math.floor(place), Math.ceil(place)];
        return between(atFrame(a, frame), atFrame(b, frame), place - a);
      },
      notices: (nowhere) => noticesOf(compiled, region, missing, nowhere),
    };
  };
}

/** Where the regions of the looks of the whole result are: in the project's picture. */
export function masksOfResult({ region }: Look): MaskAt {
  const here = { a: 1, b: 0, x: 0, y: 0 };
  return {
    at: (frame) => (region ? maskOf(region, numbersAt(region, frame), here) : undefined),
    notices: () => [],
  };
}

function between(a: Mask | undefined, b: Mask | undefined, share: number): Mask | undefined {
  if (!a || !b || share === 0) return a ?? b;
  return { ...a, numbers: a.numbers.map((v, i) => v + (b.numbers[i]! - v) * share) };
}

function noticesOf({ clip }: CompiledPiece, region: Region, missing: boolean, nowhere: number): Notice[] {
  if (missing)
    return [
      warning(
        'region-no-track',
        'The track that carried its region is gone: it stands still.',
        'Choose another.',
      ),
    ];
  const name = clip.tracks.find((t) => t.id === region.carried?.track)?.name;
  if (nowhere === 0 || name === undefined) return [];
  return [
    warning(
      'region-lost',
      `${name} is lost in ${nowhere} of its frames: nothing is drawn there.`,
      'Correct the track there.',
    ),
  ];
}
