import { Follower, LEVELS } from '@skipback/core/tracks/follow';
import { pyramidOf, type Pyramid } from '@skipback/core/tracks/luma';
import type { Pose } from '@skipback/core/tracks/patch';
import { NUMBERS, type Place, type TrackValues, type Way, bothWays } from '@skipback/core/tracks/track';
import { Placer } from '@skipback/core/pixels/place';
import { type Planes, planesBytes, planesIn } from '@skipback/core/pixels/planes';
import { budgets } from '../budgets';
import { ClipRow } from '../frames/clip-row';
import { FrameServer } from '../frames/frame-server';
import { OpenClips } from '../frames/open-clips';
import { seenPlanes } from '../frames/working-planes';
import type { FollowJob, FollowReply, FollowedStretch } from './messages';

/** How often it is told how far it is, milliseconds. */
const TOLD_EVERY_MS = 100;
/** Decimals that a place keeps. */
const FINE = 1000;

/** The brightness of a picture. */
class HeldLuma {
  constructor(
    readonly width: number,
    readonly height: number,
    readonly data: Uint8Array,
  ) {}

  close(): void {
    // Nothing but memory.
  }
}

/** Nothing to hold on to where following was to begin. */
export class Nothing extends Error {}

/**
 * Follows something through a clip as ordered, one way after the other. What was found before it was stopped stays;
 * frames that cannot be decoded are as their neighbours.
 */
export async function followClip(
  { clip, kind, width, height, sides }: FollowJob,
  signal: AbortSignal,
  progress: (reply: Extract<FollowReply, { kind: 'progress' }>) => void,
): Promise<{ stretches: FollowedStretch[]; frames: number }> {
  const clips = new OpenClips();
  const { orientation } = await clips.get(clip);
  /** Pixels that are not square are made so: what turns would not keep its shape. */
  let placer: Placer | undefined;
  const squared = (planes: Planes): Planes => {
    const { width, height } = orientation;
    if (Math.abs(planes.width * height - planes.height * width) < width + height) return planes;
    const to = planesIn(new Uint8Array(planesBytes(width, height)), width, height);
    placer ??= new Placer(planes, { width, height }, { x: 0, y: 0, width, height });
    placer.place(planes, to);
    return to;
  };
  const row = new ClipRow([{ ...clip, placing: undefined }]);
  const server = new FrameServer(
    clips.runsOf(row, { decoded: 0, open: 0 }, async (picture) => {
      const planes = squared((await seenPlanes(picture, orientation)).planes);
      return new HeldLuma(planes.width, planes.height, planes.y.slice());
    }),
    (held) => held.data.length,
  );
  const ways = sides.flatMap(({ away, back }) => (back ? [away, back] : [away]));
  const total = ways.reduce((sum, way) => sum + lengthOf(way), 0);
  let done = 0;
  let told = 0;
  const found: { frame: number; place: Place }[] = [];

  const follow = async (way: Way): Promise<Place[]> => {
    const step = way.to > way.from ? 1 : -1;
    const places: Place[] = [];
    const request = {
      wanted: Int32Array.from({ length: lengthOf(way) + 1 }, (_, i) => way.from + i * step),
      loops: false,
      start: 0,
      keys: row.keys,
      clipStarts: row.starts,
      capacity: Math.max(4, Math.floor(budgets.follow / (orientation.width * orientation.height))),
    };
    let followers: Target[] = [];
    for await (const { position, pictures } of server.serve(request, signal)) {
      const held = pictures[0];
      const luma = held?.picture;
      const pyramid = luma && pyramidOf(luma, LEVELS);
      held?.release();
      if (position === 0) {
        if (!pyramid || !luma) throw new Nothing();
        const scale = { x: luma.width / orientation.width, y: luma.height / orientation.height };
        followers = targetsOf(kind, way.values, { width, height }, pyramid, scale);
        if (followers.some((f) => !f.holds)) throw new Nothing();
        continue;
      }
      const steps = followers.map((f) => (pyramid ? f.next(pyramid) : undefined));
      const place = placeOf(kind, steps);
      places.push(place);
      done++;
      found.push({ frame: way.from + position * step, place });
      if (performance.now() - told > TOLD_EVERY_MS) {
        told = performance.now();
        progress({ kind: 'progress', done, total, found: found.splice(0) });
        // What is asked for in the meantime is heard.
        await new Promise((next) => setTimeout(next));
      }
      if (signal.aborted) break;
    }
    return places;
  };

  try {
    const stretches: FollowedStretch[] = [];
    for (const { away, back } of sides) {
      if (signal.aborted) break;
      const out = await follow(away);
      // Both arrays begin next to where the first way does.
      const places = back && !signal.aborted ? joinedWays(out, await follow(back)) : out;
      if (places.length === 0) continue;
      const forward = away.to > away.from;
      stretches.push({
        from: forward ? away.from + 1 : away.from - places.length,
        places: forward ? places : places.toReversed(),
      });
    }
    return { stretches, frames: done };
  } finally {
    await server.clear();
    clips.close();
  }
}

/** Frames on a way, its two ends left out. */
const lengthOf = ({ from, to }: Way): number => Math.max(0, Math.abs(to - from) - 1);

/** What two ways from either end give; of a second one that was cut short only what is there. */
function joinedWays(out: readonly Place[], back: readonly Place[]): Place[] {
  const there = Array.from({ length: out.length }, (_, i): Place => back[out.length - 1 - i]);
  return bothWays(out, there);
}

type Target = Pick<Follower, 'holds' | 'next'>;

/** One follower for each thing of a track, in pixels of the decoded picture. */
function targetsOf(
  kind: FollowJob['kind'],
  values: TrackValues,
  size: { width: number; height: number },
  pyramid: Pyramid,
  scale: { x: number; y: number },
): Target[] {
  const toClip = (pose: Pose): Pose => ({ ...pose, x: pose.x / scale.x, y: pose.y / scale.y });
  const starts: Pose[] =
    kind === 'points'
      ? [0, 2].map((i) => ({ x: values[i]!, y: values[i + 1]!, size: 1, turn: 0 }))
      : [{ x: values[0]!, y: values[1]!, size: values[2] ?? 1, turn: values[3] ?? 0 }];
  return starts.map((start) => {
    const pose = { ...start, x: start.x * scale.x, y: start.y * scale.y };
    const follower = new Follower(pyramid, pose, size.width * scale.x, size.height * scale.y);
    return {
      holds: follower.holds,
      next: (picture) => {
        const step = follower.next(picture);
        return step && { ...step, pose: toClip(step.pose) };
      },
    };
  });
}

function placeOf(kind: FollowJob['kind'], steps: readonly ReturnType<Target['next']>[]): Place {
  const [one, two] = steps;
  if (!one || (kind === 'points' && !two)) return undefined;
  const { x, y, size, turn } = one.pose;
  const all =
    kind === 'points' ? [x, y, two!.pose.x, two!.pose.y] : [x, y, size, turn].slice(0, NUMBERS[kind]);
  return {
    values: all.map((v) => Math.round(v * FINE) / FINE),
    sure: kind === 'points' ? Math.min(one.sure, two!.sure) : one.sure,
  };
}
