import type { Music } from '../beats/music';
import type { FrameTable } from '../clip/frame-table';
import type { Look } from '../looks/look';
import { type Place, isInBeats, isPlace } from '../places/place';
import { withoutPlaces } from '../moves/place-values';
import { type AnyMove, inFrames } from '../moves/move';
import { applyChain } from '../moves/chain';
import { type ChainStep, moveById, valuesOf } from '../moves/registry';
import { type TimePath, pathLength } from '../path/path';
import type { Mark, Piece, Span } from '../project/schema';
import type { Steady } from '../steady/steady';
import type { Size } from '../steady/framing';
import { toNumber } from '../time/rational';
import type { Track } from '../tracks/track';
import { looksElsewhere } from './looks-elsewhere';
import { clipTimes, placesElsewhere, sourceFrame } from './places-elsewhere';
import { type MadeOn, type Recipe, type RecipeStep, isShare } from './recipe';

/** What a recipe is put on. */
export interface Ground {
  readonly clipId: string;
  readonly span: Span;
  /** The clip as it is read. */
  readonly table: FrameTable;
  readonly marks: readonly Mark[];
  readonly tracks: readonly Track[];
  /** The clip's picture, upright, where it is known. */
  readonly picture: Size | undefined;
  /** The song counted from the piece's first frame. */
  readonly music: Music | undefined;
  /** What its moves begin with: the span alone, or what earlier moves made of it. */
  readonly path: TimePath;
  /** Whether the project has a clip. */
  knows(clipId: string): boolean;
  newId(): string;
}

/** A recipe as it is on that ground, and everything that had to give, a sentence each. */
export interface Put {
  readonly chain: readonly ChainStep[];
  readonly looks: readonly Look[];
  readonly between: Piece['between'];
  readonly shutter: Piece['shutter'];
  readonly steady: Steady | null;
  readonly said: readonly string[];
}

/** Seconds of a beat where a recipe does not say and there is no song: 120 a minute. */
const PLAIN_BEAT_S = 0.5;

/** Works a recipe out for a span of some clip. Never fails: what cannot be as it was is the nearest to it, and said. */
export function putRecipe(recipe: Recipe, ground: Ground): Put {
  const { music, table } = ground;
  const hasBeats = music !== undefined && music.beats.length > 1;
  const parts = !hasBeats && recipe.unheard ? recipe.unheard : recipe;
  const said: string[] = [];
  if (parts !== recipe) said.push('There are no beats: it is done without them.');
  const chain: ChainStep[] = [];
  /** Moves of the recipe by what it calls them: what they are called here. */
  const ids = new Map<string, string>();
  let path = ground.path;
  for (const step of parts.chain) {
    const incoming = pathLength(path);
    const placed = stepElsewhere(step, recipe.madeOn, ground, incoming, ids, said);
    chain.push(placed);
    const applied = applyChain(path, [placed], { table, music, marks: ground.marks });
    path = applied.path;
    const name = moveById(step.move)?.name ?? step.move;
    for (const notice of applied.steps.flatMap((s) => s.notices))
      if (notice.level !== 'info')
        said.push(notice.text.includes(name) ? notice.text : `${name}: ${notice.text}`);
  }
  const looks = looksElsewhere(parts.looks, recipe.madeOn, ground, {
    frames: Math.max(1, Math.round(pathLength(path))),
    source: (frame) => sourceFrame(frame, recipe.madeOn, ground, 'along'),
    places: (value) => placesElsewhere(value, recipe.madeOn, ground, 'along', ids, said),
    hasBeats,
    said,
  });
  const { between, shutter } = recipe;
  return {
    chain,
    looks,
    between,
    shutter,
    steady: steadyOn(recipe.steady, ground, said),
    said: [...new Set(said)],
  };
}

function stepElsewhere(
  step: RecipeStep,
  madeOn: MadeOn,
  ground: Ground,
  incoming: number,
  ids: Map<string, string>,
  said: string[],
): ChainStep {
  const id = ground.newId();
  if (step.id) ids.set(step.id, id);
  const move = moveById(step.move);
  const here = <T>(value: T): T => placesElsewhere(value, madeOn, ground, step.lists, ids, said);
  const zone = step.zone && zoneElsewhere(step.zone, incoming, here);
  const plain = { id, move: step.move, on: step.on, ...(zone && { zone }) };
  // One this version does not know is kept as it is, and left out, as in a project.
  if (!move) return { ...plain, values: step.values };
  const values = here(valuesOf(step));
  for (const field of move.fields.filter(inFrames)) {
    const value = inFramesHere(values[field.key], field.label, move, madeOn, ground, incoming, said);
    if (typeof value !== 'number') {
      if (value !== undefined) values[field.key] = value;
      continue;
    }
    const most = field.kind === 'place' ? Math.max(field.min, Math.ceil(incoming) - 1) : field.max;
    const given = Math.min(most, field.max, Math.max(field.min, Math.round(value)));
    if (given < Math.round(value) && step.on && (field.when?.(values, zone !== undefined) ?? true))
      said.push(
        `${move.name}, ${field.label.toLowerCase()}: frame ${Math.round(value)} lies after what comes in, so it is ${given}.`,
      );
    values[field.key] = given;
  }
  const along = step.lists === 'along' && step.incoming ? incoming / step.incoming : 1;
  const read = move.schema.safeParse(withoutPlaces(move, values));
  if (read.success && move.elsewhere) {
    // What is a place already, or became one, is not counted along once more.
    const moved = move.elsewhere(read.data, {
      source: (frame) => sourceFrame(frame, madeOn, ground, step.lists),
      along,
      clip: clipTimes(madeOn, ground, step.lists),
    });
    const fits = move.schema.safeParse({ ...read.data, ...moved }).success;
    if (fits) Object.assign(values, keepingPlaces(values, moved));
    else said.push(`${move.name}: its frames do not fit this span and are as they were.`);
  }
  return { ...plain, values };
}

function zoneElsewhere(
  zone: NonNullable<RecipeStep['zone']>,
  incoming: number,
  here: <T>(value: T) => T,
): ChainStep['zone'] {
  if (!('from' in zone)) return here({ zone }).zone;
  const at = (end: Place) =>
    isShare(end) && !('plus' in end) ? Math.round(end.share * incoming) : here(end);
  const [from, to] = [at(zone.from), at(zone.to)];
  if (typeof from !== 'number' || typeof to !== 'number') return { from, to };
  const first = Math.min(from, Math.max(0, incoming - 1));
  return { from: first, to: Math.max(first + 1, to) };
}

/** A list as it was moved elsewhere, with the places that stood in it before in their places. */
function keepingPlaces(
  values: Record<string, unknown>,
  moved: Record<string, unknown>,
): Record<string, unknown> {
  const keep = (was: unknown, is: unknown): unknown => {
    if (isPlace(was)) return was;
    if (Array.isArray(was) && Array.isArray(is)) return is.map((v, i) => keep(was[i], v));
    if (typeof was === 'object' && was !== null && typeof is === 'object' && is !== null)
      return Object.fromEntries(
        Object.entries(is).map(([key, v]) => [key, keep((was as Record<string, unknown>)[key], v)]),
      );
    return is;
  };
  return Object.fromEntries(Object.entries(moved).map(([key, v]) => [key, keep(values[key], v)]));
}

/** A length or a place in frames here; beats stay beats where there are any. */
function inFramesHere(
  value: unknown,
  label: string,
  move: AnyMove,
  { beatS }: MadeOn,
  { music, path }: Ground,
  incoming: number,
  said: string[],
): unknown {
  if (isShare(value) && !('plus' in value)) return value.share * incoming;
  if (!isInBeats(value) || (music && music.beats.length > 1)) return value;
  const frames = Math.max(1, Math.round(value.beats * (beatS ?? PLAIN_BEAT_S) * toNumber(path.rate)));
  said.push(
    `There are no beats: ${move.name}, ${label.toLowerCase()}: ${Number(value.beats.toFixed(3))} beats are ${frames} frames.`,
  );
  return frames;
}

/** How it is held: by the track it was made with, or by one that the clip has. */
function steadyOn(steady: Steady | null, { tracks }: Ground, said: string[]): Steady | null {
  if (!steady?.on) return null;
  if (tracks.some((t) => t.id === steady.track)) return steady;
  const track = tracks[0];
  if (!track) {
    said.push(
      'It is held still by something followed in the clip, and nothing is yet: follow it, then hold the piece by it.',
    );
    return null;
  }
  said.push(`It is stabilised by ${track.name}.`);
  return { ...steady, track: track.id };
}
