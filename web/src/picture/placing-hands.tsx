import { snap } from '@skipback/core/edit/snap';
import type { Look } from '@skipback/core/looks/look';
import { shownValues } from '@skipback/core/looks/moments';
import { treatmentById } from '@skipback/core/looks/registry';
import type { Placed } from '@skipback/core/looks/treatment';
import { type LookPlace, setLookValues } from '@skipback/core/project/look-actions';
import { act } from '../state/project-store';
import { useEditDrag } from '../weave/use-edit-drag';
import { Handle, Outline, atEdge } from './handle';

interface Props {
  readonly where: LookPlace;
  readonly look: Look;
  readonly size: { readonly width: number; readonly height: number };
  readonly scale: number;
}

/** Pixels of the screen within which it snaps to where it was drawn, and degrees for a turn. */
const SNAPS = 7;
const SNAPS_DEGREES = 3;
/** How far from its middle the handles of size and turn lie, of the picture's height. */
const ARM = 0.3;

type Hand = 'middle' | 'size' | 'turn';
interface Numbers {
  readonly x: number;
  readonly y: number;
  readonly size: number;
  readonly turn: number;
}

/** Where what a look draws is put, as far as its values are plain numbers; those that are driven are left alone. */
export function placingOf(look: Look): {
  readonly placed: Placed;
  readonly numbers: Numbers;
  readonly driven: string[];
} {
  const treatment = treatmentById(look.look);
  const placed = treatment?.placed ?? { x: 'x', y: 'y' };
  const values = treatment ? shownValues(treatment, look.values) : {};
  const number = (key: string | undefined, none: number) =>
    key !== undefined && typeof values[key] === 'number' ? values[key] : none;
  const driven = Object.values(placed).filter((key) => typeof values[key] !== 'number');
  return {
    placed,
    numbers: {
      x: number(placed.x, 0),
      y: number(placed.y, 0),
      size: number(placed.size, 100),
      turn: number(placed.turn, 0),
    },
    driven: driven.map((key) => treatment?.fields.find((f) => f.key === key)?.label ?? key),
  };
}

/** Handles that move, size and turn what a look draws, and the outline of the frame it is drawn in. */
export function PlacingHands({ where, look, size, scale }: Props) {
  const { placed, numbers } = placingOf(look);
  const [mx, my] = [size.width / 2, size.height / 2];
  const set = (next: Numbers) => {
    const values = Object.fromEntries(
      (['x', 'y', 'size', 'turn'] as const).flatMap((which) => {
        const key = placed[which];
        return key === undefined || next[which] === numbers[which]
          ? []
          : [[key, Math.round(next[which] * 10) / 10]];
      }),
    );
    act(`place ${treatmentById(look.look)?.name ?? look.look}`, (p) =>
      setLookValues(p, where, look.id, values),
    );
  };
  const change = (from: Numbers, hand: Hand, dx: number, dy: number, free: boolean): Numbers => {
    const [x, y] = [dx / scale, dy / scale];
    const home = (value: number) =>
      free ? value : snap(value, [{ value: 0, words: '' }], SNAPS / scale).value;
    if (hand === 'middle') return { ...from, x: home(from.x + x), y: home(from.y + y) };
    const arm = armOf(from, size.height);
    const turn = (from.turn * Math.PI) / 180;
    if (hand === 'size') {
      const longer = arm + Math.cos(turn) * x + Math.sin(turn) * y;
      const percent = (100 * Math.max(longer, arm * 0.02)) / (ARM * size.height);
      return {
        ...from,
        size: Math.min(1000, Math.max(1, !free && Math.abs(percent - 100) < 3 ? 100 : percent)),
      };
    }
    const to = { x: arm * Math.sin(turn) + x, y: -arm * Math.cos(turn) + y };
    const degrees = (Math.atan2(to.x, -to.y) * 180) / Math.PI;
    const whole = Math.round(degrees / 45) * 45;
    return { ...from, turn: !free && Math.abs(whole - degrees) < SNAPS_DEGREES ? whole : degrees };
  };
  const drag = useEditDrag<Hand, { from: Numbers; hand: Hand }>({
    begin: (hand) => ({ from: numbers, hand }),
    move: ({ from, hand }, { dx, dy, free }) => set(change(from, hand, dx, dy, free)),
  });
  const turn = (numbers.turn * Math.PI) / 180;
  const at = (u: number, v: number) => ({
    x: mx + numbers.x + Math.cos(turn) * u - Math.sin(turn) * v,
    y: my + numbers.y + Math.sin(turn) * u + Math.cos(turn) * v,
  });
  const arm = armOf(numbers, size.height);
  const hands: { hand: Hand; at: { x: number; y: number }; label: string }[] = [
    { hand: 'middle', at: at(0, 0), label: 'Where it lies' },
    ...(placed.size ? [{ hand: 'size' as const, at: at(arm, 0), label: 'Its size' }] : []),
    ...(placed.turn ? [{ hand: 'turn' as const, at: at(0, -arm), label: 'Its turn' }] : []),
  ];
  const [w, h] = [(mx * numbers.size) / 100, (my * numbers.size) / 100];
  const corners = [at(-w, -h), at(w, -h), at(w, h), at(-w, h)];
  return (
    <>
      <svg
        viewBox={`0 0 ${size.width} ${size.height}`}
        preserveAspectRatio="none"
        style={{ position: 'absolute', inset: 0, width: '100%', height: '100%', overflow: 'hidden' }}
        aria-hidden="true"
      >
        <Outline
          d={`${corners.map((c, i) => `${i ? 'L' : 'M'}${c.x.toFixed(2)} ${c.y.toFixed(2)}`).join('')}Z`}
          dashed
        />
      </svg>
      {hands.map(({ hand, at: place, label }) => (
        <Handle
          key={hand}
          x={atEdge(place.x / size.width)}
          y={atEdge(place.y / size.height)}
          label={label}
          shape={hand === 'middle' ? 'cross' : hand === 'size' ? 'square' : 'round'}
          hands={drag(hand)}
          onNudge={(dx, dy) => set(change(numbers, hand, dx * scale, dy * scale, true))}
        />
      ))}
    </>
  );
}

const armOf = ({ size }: Numbers, height: number): number => (ARM * height * size) / 100;
