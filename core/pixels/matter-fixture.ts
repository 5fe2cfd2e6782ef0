import type { DrawnMatte } from '../regions/matte';
import { Matter } from './matter';
import { type Planes, planesBytes, planesIn } from './planes';

const SIZE = 32;

/** For tests: a grey picture by the luma of its points, 32 pixels a side. */
export function greyPlanes(luma: (x: number, y: number) => number): Planes {
  const planes = planesIn(new Uint8Array(planesBytes(SIZE, SIZE)), SIZE, SIZE);
  for (let i = 0; i < SIZE * SIZE; i++) planes.y[i] = luma(i % SIZE, Math.floor(i / SIZE));
  planes.u.fill(128);
  planes.v.fill(128);
  return planes;
}

/** For tests: the rows of a matte of grey pictures. */
export function matteOf(
  picture: (x: number, y: number) => number,
  plate: (x: number, y: number) => number,
  making: Parameters<Matter['make']>[2],
  how: Partial<Pick<DrawnMatte, 'inverted' | 'moved'>> = {},
): number[][] {
  const matter = new Matter(SIZE, SIZE);
  const half = matter.make(greyPlanes(picture), greyPlanes(plate), making, 1);
  const whole = matter.spread(half, { inverted: false, ...how }, SIZE, SIZE, 1);
  return Array.from({ length: SIZE }, (_, y) => [...whole.slice(y * SIZE, (y + 1) * SIZE)]);
}
