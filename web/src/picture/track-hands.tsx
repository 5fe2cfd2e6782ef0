import { setTrackKey } from '@skipback/core/project/track-actions';
import { put, sizeOf, undone } from '@skipback/core/steady/similar';
import { type Place, type Track, type TrackValues, placeAt } from '@skipback/core/tracks/track';
import { followOn } from '../state/following';
import type { UnderWay } from '../state/on-picture';
import { act } from '../state/project-store';
import { colors } from '../theme';
import { useEditDrag } from '../weave/use-edit-drag';
import { Handle, Outline } from './handle';
import type { Seen } from './seen';
import type { Say } from './say';

/** Frames of a track's way that are drawn, before and after the one seen. */
const AROUND = 60;

interface Props {
  readonly seen: Seen;
  readonly track: Track;
  /** The project's picture, and how large one of its pixels is on the screen. */
  readonly size: { readonly width: number; readonly height: number };
  readonly scale: number;
  readonly underWay: UnderWay | null;
  readonly say: Say;
}

/** The points of a track at a place: its middle, or both of two. */
const pointsOf = (track: Track, values: TrackValues): { x: number; y: number }[] =>
  track.kind === 'points'
    ? [
        { x: values[0]!, y: values[1]! },
        { x: values[2]!, y: values[3]! },
      ]
    : [{ x: values[0]!, y: values[1]! }];

/** The nearest place that is known, for a frame where the track is lost. */
function nearest(track: Track, frame: number): TrackValues {
  for (let by = 1; by < 3000; by++) {
    const place = placeAt(track, frame - by) ?? placeAt(track, frame + by);
    if (place) return place.values;
  }
  return track.keys[0]!.values;
}

/** The way of a track over the picture as one path, broken where it is lost. */
function wayOf(seen: Seen, track: Track): { known: string; keys: { x: number; y: number }[] } {
  let known = '';
  let drawing = false;
  for (let n = Math.max(0, seen.frame - AROUND); n <= seen.frame + AROUND; n++) {
    const place = placeAt(track, n);
    const [at] = place ? pointsOf(track, place.values).map((p) => put(seen.map, p)) : [];
    if (at) known += `${drawing ? 'L' : 'M'}${at.x.toFixed(1)} ${at.y.toFixed(1)}`;
    drawing = at !== undefined;
  }
  const keys = track.keys
    .filter((k) => Math.abs(k.frame - seen.frame) <= AROUND)
    .flatMap((k) => pointsOf(track, k.values).map((p) => put(seen.map, p)));
  return { known, keys };
}

/** The outline of what is followed, where it is. */
function outlineOf(seen: Seen, track: Track, values: TrackValues): string {
  const [size, turn] = track.kind === 'box' ? [values[2]!, values[3]!] : [1, 0];
  const [c, s] = [Math.cos((turn * Math.PI) / 180) * size, Math.sin((turn * Math.PI) / 180) * size];
  return pointsOf(track, values)
    .map(({ x, y }) =>
      [
        [-1, -1],
        [1, -1],
        [1, 1],
        [-1, 1],
      ]
        .map(([i, j], k) => {
          const [dx, dy] = [(i! * track.width) / 2, (j! * track.height) / 2];
          const at = put(seen.map, { x: x + c * dx - s * dy, y: y + s * dx + c * dy });
          return `${k === 0 ? 'M' : 'L'}${at.x.toFixed(1)} ${at.y.toFixed(1)}`;
        })
        .join('')
        .concat('Z'),
    )
    .join('');
}

/** A track on the picture: its way, what it holds at the frame seen, and handles to put it right. */
export function TrackHands({ seen, track, size, scale, underWay, say }: Props) {
  const clipId = seen.loaded.clip.id;
  const place = placeAt(track, seen.frame);
  const live = underWay?.trackId === track.id ? underWay : null;
  const values = place?.values ?? nearest(track, seen.frame);
  const back = undone(seen.map);

  const set = (next: TrackValues) =>
    act(`correct ${track.name}`, (p) =>
      setTrackKey(p, clipId, track.id, {
        frame: seen.frame,
        values: next.map((v) => Math.round(v * 100) / 100),
      }),
    );
  /** By so many pixels of the screen. */
  const movedBy = (from: TrackValues, point: number, dx: number, dy: number): TrackValues => {
    const [x, y] = [(back.a * dx - back.b * dy) / scale, (back.b * dx + back.a * dy) / scale];
    const next = [...from];
    next[2 * point]! += x;
    next[2 * point + 1]! += y;
    return next;
  };
  const cornerTo = (from: TrackValues, dx: number, dy: number): TrackValues => {
    const [x, y, was, turn] = from as [number, number, number, number];
    const t = (turn * Math.PI) / 180;
    const half = { x: (track.width / 2) * was, y: (track.height / 2) * was };
    const corner = {
      x: Math.cos(t) * half.x - Math.sin(t) * half.y,
      y: Math.sin(t) * half.x + Math.cos(t) * half.y,
    };
    const to = {
      x: corner.x + (back.a * dx - back.b * dy) / scale,
      y: corner.y + (back.b * dx + back.a * dy) / scale,
    };
    const grown = Math.hypot(to.x, to.y) / Math.hypot(corner.x, corner.y);
    const turned = Math.atan2(to.y, to.x) - Math.atan2(corner.y, corner.x);
    return [x, y, Math.min(20, Math.max(0.05, was * grown)), turn + (turned * 180) / Math.PI];
  };
  const drag = useEditDrag<number, { from: TrackValues; what: number }>({
    begin: (what) => ({ from: values, what }),
    move: ({ from, what }, { dx, dy }) =>
      set(what < 0 ? cornerTo(from, dx, dy) : movedBy(from, what, dx, dy)),
    end: (_, { cancelled, clicked }) => {
      if (!cancelled && !clicked) followOn(seen.loaded, track.id, seen.frame, say);
    },
  });
  const onKey = (event: { key: string; preventDefault(): void; stopPropagation(): void }) => {
    if (event.key !== 'Enter') return;
    event.preventDefault();
    event.stopPropagation();
    followOn(seen.loaded, track.id, seen.frame, say);
  };

  const { known, keys } = wayOf(seen, track);
  // One path of dots: thousands of elements would be slower than what they tell of.
  const found = live?.found
    .flatMap(({ place: p }: { place: Place }) => (p ? pointsOf(track, p.values).slice(0, 1) : []))
    .map((p) => put(seen.map, p))
    .map((p) => `M${p.x.toFixed(1)} ${p.y.toFixed(1)}h0`)
    .join('');
  const points = pointsOf(track, values).map((p) => put(seen.map, p));
  const corner = track.kind === 'box' && cornerAt(seen, track, values);
  const part = (p: { x: number; y: number }) => ({ x: p.x / size.width, y: p.y / size.height });
  return (
    <>
      <svg
        viewBox={`0 0 ${size.width} ${size.height}`}
        preserveAspectRatio="none"
        style={{ position: 'absolute', inset: 0, width: '100%', height: '100%', overflow: 'hidden' }}
        aria-hidden="true"
      >
        {known && !live && <Outline d={known} color={colors.good} />}
        {found && (
          <path
            d={found}
            stroke={colors.good}
            strokeWidth={4}
            strokeLinecap="round"
            vectorEffect="non-scaling-stroke"
          />
        )}
        {!live && <Outline d={outlineOf(seen, track, values)} dashed={!place} />}
        {!live &&
          keys.map((k, i) => (
            <circle
              key={i}
              cx={k.x}
              cy={k.y}
              r={3.2 / scale}
              fill={colors.forward}
              stroke="#121212"
              strokeWidth={1 / scale}
            />
          ))}
      </svg>
      {!live &&
        points.map((p, i) => (
          <Handle
            key={i}
            {...part(p)}
            label={`${track.name}${points.length > 1 ? `, ${i === 0 ? 'first' : 'second'} point` : ''}`}
            shape="cross"
            faint={!place}
            hands={drag(i)}
            onNudge={(dx, dy) => set(movedBy(values, i, dx * sizeOf(seen.map), dy * sizeOf(seen.map)))}
            onKey={onKey}
          />
        ))}
      {!live && corner && (
        <Handle
          {...part(corner)}
          label={`${track.name}, size and turn`}
          shape="square"
          hands={drag(-1)}
          onNudge={(dx, dy) => set(cornerTo(values, dx, dy))}
          onKey={onKey}
        />
      )}
    </>
  );
}

function cornerAt(seen: Seen, track: Track, values: TrackValues): { x: number; y: number } {
  const [x, y, size, turn] = values as [number, number, number, number];
  const t = (turn * Math.PI) / 180;
  const [hx, hy] = [(track.width / 2) * size, (track.height / 2) * size];
  return put(seen.map, {
    x: x + Math.cos(t) * hx - Math.sin(t) * hy,
    y: y + Math.sin(t) * hx + Math.cos(t) * hy,
  });
}
