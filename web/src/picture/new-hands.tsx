import { Box } from '@mui/material';
import { setLookRegion, looksAt } from '@skipback/core/project/look-actions';
import type { Project } from '@skipback/core/project/schema';
import { moved } from '@skipback/core/regions/region';
import { put, sizeOf, undone } from '@skipback/core/steady/similar';
import {
  type KeyboardEvent as ReactKeyboardEvent,
  type PointerEvent,
  useEffect,
  useRef,
  useState,
} from 'react';
import type { Track } from '@skipback/core/tracks/track';
import { byKeys, pressesItself } from '../commands/focus';
import { beginTrack } from '../state/following';
import { type Editing, editOnPicture } from '../state/on-picture';
import { usePlaying } from '../state/playing';
import { act, useProjectStore } from '../state/project-store';
import { regionOn } from '@skipback/core/regions/on-track';
import { Handle, Outline } from './handle';
import { regionGround } from './region-ground';
import type { Say } from './say';
import type { Seen } from './seen';

interface Point {
  readonly x: number;
  readonly y: number;
}

interface Props {
  readonly editing: Extract<Editing, { kind: 'new-track' | 'new-polygon' }>;
  readonly seen: Seen | undefined;
  readonly size: { readonly width: number; readonly height: number };
  readonly scale: number;
  readonly say: Say;
}

/** Of a picture's height, what is looked at around a point. */
const AROUND_A_POINT = 1 / 15;

/** Presses on the picture that choose something new: a place to follow, or the corners of a polygon. */
export function NewHands({ editing, seen, size, scale, say }: Props) {
  const room = useRef<HTMLDivElement>(null);
  const [points, setPoints] = useState<readonly Point[]>([]);
  const [cross, setCross] = useState<Point>({ x: size.width / 2, y: size.height / 2 });
  const [box, setBox] = useState<readonly [Point, Point] | null>(null);
  const at = (event: PointerEvent): Point => {
    const edge = room.current!.getBoundingClientRect();
    return { x: (event.clientX - edge.left) / scale, y: (event.clientY - edge.top) / scale };
  };
  const makes = editing.kind === 'new-polygon' ? 'polygon' : editing.trackKind;

  const track = (all: readonly Point[], size: { width: number; height: number }) => {
    if (!seen || editing.kind !== 'new-track') return;
    const back = undone(seen.map);
    const values = all.map((p) => put(back, p)).flatMap(({ x, y }) => [x, y]);
    const whole = makes === 'box' ? [...values, 1, 0] : values;
    const { carries } = editing;
    const { height } = seen.loaded.record.facts;
    const goesOn =
      carries &&
      ((p: Project, made: Track) =>
        setLookRegion(p, carries.where, carries.lookId, regionOn(made, seen.frame, height)));
    beginTrack(seen.loaded, editing.trackKind, seen.frame, whole.map(fine), size, say, goesOn);
  };
  const finishPolygon = (all: readonly Point[]) => {
    if (editing.kind !== 'new-polygon' || all.length < 3) return;
    const { where, lookId } = editing;
    const { project } = useProjectStore.getState();
    const look = project && looksAt(project, where).find((l) => l.id === lookId);
    if (!look) return editOnPicture(null);
    const numbers = all.flatMap(({ x, y }) => [x, y]);
    const ground = regionGround(seen, where, null, usePlaying.getState().position);
    const values = (ground ? moved('polygon', numbers, undone(ground.map)) : numbers).map(fine);
    act('draw a region', (p) =>
      setLookRegion(p, where, lookId, {
        ...(look.region ?? {
          feather: 24,
          grow: 0,
          inverted: false,
          counts: where === null ? 'result' : 'clip',
        }),
        shape: 'polygon',
        carried: null,
        keys: [{ at: ground?.frame ?? 0, ease: 'even', values }],
      }),
    );
    editOnPicture({ kind: 'region', where, lookId });
  };
  /** Sets the next point; the corners of a polygon are finished at the first one. */
  const setPoint = (here: Point) => {
    const all = [...points, here];
    if (makes === 'polygon') {
      const [first] = points;
      const closes =
        first && points.length > 2 && Math.hypot(here.x - first.x, here.y - first.y) * scale < 12;
      if (closes) return finishPolygon(points);
      return setPoints(all);
    }
    if (all.length < (makes === 'points' ? 2 : 1)) return setPoints(all);
    const side = seen ? Math.max(16, Math.round(AROUND_A_POINT * seen.loaded.record.facts.height)) : 32;
    track(all, { width: side, height: side });
  };
  const press = (event: PointerEvent) => {
    event.preventDefault();
    const here = at(event);
    if (makes !== 'box') return setPoint(here);
    room.current!.setPointerCapture(event.pointerId);
    setBox([here, here]);
  };
  const endBox = ([a, b]: readonly [Point, Point]) => {
    if (!seen) return;
    setBox(null);
    const [width, height] = [Math.abs(a.x - b.x), Math.abs(a.y - b.y)].map((v) => v / sizeOf(seen.map)) as [
      number,
      number,
    ];
    if (width < 8 || height < 8) return say('Drag a box around what is to be tracked.');
    track([{ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }], { width: fine(width), height: fine(height) });
  };
  // Where it is let go, not where the last drawn move was.
  const release = (event: PointerEvent) => box && endBox([box[0], at(event)]);
  /** By keys: a cross that is moved, and set. */
  const nudge = (dx: number, dy: number) => {
    const within = (v: number, most: number) => Math.min(most, Math.max(0, v));
    const next = {
      x: within(cross.x + dx / scale, size.width),
      y: within(cross.y + dy / scale, size.height),
    };
    setCross(next);
    if (box) setBox([box[0], next]);
  };
  const setAtCross = (event: ReactKeyboardEvent) => {
    if (event.key !== 'Enter' && event.key !== ' ') return;
    event.preventDefault();
    event.stopPropagation();
    if (makes === 'box') return box ? endBox([box[0], cross]) : setBox([cross, cross]);
    if (event.key === 'Enter' && makes === 'polygon' && points.length > 2) return finishPolygon(points);
    setPoint(cross);
  };
  const hand = useRef<HTMLDivElement>(null);
  // Begun by keys, it is gone on with by keys.
  useEffect(() => {
    if (byKeys()) hand.current?.querySelector('button')?.focus({ preventScroll: true });
  }, []);
  const finish = useRef(finishPolygon);
  const now = useRef(points);
  useEffect(() => {
    finish.current = finishPolygon;
    now.current = points;
  });
  useEffect(() => {
    if (makes !== 'polygon') return;
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'Enter' || event.defaultPrevented || pressesItself(event.target)) return;
      event.preventDefault();
      finish.current(now.current);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [makes]);

  const line = points.map((p, i) => `${i === 0 ? 'M' : 'L'}${p.x} ${p.y}`).join('');
  const drawn = box && `M${box[0].x} ${box[0].y}H${box[1].x}V${box[1].y}H${box[0].x}Z`;
  return (
    <Box
      ref={room}
      data-testid="choose-place"
      onPointerDown={press}
      onPointerMove={(event) => box && setBox([box[0], at(event)])}
      onPointerUp={release}
      sx={{ position: 'absolute', inset: 0, cursor: 'crosshair', pointerEvents: 'auto', touchAction: 'none' }}
    >
      <svg
        viewBox={`0 0 ${size.width} ${size.height}`}
        preserveAspectRatio="none"
        style={{ position: 'absolute', inset: 0, width: '100%', height: '100%' }}
        aria-hidden="true"
      >
        {line && <Outline d={line} />}
        {drawn && <Outline d={drawn} />}
      </svg>
      {points.map((p, i) => (
        <Box key={i} sx={{ pointerEvents: 'none', '& > *': { pointerEvents: 'none !important' } }}>
          <Handle
            x={p.x / size.width}
            y={p.y / size.height}
            label={`Point ${i + 1}`}
            hands={{}}
            onNudge={() => undefined}
          />
        </Box>
      ))}
      <Box
        ref={hand}
        sx={{
          opacity: 0,
          '&:focus-within': { opacity: 1 },
          // A press there is one on the picture.
          '& > *': { pointerEvents: 'none !important' },
        }}
      >
        <Handle
          x={cross.x / size.width}
          y={cross.y / size.height}
          label={CROSS[makes]}
          shape="cross"
          hands={{}}
          onNudge={nudge}
          onKey={setAtCross}
        />
      </Box>
    </Box>
  );
}

/** What the cross is for, that keys move. */
const CROSS = {
  point: 'Place to track: arrows move it, Enter sets it',
  points: 'Places to track: arrows move it, Enter sets each',
  box: 'Box to track: arrows move it, Enter sets a corner, then the one across',
  polygon: 'Corners: arrows move it, Space sets one, Enter ends',
} as const;

const fine = (v: number): number => Math.round(v * 100) / 100;
