import { z } from 'zod';
import { ColourSchema, rgbOf } from '../colours';
import { wayOf } from '../facts';
import type { Treatment } from '../treatment';

const SIGNS = ['path', 'forward', 'back', 'pause'] as const;
const CORNERS = ['top-left', 'top-right', 'bottom-left', 'bottom-right', 'middle'] as const;
const schema = z.object({
  sign: z.enum(SIGNS),
  place: z.enum(CORNERS),
  size: z.number(),
  on: z.number(),
  off: z.number(),
  opacity: z.number(),
  counter: z.enum(['no', 'yes']),
  colour: ColourSchema,
});
type Values = z.infer<typeof schema>;

/** What is seen at a frame: a sign (none while it is off) and the counter's digits. */
interface Drawing {
  readonly sign: 'forward' | 'back' | 'pause' | 'none';
  readonly digits: string;
  readonly place: (typeof CORNERS)[number];
  readonly size: number;
  readonly opacity: number;
  readonly colour: string;
  readonly [key: string]: unknown;
}

/** Speeds above which a sign has two arrows. */
const FAST = 1.5;
/** Bars of a digit that are lit: top, upper left and right, middle, lower left and right, bottom. */
const DIGITS: Readonly<Record<string, string>> = {
  '0': '1110111',
  '1': '0010010',
  '2': '1011101',
  '3': '1011011',
  '4': '0111010',
  '5': '1101011',
  '6': '1101111',
  '7': '1010010',
  '8': '1111111',
  '9': '1111011',
  ':': '',
};
/** Samples a pixel's side is looked at, for smooth edges. */
const FINE = 4;

export const sign: Treatment<Values, Drawing> = {
  id: 'sign',
  name: 'Sign',
  also: 'play symbol, fast-forward sign, timecode',
  summary: 'A blinking arrow for the way it plays, and a counter.',
  schema,
  defaults: {
    ...{ sign: 'path', place: 'top-left', size: 80, on: 12, off: 8, opacity: 90 },
    ...{ counter: 'yes', colour: '#f4f1ea' },
  },
  cost: 'light',
  startsWhere: [{ kind: 'faster', not: false, percent: 400 }],
  scales: true,
  fields: [
    {
      key: 'sign',
      kind: 'choice',
      label: 'Shows',
      help: 'The way the path plays, or always one.',
      options: [
        { value: 'path', label: 'the way it plays' },
        { value: 'forward', label: 'forward' },
        { value: 'back', label: 'back' },
        { value: 'pause', label: 'pause' },
      ],
    },
    {
      key: 'place',
      kind: 'choice',
      label: 'Stands',
      help: 'Where in the picture.',
      options: CORNERS.map((value) => ({ value, label: value.replace('-', ' ') })),
    },
    { key: 'size', kind: 'number', label: 'Size', help: 'Its height.', min: 4, max: 2000, unit: 'px' },
    {
      key: 'on',
      kind: 'number',
      label: 'On for',
      help: 'Frames; off for none, it stands.',
      min: 1,
      max: 1000,
      unit: 'f',
    },
    { key: 'off', kind: 'number', label: 'Off for', help: 'Frames.', min: 0, max: 1000, unit: 'f' },
    {
      key: 'opacity',
      kind: 'number',
      label: 'Opacity',
      help: '100 hides what lies under it.',
      min: 0,
      max: 100,
      unit: '%',
    },
    {
      key: 'counter',
      kind: 'choice',
      label: 'Counter',
      help: 'Minutes, seconds and frames of the piece; of the result where it is on that as a whole.',
      options: [
        { value: 'yes', label: 'counts' },
        { value: 'no', label: 'none' },
      ],
    },
    { key: 'colour', kind: 'colour', label: 'Colour', help: 'Of sign and counter.' },
  ],
  drawing(
    { sign: shows, place, size, on, off, opacity, counter, colour },
    { frame, stretch, facts, strength },
  ) {
    const since = frame - stretch.first;
    const [lit, dark] = [Math.max(1, Math.round(on)), Math.round(off)];
    const blinks = since % (lit + dark) < lit;
    const speed = facts.speeds[frame] ?? 1;
    const way = wayOf(speed);
    const own = way === 'held' ? 'pause' : way === 'backward' ? 'back' : 'forward';
    const which = shows === 'path' ? own : shows;
    const fast = Math.abs(speed) > FAST || shows !== 'path';
    const digits = counter === 'yes' ? counted(frame, Math.max(1, Math.round(facts.rateHz))) : '';
    if (!blinks && digits === '') return undefined;
    return {
      ...{ sign: blinks ? which : 'none', digits, place, size, colour },
      ...{ opacity: opacity * strength, arrows: fast && which !== 'pause' ? 2 : 1 },
    };
  },
  draw(surface, drawing, unit) {
    const key = JSON.stringify([drawing, unit]);
    surface.fillMask(rgbOf(drawing.colour), key, (mask, width, height) => {
      mask.fill(0);
      drawSign(mask, width, height, drawing, unit);
    });
  },
};

/** A frame as minutes, seconds and frames. */
function counted(frame: number, rate: number): string {
  const two = (n: number) => String(n).padStart(2, '0');
  const s = Math.floor(frame / rate);
  return `${two(Math.floor(s / 60))}:${two(s % 60)}:${two(frame % rate)}`;
}

type Box = readonly [x: number, y: number, width: number, height: number];

/** Paints where `inside` holds within a box; its edges smooth. */
function paint(
  mask: Uint8Array,
  width: number,
  height: number,
  [x, y, w, h]: Box,
  value: number,
  inside: (u: number, v: number) => boolean,
): void {
  let [px, py] = [0, 0];
  const hit = (i: number, j: number): number => {
    const u = (px + (i + 0.5) / FINE - x) / w;
    const v = (py + (j + 0.5) / FINE - y) / h;
    return u >= 0 && u < 1 && v >= 0 && v < 1 && inside(u, v) ? 1 : 0;
  };
  for (py = Math.max(0, Math.floor(y)); py < Math.min(height, Math.ceil(y + h)); py++)
    for (px = Math.max(0, Math.floor(x)); px < Math.min(width, Math.ceil(x + w)); px++) {
      // Where its corners agree, all of a pixel does: bars and arrows are wider than one.
      const corners = hit(0, 0) + hit(FINE - 1, 0) + hit(0, FINE - 1) + hit(FINE - 1, FINE - 1);
      let hits = corners === 4 ? FINE * FINE : 0;
      if (corners > 0 && corners < 4)
        for (let i = 0; i < FINE * FINE; i++) hits += hit(i % FINE, Math.floor(i / FINE));
      if (hits === 0) continue;
      const at = py * width + px;
      mask[at] = Math.max(mask[at]!, Math.round((value * hits) / FINE ** 2));
    }
}

function drawSign(mask: Uint8Array, width: number, height: number, drawing: Drawing, unit: number): void {
  const tall = drawing.size * unit;
  const value = 2.55 * drawing.opacity;
  const arrows = Number(drawing['arrows'] ?? 1);
  const digitWide = 0.5 * tall;
  const wide = drawing.digits.length * digitWide * 0.7 + 1.9 * tall;
  const margin = 0.06 * height;
  const { place } = drawing;
  const left =
    place === 'middle' ? (width - wide) / 2 : place.endsWith('left') ? margin : width - margin - wide;
  const top =
    place === 'middle' ? (height - tall) / 2 : place.startsWith('top') ? margin : height - margin - tall;
  if (drawing.sign === 'pause')
    for (const x of [0.25, 0.95])
      paint(mask, width, height, [left + x * tall, top, 0.4 * tall, tall], value, () => true);
  else if (drawing.sign !== 'none') {
    const back = drawing.sign === 'back';
    for (let i = 0; i < arrows; i++)
      paint(mask, width, height, [left + i * 0.8 * tall, top, 0.8 * tall, tall], value, (u, v) =>
      // A triangle with a notch in its back.
      {
        const along = back ? 1 - u : u;
        const half = Math.abs(v - 0.5) * 2;
        return half <= 1 - along && along >= 0.22 * (1 - half);
      });
  }
  let x = left + 1.9 * tall;
  for (const digit of drawing.digits) {
    const w = digit === ':' ? 0.4 * digitWide : digitWide;
    const box: Box = [x, top + 0.2 * tall, w, 0.6 * tall];
    if (digit === ':')
      paint(
        mask,
        width,
        height,
        box,
        value,
        (u, v) => Math.abs(u - 0.4) < 0.2 && (Math.abs(v - 0.3) < 0.07 || Math.abs(v - 0.7) < 0.07),
      );
    else paint(mask, width, height, box, value, (u, v) => lit(DIGITS[digit]!, u / 0.8, v));
    x += w * (digit === ':' ? 1 : 1.08);
  }
}

/** Whether a place of a digit, 0 to 1 each way, lies on one of its bars. */
function lit(bars: string, u: number, v: number): boolean {
  if (u > 1) return false;
  const thick = 0.17;
  const across = u > 0.06 && u < 0.94;
  const left = u < thick * 1.6;
  const right = u > 1 - thick * 1.6;
  const upper = v < 0.5;
  const lower = !upper;
  return (
    (bars[0] === '1' && across && v < thick) ||
    (bars[1] === '1' && left && upper) ||
    (bars[2] === '1' && right && upper) ||
    (bars[3] === '1' && across && Math.abs(v - 0.5) < thick / 2) ||
    (bars[4] === '1' && left && lower) ||
    (bars[5] === '1' && right && lower) ||
    (bars[6] === '1' && across && v > 1 - thick)
  );
}
