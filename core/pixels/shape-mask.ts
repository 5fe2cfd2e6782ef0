import type { Mask } from '../regions/region';
import type { Kernels } from './kernels/module';

/** Half a side of a mask's shape, pixels, at least. */
const LEAST_HALF = 0.25;

/** Where a mask's bytes go, one a point, and room for the corners of a polygon. */
interface Ground {
  readonly width: number;
  readonly height: number;
  readonly at: number;
  readonly corners: number;
  readonly kernels: Kernels;
  readonly memory: { readonly buffer: ArrayBuffer };
}

/** Draws a mask, `unit` points to a pixel of the project's picture, only where it reaches. */
export function drawMask(mask: Mask, unit: number, ground: Ground): void {
  const { width, height, at, kernels, memory } = ground;
  const inverted = Number(mask.inverted);
  const [grow, feather] = [mask.grow * unit, mask.feather * unit];
  const { left, top, right, bottom } = reachOf(mask, unit, ground);
  // Beyond where it reaches there is nothing to be worked out.
  new Uint8Array(memory.buffer, at, width * height).fill(mask.inverted ? 255 : 0);
  if (right <= left || bottom <= top) return;
  const part = [at + top * width + left, right - left, bottom - top, width] as const;
  if (mask.shape === 'polygon') {
    const corners = mask.numbers.map((v, i) => v * unit - (i % 2 === 0 ? left : top));
    new Float32Array(memory.buffer, ground.corners, corners.length).set(corners);
    kernels.polygon(...part, ground.corners, corners.length / 2, grow, feather, inverted);
    return;
  }
  const [x, y, , , degrees] = mask.numbers as [number, number, number, number, number];
  const { rx, ry } = halves(mask);
  const turn = (degrees * Math.PI) / 180;
  kernels[mask.shape](
    ...part,
    ...([x * unit - left, y * unit - top, Math.cos(turn), Math.sin(turn)] as const),
    ...([rx * unit, ry * unit, mask.shape === 'ellipse' ? 0 : grow, feather, inverted] as const),
  );
}

/** The points that a mask may reach, as [left, right) and [top, bottom). */
function reachOf(mask: Mask, unit: number, { width, height }: Ground) {
  const { shape, numbers, grow, feather } = mask;
  const more = Math.max(0, grow * unit) + Math.max(1, feather * unit) / 2 + 2;
  const across: number[] = [];
  const down: number[] = [];
  if (shape === 'polygon')
    numbers.forEach((v, i) => (i % 2 === 0 ? across : down).push(v * unit - more, v * unit + more));
  else {
    const [x, y] = numbers as [number, number];
    const { rx, ry } = halves(mask);
    // No distance of the first order is less than that along the shorter axis.
    const by = shape === 'ellipse' ? 1 + more / (unit * Math.min(rx, ry)) : 1;
    const half = unit * Math.hypot(rx, ry) * by + (shape === 'ellipse' ? 0 : more);
    across.push(x * unit - half, x * unit + half);
    down.push(y * unit - half, y * unit + half);
  }
  const within = (values: number[], size: number): [number, number] => [
    Math.max(0, Math.floor(Math.min(...values))),
    Math.min(size, Math.ceil(Math.max(...values))),
  ];
  const [[left, right], [top, bottom]] = [within(across, width), within(down, height)];
  return { left, right, top, bottom };
}

/** Half the sides of an ellipse or a rectangle; an ellipse grows by its axes. */
function halves({ shape, numbers, grow }: Mask): { rx: number; ry: number } {
  const half = (size: number) => Math.max(LEAST_HALF, Math.abs(size / 2) + (shape === 'ellipse' ? grow : 0));
  return { rx: half(numbers[2]!), ry: half(numbers[3]!) };
}
