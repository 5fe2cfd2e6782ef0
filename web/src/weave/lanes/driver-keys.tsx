import { Box } from '@mui/material';
import { frameOfSong } from '@skipback/core/beats/music';
import { later } from '@skipback/core/places/moved';
import type { Place } from '@skipback/core/places/place';
import { placeText } from '@skipback/core/places/words';
import { framesAt } from '@skipback/core/looks/facts';
import { type Driver, valueAt } from '@skipback/core/looks/driver';
import { setLookStrength, setLookValue } from '@skipback/core/project/look-actions';
import { type KeyboardEvent, useState } from 'react';
import { usePlaying } from '../../state/playing';
import { act } from '../../state/project-store';
import { colors } from '../../theme';
import { LiveLabel } from '../live-label';
import type { Scale } from '../scales';
import { type WeaveLayout, laneBox, laneInSight } from '../scene';
import { useEditDrag } from '../use-edit-drag';
import { usePlaceWords } from '../../state/place-words';
import { type PlaceTarget, placeTargets, snappedPlace } from '../place-targets';
import type { WeaveModel } from '../weave-model';
import { type DrivenValue, type LookLane, drivenLane, driverScale } from './look-lanes';

/** Pixels within which a key is drawn to something, its size, and what of it can be taken hold of. */
const REACH = 6;
const DOT = 9;
const HOLD = 18;
/** Most handles drawn: a look that applies very often shows those of its first stretches. */
const MOST = 120;

type Keys = Extract<Driver, { kind: 'keys' }>;
type Key = Keys['keys'][number];

/** A key where it is seen: every stretch of the look repeats those that count from its beginning. */
interface Seen {
  readonly place: number;
  readonly key: Key;
  /** The result frame it counts from, and the one it lies on. */
  readonly from: number;
  readonly at: number;
}

interface Props {
  readonly model: WeaveModel;
  readonly lanes: readonly LookLane[];
  readonly layout: WeaveLayout;
  readonly resultX: Scale;
}

/** The keys of the driver that is looked at, in its look's lane: dragged there, in time and in value. */
export function DriverKeys({ model, lanes, layout, resultX }: Props) {
  const at = drivenLane(lanes);
  const lane = lanes[at];
  if (layout.driverLane !== at || lane?.driven?.driver.kind !== 'keys') return null;
  if (!laneInSight(layout, at)) return null;
  return (
    <Handles
      {...{ model, lane, resultX }}
      width={layout.width}
      driven={lane.driven}
      driver={lane.driven.driver}
      box={laneBox(layout, at)}
    />
  );
}

function Handles({
  model,
  lane,
  driven,
  driver,
  resultX,
  box,
  width,
}: {
  readonly model: WeaveModel;
  readonly lane: LookLane;
  readonly driven: DrivenValue;
  readonly driver: Keys;
  readonly resultX: Scale;
  readonly box: { readonly top: number; readonly height: number };
  readonly width: number;
}) {
  const [live, setLive] = useState<{ x: number; text: string; words: string | undefined }>();
  const [held, setHeld] = useState<Seen>();
  const { telling } = usePlaceWords(lane.where);
  const { toY, perPixel } = driverScale(lane, box);
  const perFrame = resultX(1) - resultX(0);
  const name = `${lane.name}: ${driven.label}`;
  const froms =
    driver.counts === 'result' ? [lane.start] : lane.result.stretches.map((s) => lane.start + s.first);
  const seen = froms
    .flatMap((from) =>
      driver.keys.flatMap((key, place): Seen[] => {
        if (typeof key.at === 'number') return [{ place, key, from, at: from + key.at }];
        const on = framesAt(key.at, lane.facts)[0];
        // It lies where it lies: once, however often the look applies.
        return on === undefined || from !== froms[0] ? [] : [{ place, key, from, at: lane.start + on }];
      }),
    )
    .filter(({ place, from, at }) => {
      // What is held stays, wherever it goes.
      if (held?.place === place && held.from === from) return true;
      const x = resultX(at);
      return x >= -HOLD && x <= width + HOLD;
    })
    .slice(0, MOST);

  const change = (keys: readonly Key[], words: string) =>
    act(`${words} of ${name}`, (p) => {
      const next = { ...driver, keys: [...keys] };
      return driven.key === 'strength'
        ? setLookStrength(p, lane.where, lane.id, next)
        : setLookValue(p, lane.where, lane.id, driven.key, next);
    });
  const put = (place: number, at: Place, value: number): Key => {
    const key = {
      ...driver.keys[place]!,
      at: typeof at === 'number' ? Math.max(0, Math.round(at)) : at,
      value: Math.min(driven.max, Math.max(driven.min, Number(value.toFixed(2)))),
    };
    change(driver.keys.with(place, key), 'move a key');
    return key;
  };
  const targets = (): PlaceTarget[] => {
    const { song, rate } = model.project;
    // A piece that was cut in two counts from where the whole began.
    const cut = model.pieceStart - lane.start;
    const own =
      lane.where !== null && model.piece
        ? placeTargets(model.piece, model.pieceStart).map((t) => ({ ...t, value: t.value + cut }))
        : undefined;
    const beats = song?.grid.beats.map((b, i) => ({
      value: Math.round(frameOfSong(song, b, rate)),
      words: `beat ${i + 1}`,
      place: { beat: i + 1 },
    }));
    return [
      ...(own ?? beats ?? [{ value: usePlaying.getState().position, words: 'playhead' }]),
      ...lane.facts.joins.map((f) => ({ value: f, words: 'join' })),
    ];
  };
  const drag = useEditDrag<Seen, { seen: Seen; targets: PlaceTarget[] }>({
    begin: (what) => {
      setHeld(what);
      return { seen: what, targets: targets() };
    },
    move: ({ seen: { place, key, from, at }, targets: to }, { dx, dy, free }) => {
      const wanted = at - lane.start + dx / perFrame;
      const snapped = snappedPlace(wanted, free ? [] : to, REACH / perFrame);
      // A small slip of the hand does not change the value.
      const moved = Math.abs(dy) < 3 && Math.abs(dx) > 3 ? 0 : dy;
      const slid = Math.abs(dx) > 3 || typeof key.at === 'number';
      const next = typeof snapped.place === 'number' ? lane.start + snapped.place - from : snapped.place;
      const now = put(place, slid ? next : key.at, key.value - moved * perPixel);
      const where = typeof now.at === 'number' ? `${now.at} f` : placeText(now.at, telling);
      setLive({
        x: resultX(lane.start + (slid ? snapped.frame : at - lane.start)),
        text: `${where}, ${now.value}`,
        words: typeof now.at === 'number' ? snapped.words : undefined,
      });
    },
    end: () => {
      setHeld(undefined);
      setLive(undefined);
    },
  });
  const onKey =
    ({ place, key }: Seen) =>
    (event: KeyboardEvent) => {
      const by = event.shiftKey ? 10 : 1;
      const [frames, steps] = {
        ArrowLeft: [-by, 0],
        ArrowRight: [by, 0],
        ArrowUp: [0, by],
        ArrowDown: [0, -by],
      }[event.key] ?? [0, 0];
      if (frames !== 0 || steps !== 0) put(place, later(key.at, frames!), key.value + steps!);
      else if ((event.key === 'Delete' || event.key === 'Backspace') && driver.keys.length > 1)
        change(
          driver.keys.filter((_, i) => i !== place),
          'remove a key',
        );
      else return;
      event.preventDefault();
      event.stopPropagation();
    };
  const add = (x: number) => {
    const frame = Math.floor(resultX.invert(x));
    const stretch = lane.result.stretches.findLast((s) => lane.start + s.first <= frame);
    const from = driver.counts === 'result' ? lane.start : lane.start + (stretch?.first ?? 0);
    const at = Math.max(0, frame - from);
    if (!stretch || driver.keys.some((k) => k.at === at)) return;
    const value = Number(valueAt(driver, frame - lane.start, stretch, lane.facts).toFixed(2));
    change([...driver.keys, { at, value, ease: 'even' }], 'add a key');
  };
  return (
    <>
      <Box
        title="Double-click for another keyframe"
        onDoubleClick={(event) => add(event.clientX - event.currentTarget.getBoundingClientRect().left)}
        sx={{ position: 'absolute', left: 0, width, top: box.top, height: box.height }}
      />
      {seen.map((what) => {
        const { place, key, from } = what;
        return (
          <Box
            key={`${place} ${from}`}
            {...drag(what)}
            role="slider"
            tabIndex={0}
            aria-label={`${name}, keyframe ${place + 1}${froms.length > 1 ? `, from frame ${from}` : ''}`}
            aria-valuenow={what.at - from}
            aria-valuemin={0}
            aria-valuemax={10_000_000}
            aria-valuetext={`${typeof key.at === 'number' ? `${key.at} frames` : placeText(key.at, telling)}, ${key.value}`}
            onKeyDown={onKey(what)}
            style={{
              touchAction: 'none',
              left: resultX(what.at + 0.5) - HOLD / 2,
              top: toY(key.value) - HOLD / 2,
            }}
            sx={{
              position: 'absolute',
              width: HOLD,
              height: HOLD,
              borderRadius: '50%',
              cursor: 'grab',
              display: 'grid',
              placeItems: 'center',
            }}
          >
            <Box
              sx={{
                width: DOT,
                height: DOT,
                borderRadius: '50%',
                bgcolor: colors.ground,
                border: `2px solid ${colors.ink}`,
                pointerEvents: 'none',
              }}
            />
          </Box>
        );
      })}
      {live && <LiveLabel x={live.x} y={box.top - 26} text={live.text} words={live.words} width={width} />}
    </>
  );
}
