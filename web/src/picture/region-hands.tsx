import { snap } from '@skipback/core/edit/snap';
import { type LookPlace, setLookRegion } from '@skipback/core/project/look-actions';
import { MOST_CORNERS, type Region, moved, numbersAt } from '@skipback/core/regions/region';
import { undone } from '@skipback/core/steady/similar';
import { useOnPicture } from '../state/on-picture';
import { act } from '../state/project-store';
import { useEditDrag } from '../weave/use-edit-drag';
import { Handle, Outline, atEdge } from './handle';
import type { RegionGround } from './region-ground';

interface Props {
  readonly where: LookPlace;
  readonly lookId: string;
  readonly region: Region;
  readonly ground: RegionGround;
  readonly size: { readonly width: number; readonly height: number };
  readonly scale: number;
}

/** Pixels of the screen within which an edge or a middle snaps, and degrees for a turn. */
const SNAPS = 7;
const SNAPS_DEGREES = 3;

type Hand = 'middle' | 'across' | 'down' | 'turn' | number;

/** A region whose numbers at a frame are those given: a key there where it has keys, else its one place. */
function withNumbers(region: Region, frame: number, values: readonly number[]): Region {
  const fine = values.map((v) => Math.round(v * 100) / 100);
  if (region.keys.length === 1) return { ...region, keys: [{ ...region.keys[0]!, values: fine }] };
  const known = region.keys.find((k) => k.at === frame);
  const keys = [
    ...region.keys.filter((k) => k !== known),
    { at: frame, ease: known?.ease ?? 'even', values: fine },
  ];
  return { ...region, keys: keys.sort((a, b) => a.at - b.at) } as Region;
}

/** A region on the picture, with its handles. */
export function RegionHands({ where, lookId, region, ground, size, scale }: Props) {
  const corner = useOnPicture((s) => s.corner);
  const shown = moved(region.shape, numbersAt(region, ground.frame), ground.map);
  const set = (numbers: readonly number[]) =>
    act('shape a region', (p) => {
      const own = moved(region.shape, numbers, undone(ground.map));
      return setLookRegion(p, where, lookId, withNumbers(region, ground.frame, own));
    });
  const snapsTo = (value: number, room: number, free: boolean) => {
    if (free) return value;
    const targets = [0, room / 2, room].map((t) => ({ value: t, words: '' }));
    return snap(value, targets, SNAPS / scale).value;
  };
  const change = (from: readonly number[], hand: Hand, dx: number, dy: number, free: boolean): number[] => {
    const [x, y] = [dx / scale, dy / scale];
    const next = [...from];
    if (region.shape === 'polygon') {
      const which = hand === 'middle' ? from.map((_, i) => i >> 1) : [hand as number];
      for (const i of new Set(which)) {
        next[2 * i] = hand === 'middle' ? from[2 * i]! + x : snapsTo(from[2 * i]! + x, size.width, free);
        next[2 * i + 1] =
          hand === 'middle' ? from[2 * i + 1]! + y : snapsTo(from[2 * i + 1]! + y, size.height, free);
      }
      return next;
    }
    const turn = (from[4]! * Math.PI) / 180;
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    if (hand === 'middle') {
      next[0] = snapsTo(from[0]! + x, size.width, free);
      next[1] = snapsTo(from[1]! + y, size.height, free);
    } else if (hand === 'across') next[2] = Math.max(2, from[2]! + 2 * (c * x + s * y));
    else if (hand === 'down') next[3] = Math.max(2, from[3]! + 2 * (c * y - s * x));
    else {
      const stem = from[3]! / 2 + 26 / scale;
      const to = { x: stem * s + x, y: -stem * c + y };
      const degrees = (Math.atan2(to.x, -to.y) * 180) / Math.PI;
      const whole = Math.round(degrees / 45) * 45;
      next[4] = !free && Math.abs(whole - degrees) < SNAPS_DEGREES ? whole : degrees;
    }
    return next;
  };
  const drag = useEditDrag<Hand, { from: readonly number[]; hand: Hand }>({
    begin: (hand) => {
      useOnPicture.setState({ corner: typeof hand === 'number' ? hand : null });
      return { from: shown, hand };
    },
    move: ({ from, hand }, { dx, dy, free }) => set(change(from, hand, dx, dy, free)),
  });
  const hands = handsOf(region, shown, scale);
  const removeCorner = (i: number) => {
    if (shown.length / 2 <= 3) return;
    act('remove a corner', (p) => {
      const keys = region.keys.map((k) => ({ ...k, values: k.values.filter((_, n) => n >> 1 !== i) }));
      return setLookRegion(p, where, lookId, { ...region, keys });
    });
  };
  const addCorner = (after: number) => {
    if (shown.length / 2 >= MOST_CORNERS) return;
    act('add a corner', (p) => {
      const keys = region.keys.map((k) => {
        const count = k.values.length / 2;
        const next = (after + 1) % count;
        const middle = [0, 1].map((c) => (k.values[2 * after + c]! + k.values[2 * next + c]!) / 2);
        return {
          ...k,
          values: [...k.values.slice(0, 2 * after + 2), ...middle, ...k.values.slice(2 * after + 2)],
        };
      });
      return setLookRegion(p, where, lookId, { ...region, keys });
    });
    useOnPicture.setState({ corner: after + 1 });
  };
  return (
    <>
      <svg
        viewBox={`0 0 ${size.width} ${size.height}`}
        preserveAspectRatio="none"
        style={{ position: 'absolute', inset: 0, width: '100%', height: '100%', overflow: 'hidden' }}
        aria-hidden="true"
      >
        <Outline d={outlineOf(region, shown)} />
        {region.feather > 2 && region.shape !== 'polygon' && (
          <>
            <Outline d={outlineOf(region, grown(shown, region.grow + region.feather / 2))} dashed />
            <Outline d={outlineOf(region, grown(shown, region.grow - region.feather / 2))} dashed />
          </>
        )}
      </svg>
      {hands.map(({ hand, x, y, label }) => (
        <Handle
          key={String(hand)}
          x={atEdge(x / size.width)}
          y={atEdge(y / size.height)}
          label={label}
          shape={hand === 'middle' ? 'cross' : hand === 'turn' ? 'round' : 'square'}
          selected={hand === corner}
          hands={drag(hand)}
          onNudge={(dx, dy) => set(change(shown, hand, dx * scale, dy * scale, true))}
          onKey={(event) => {
            if (typeof hand !== 'number') return;
            if (event.key === 'Delete' || event.key === 'Backspace') {
              event.stopPropagation();
              removeCorner(hand);
            } else if (event.key === '+' || event.key === '=') {
              event.stopPropagation();
              addCorner(hand);
            }
          }}
        />
      ))}
    </>
  );
}

const grown = ([x, y, w, h, turn]: readonly number[], by: number): number[] => [
  x!,
  y!,
  Math.max(0, w! + 2 * by),
  Math.max(0, h! + 2 * by),
  turn!,
];

function outlineOf({ shape }: Region, numbers: readonly number[]): string {
  if (shape === 'polygon')
    return (
      numbers
        .flatMap((_, i) => (i % 2 === 0 ? [`${i === 0 ? 'M' : 'L'}${numbers[i]!} ${numbers[i + 1]!}`] : []))
        .join('') + 'Z'
    );
  const [x, y, w, h, degrees] = numbers as [number, number, number, number, number];
  const turn = (degrees * Math.PI) / 180;
  const at = (u: number, v: number) =>
    `${(x + Math.cos(turn) * u - Math.sin(turn) * v).toFixed(2)} ${(y + Math.sin(turn) * u + Math.cos(turn) * v).toFixed(2)}`;
  const [rx, ry] = [w / 2, h / 2];
  if (shape === 'rectangle') return `M${at(-rx, -ry)}L${at(rx, -ry)}L${at(rx, ry)}L${at(-rx, ry)}Z`;
  return `M${at(-rx, 0)}A${rx} ${ry} ${degrees} 0 1 ${at(rx, 0)}A${rx} ${ry} ${degrees} 0 1 ${at(-rx, 0)}Z`;
}

function handsOf(region: Region, numbers: readonly number[], scale: number) {
  const all: { hand: Hand; x: number; y: number; label: string }[] = [];
  if (region.shape === 'polygon') {
    const count = numbers.length / 2;
    let [sx, sy] = [0, 0];
    for (let i = 0; i < count; i++) {
      const [x, y] = [numbers[2 * i]!, numbers[2 * i + 1]!];
      sx += x / count;
      sy += y / count;
      all.push({ hand: i, x, y, label: `Corner ${i + 1}` });
    }
    return [...all, { hand: 'middle' as Hand, x: sx, y: sy, label: 'The region' }];
  }
  const [x, y, w, h, degrees] = numbers as [number, number, number, number, number];
  const turn = (degrees * Math.PI) / 180;
  const at = (u: number, v: number) => ({
    x: x + Math.cos(turn) * u - Math.sin(turn) * v,
    y: y + Math.sin(turn) * u + Math.cos(turn) * v,
  });
  return [
    { hand: 'middle' as Hand, x, y, label: 'The region' },
    { hand: 'across' as Hand, ...at(w / 2, 0), label: 'Its width' },
    { hand: 'down' as Hand, ...at(0, h / 2), label: 'Its height' },
    { hand: 'turn' as Hand, ...at(0, -h / 2 - 26 / scale), label: 'Its turn' },
  ];
}
