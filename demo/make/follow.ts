/** What the demo follows through its clips, with the program's own search. */
import { execFileSync } from 'node:child_process';
import { Follower, LEVELS } from '@skipback/core/tracks/follow';
import { type Luma, pyramidOf } from '@skipback/core/tracks/luma';
import { type Place, type Track, withFollowed } from '@skipback/core/tracks/track';

const [WIDTH, HEIGHT] = [1280, 720];

/** The brightness of all frames of a clip of 1280 x 720. */
function framesOf(path: string): Luma[] {
  const raw = execFileSync(
    'ffmpeg',
    [
      ...['-loglevel', 'error', '-i', path, '-vf', 'extractplanes=y', '-fps_mode', 'passthrough'],
      ...['-f', 'rawvideo', '-pix_fmt', 'gray', '-'],
    ],
    { maxBuffer: 512 << 20 },
  );
  const size = WIDTH * HEIGHT;
  return Array.from({ length: raw.length / size }, (_, n) => ({
    width: WIDTH,
    height: HEIGHT,
    data: new Uint8Array(raw.buffer, raw.byteOffset + n * size, size),
  }));
}

/** A track of a clip from a place at a frame on, both ways. */
export function followed(
  path: string,
  {
    kind,
    name,
    frame,
    x,
    y,
    width,
    height,
  }: Pick<Track, 'kind' | 'name' | 'width' | 'height'> & {
    readonly frame: number;
    readonly x: number;
    readonly y: number;
  },
): Track {
  const frames = framesOf(path);
  const start = { x, y, size: 1, turn: 0 };
  const fine = (v: number) => Math.round(v * 100) / 100;
  const values = (p: typeof start) => (kind === 'box' ? [p.x, p.y, p.size, p.turn] : [p.x, p.y]).map(fine);
  let track: Track = {
    ...{ id: name, name, kind, width, height, runs: [] },
    keys: [{ frame, ease: 'even', values: values(start) }],
  };
  for (const step of [1, -1]) {
    const follower = new Follower(pyramidOf(frames[frame]!, LEVELS), start, width, height);
    const places: Place[] = [];
    for (let n = frame + step; n >= 0 && n < frames.length; n += step) {
      const found = follower.next(pyramidOf(frames[n]!, LEVELS));
      places.push(found && { values: values(found.pose), sure: found.sure });
    }
    track =
      step > 0
        ? withFollowed(track, frame + 1, places)
        : withFollowed(track, frame - places.length, places.reverse());
  }
  return track;
}
