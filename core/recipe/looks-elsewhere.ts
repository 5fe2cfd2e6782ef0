import { isDriver } from '../looks/driver';
import type { Place } from '../places/place';
import type { Look } from '../looks/look';
import { treatmentById } from '../looks/registry';
import { ANY_TRACK, regionOn } from '../regions/on-track';
import type { Region } from '../regions/region';
import type { Ground } from './put';
import type { MadeOn } from './recipe';

/** What looks need to know of where they are put. */
interface Here {
  /** Result frames the moves come to. */
  readonly frames: number;
  source(frame: number): number;
  /** Something with places in it, each where it is here. */
  places<T>(value: T): T;
  readonly hasBeats: boolean;
  /** What had to give; sentences are added. */
  readonly said: string[];
}

/** Looks of a recipe as they are on another span or clip. What cannot be there is left out, and said. */
export function looksElsewhere(looks: readonly Look[], madeOn: MadeOn, ground: Ground, here: Here): Look[] {
  const { said } = here;
  const same = madeOn.clipId !== undefined && madeOn.clipId === ground.clipId;
  return looks.map((look): Look => {
    const treatment = treatmentById(look.look);
    const name = treatment?.name ?? look.look;
    const values = Object.fromEntries(
      Object.entries(look.values).map(([key, value]) => [key, drivenElsewhere(value, name, madeOn, here)]),
    );
    for (const field of treatment?.fields ?? []) {
      const clip = values[field.key];
      if (field.kind !== 'clip' || typeof clip !== 'string' || clip === '' || ground.knows(clip)) continue;
      values[field.key] = '';
      if (look.on) said.push(`${name} shows a clip that is not in this project: choose one in its card.`);
    }
    if (look.on && !here.hasBeats && listensToBeats(look))
      said.push(`${name} goes with beats, and waits for a song that has them.`);
    const matte = look.matte && matteElsewhere(look.matte, same, ground);
    if (look.matte && !matte && look.on)
      said.push(
        `${name} was drawn on what differs from a clean plate, and this clip has none: it is drawn everywhere.`,
      );
    return {
      ...look,
      id: ground.newId(),
      values,
      strength: drivenElsewhere(look.strength, name, madeOn, here),
      scope: {
        ...look.scope,
        all: look.scope.all.map((c) => conditionElsewhere(c, name, madeOn, ground, here)),
      },
      region: look.region && regionElsewhere(look.region, name, madeOn, ground, here, same),
      matte,
    };
  });
}

const listensToBeats = ({ scope, values, strength }: Look): boolean =>
  scope.all.some((c) => c.kind === 'beats' || c.kind === 'accents') ||
  [strength, ...Object.values(values)].some((v) => isDriver(v) && v.kind === 'pulse');

function matteElsewhere(matte: NonNullable<Look['matte']>, same: boolean, { knows }: Ground): Look['matte'] {
  if (matte.clip === null) return same ? matte : null;
  return knows(matte.clip) ? matte : null;
}

function conditionElsewhere(
  condition: Look['scope']['all'][number],
  name: string,
  madeOn: MadeOn,
  { marks }: Ground,
  { frames, places, said }: Here,
): Look['scope']['all'][number] {
  if (condition.kind === 'range') {
    const at = (place: Place): Place =>
      typeof place === 'number' ? Math.round((place * frames) / madeOn.frames) : places(place);
    const here = { ...condition, from: at(condition.from), to: at(condition.to) };
    const { from, to } = here;
    if (
      typeof from === 'number' &&
      typeof to === 'number' &&
      (from !== condition.from || to !== condition.to)
    )
      said.push(`${name}: it is on frames ${from} to ${to} here, as far along as it was.`);
    return here;
  }
  if (condition.kind === 'mark' && !marks.some((m) => m.name === condition.name)) {
    const stand = marks.find((m) => m.name.toLowerCase() === condition.name.toLowerCase()) ?? marks[0];
    if (stand?.name.toLowerCase() === condition.name.toLowerCase()) return { ...condition, name: stand.name };
    said.push(
      stand
        ? `There is no mark called ${condition.name}: ${name} goes by ${stand.name}.`
        : `${name} goes by a mark called ${condition.name}: set one (M) where it belongs.`,
    );
    if (stand) return { ...condition, name: stand.name };
  }
  return condition;
}

/** A driven value, its keys where they are here: those counted in the result as far along as they were. */
function drivenElsewhere<V>(value: V, name: string, madeOn: MadeOn, { frames, places, said }: Here): V {
  if (!isDriver(value) || value.kind !== 'keys') return value;
  const keys = value.keys.map((k) => {
    if (typeof k.at !== 'number') return { ...k, at: places(k.at) };
    return value.counts === 'stretch' ? k : { ...k, at: Math.round((k.at * frames) / madeOn.frames) };
  });
  if (keys.some((k, i) => typeof k.at === 'number' && k.at !== value.keys[i]!.at))
    said.push(`${name}: its keys lie as far along the result as they did.`);
  return { ...value, keys };
}

/** A region on a picture of another size; what carried it stays behind where the clip is another. */
function regionElsewhere(
  region: Region,
  name: string,
  madeOn: MadeOn,
  ground: Ground,
  { frames, source, said }: Here,
  same: boolean,
): Region {
  if (same) return region;
  const { picture } = ground;
  const [first] = ground.tracks;
  if (region.carried?.track === ANY_TRACK) {
    if (first) {
      const { feather, grow, inverted } = region;
      said.push(`${name}'s region is on ${first.name}.`);
      return {
        ...regionOn(first, ground.span.in, picture?.height ?? madeOn.picture.height),
        feather,
        grow,
        inverted,
      };
    }
    said.push(`${name}'s region stands still in the middle: track what moves (T), and attach it.`);
  }
  const [across, down] = picture
    ? [picture.width / madeOn.picture.width, picture.height / madeOn.picture.height]
    : [1, 1];
  const size = Math.sqrt(across * down);
  const scaled = (values: readonly number[]) =>
    region.shape === 'polygon'
      ? values.map((v, i) => v * (i % 2 === 0 ? across : down))
      : [values[0]! * across, values[1]! * down, values[2]! * size, values[3]! * size, values[4]!];
  const at = (frame: number) =>
    region.counts === 'clip' ? source(frame) : Math.round((frame * frames) / madeOn.frames);
  const track = region.carried && first;
  if (region.carried && region.carried.track !== ANY_TRACK)
    said.push(
      track
        ? `${name}'s region is carried by ${track.name}.`
        : `${name}'s region was carried by something followed, and nothing is in this clip: it stands still.`,
    );
  const keys = region.keys.map((k) => ({ ...k, at: at(k.at), values: scaled(k.values) }));
  return {
    ...region,
    // Keys that fall on one frame are one.
    keys: keys.filter((k, i) => i === 0 || k.at > keys[i - 1]!.at),
    carried:
      region.carried && track
        ? { ...region.carried, track: track.id, from: source(region.carried.from) }
        : null,
  };
}
