import { CutFinder, SMALL } from '@skipback/core/moments/cuts';
import type { ClipSource } from '../frames/clip-row';
import { greyOf, readSmall } from './small-frames';

/** Frames around a stretch that are looked at too: whether something is a cut is told from its neighbours. */
const AROUND = 48;

/** Frames of [first, end) of a clip that begin another shot, ascending. `calm` is awaited now and then: what is more urgent goes before. */
export async function cutsIn(
  clip: ClipSource,
  { first, end }: { readonly first: number; readonly end: number },
  calm: () => Promise<unknown>,
): Promise<number[]> {
  const { times } = clip.index;
  const [from, to] = [Math.max(0, first - AROUND), Math.min(times.length, end + AROUND)];
  const lastsS = times[to - 1]! - times[from]!;
  const finder = new CutFinder(to - from, lastsS > 0 ? (to - from - 1) / lastsS : 30);
  const grey = new Uint8Array(SMALL.width * SMALL.height);
  await readSmall(clip, { first: from, end: to, ...SMALL }, async (pixels) => {
    greyOf(pixels, grey, 0);
    finder.take(grey);
    await calm();
  });
  return finder
    .cuts()
    .map((cut) => cut + from)
    .filter((cut) => cut >= first && cut < end);
}
