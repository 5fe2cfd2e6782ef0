import { frameCount, meanRateHz } from '../clip/frame-table';
import { withSteps } from '../places/moved';
import { withPlaces } from '../places/place';
import type { Ground } from './put';
import type { MadeOn, RecipeStep } from './recipe';

/** A frame of the clip a recipe was made on, on this one: at a mark the mark of its name, else as far along the span, or as many seconds. */
export function sourceFrame(
  frame: number,
  madeOn: MadeOn,
  { span, table, marks }: Ground,
  lists: RecipeStep['lists'],
): number {
  const last = frameCount(table) - 1;
  const within = (n: number) => Math.min(last, Math.max(0, Math.round(n)));
  const named = madeOn.marks.find((m) => m.frame === frame);
  const here = named && marks.find((m) => m.name.toLowerCase() === named.name.toLowerCase());
  if (here) return within(here.frame);
  const offset = frame - madeOn.span.in;
  return within(span.in + offset * clipTimes(madeOn, { span, table }, lists));
}

/** By how much distances in frames of the clip are longer. */
export function clipTimes(
  madeOn: MadeOn,
  { span, table }: Pick<Ground, 'span' | 'table'>,
  lists: RecipeStep['lists'],
): number {
  return lists === 'frames'
    ? meanRateHz(table) / madeOn.clipHz
    : (span.out - span.in) / (madeOn.span.out - madeOn.span.in);
}

/** Places of a recipe on another clip: frames of the clip where they are here, marks by their names, moves as they are called. */
export function placesElsewhere<T>(
  value: T,
  madeOn: MadeOn,
  ground: Ground,
  lists: RecipeStep['lists'],
  ids: ReadonlyMap<string, string>,
  said: string[],
): T {
  const placed = withPlaces(value, (p) => {
    if ('source' in p) return { ...p, source: sourceFrame(p.source, madeOn, ground, lists) };
    if (!('mark' in p)) return undefined;
    if (madeOn.clipId === ground.clipId && ground.marks.some((m) => m.id === p.mark)) return p;
    const was = madeOn.marks.find((m) => m.id === p.mark);
    const mark = was && ground.marks.find((m) => m.name.toLowerCase() === was.name.toLowerCase());
    if (mark) return { ...p, mark: mark.id };
    const { mark: _, ...rest } = p;
    const source = was ? sourceFrame(was.frame, madeOn, ground, lists) : ground.span.in;
    said.push(`There is no mark called ${was?.name ?? 'that'}: frame ${source} stands in for it.`);
    return { source, ...rest };
  });
  return typeof placed === 'object' && placed !== null
    ? withSteps(placed, (id) => ids.get(id) ?? id)
    : placed;
}
