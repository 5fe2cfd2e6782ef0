/** Planes of pictures put somewhere else, sized and turned, in whole numbers. */
import { mirrored } from './mirrored';

/**
 * One plane of a picture in a frame of another size: the value at (x, y) of `out` is read at (ax x + bx y + cx,
 * ay x + by y + cy), 65536ths, between the four nearest, mixed down first, then across. Beyond the edges: 0 is `beyond`,
 * 1 the edge goes on, 2 mirrored.
 */
export function placePlane(
  from: usize,
  width: i32,
  height: i32,
  out: usize,
  outWidth: i32,
  outHeight: i32,
  ax: i64,
  bx: i64,
  cx: i64,
  ay: i64,
  by: i64,
  cy: i64,
  edges: i32,
  beyond: i32,
): void {
  const lastX = <u32>(width - 1);
  const lastY = <u32>(height - 1);
  for (let row: i32 = 0; row < outHeight; row++) {
    let px = bx * row + cx;
    let py = by * row + cy;
    let to = out + row * outWidth;
    for (let x: i32 = 0; x < outWidth; x++, px += ax, py += ay, to++) {
      const sx = <i32>(px >> 16);
      const sy = <i32>(py >> 16);
      const fx = <i32>((px >> 8) & 255);
      const fy = <i32>((py >> 8) & 255);
      let left: i32;
      let right: i32;
      if (<u32>sx < lastX && <u32>sy < lastY) {
        const at = from + sy * width + sx;
        left = (<i32>load<u8>(at) * (256 - fy) + <i32>load<u8>(at + width) * fy + 128) >> 8;
        right = (<i32>load<u8>(at, 1) * (256 - fy) + <i32>load<u8>(at + width, 1) * fy + 128) >> 8;
      } else {
        left =
          (value(from, width, height, sx, sy, edges, beyond) * (256 - fy) +
            value(from, width, height, sx, sy + 1, edges, beyond) * fy +
            128) >>
          8;
        right =
          (value(from, width, height, sx + 1, sy, edges, beyond) * (256 - fy) +
            value(from, width, height, sx + 1, sy + 1, edges, beyond) * fy +
            128) >>
          8;
      }
      store<u8>(to, (left * (256 - fx) + right * fx + 128) >> 8);
    }
  }
}

function value(from: usize, width: i32, height: i32, x: i32, y: i32, edges: i32, beyond: i32): i32 {
  if (edges === 0) {
    if (x < 0 || y < 0 || x >= width || y >= height) return beyond;
  } else if (edges === 1) {
    x = min(width - 1, max(0, x));
    y = min(height - 1, max(0, y));
  } else {
    x = mirrored(x, width);
    y = mirrored(y, height);
  }
  return <i32>load<u8>(from + y * width + x);
}
