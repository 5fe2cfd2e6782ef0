/** Masks and placed planes against their plain twins, byte for byte. */
import { seeded } from '../../moves/random';
import { loadKernels } from './module';

const { kernels: k, memory } = loadKernels(1 << 21);
const [A, B, M] = [1 << 16, 1 << 19, 1 << 20];
const f = Math.fround;
const random = seeded(11);
const bytes = (n: number) => Uint8Array.from({ length: n }, () => Math.floor(random() * 256));
const put = (at: number, data: Uint8Array) => new Uint8Array(memory.buffer, at, data.length).set(data);
const got = (at: number, n: number) => [...new Uint8Array(memory.buffer, at, n)];

const SIZES = [
  [1, 1],
  [3, 5],
  [17, 9],
  [64, 31],
] as const;

/** 255 inside, softly to 0 over the feather, in 32-bit floats. */
function faded(d: number, grow: number, feather: number, inverted: boolean): number {
  const scale = f(1 / Math.max(1, f(feather)));
  const t = Math.min(1, Math.max(0, f(0.5 - f(f(d - f(grow)) * scale))));
  const s = f(f(t * t) * f(3 - f(t + t)));
  const byte = Math.trunc(f(f(s * 255) + 0.5));
  return inverted ? byte ^ 255 : byte;
}

interface Shape {
  readonly cx: number;
  readonly cy: number;
  readonly cos: number;
  readonly sin: number;
  readonly rx: number;
  readonly ry: number;
}

const local = (x: number, y: number, { cx, cy, cos, sin }: Shape): [number, number] => {
  const [dx, dy] = [f(f(x + 0.5) - f(cx)), f(f(f(y) + 0.5) - f(cy))];
  const [c, s] = [f(cos), f(sin)];
  return [f(f(c * dx) + f(s * dy)), f(f(c * dy) - f(s * dx))];
};

function ellipseTwin(x: number, y: number, shape: Shape): number {
  const [rx, ry] = [f(shape.rx), f(shape.ry)];
  const [ix, iy] = [f(1 / rx), f(1 / ry)];
  const [lx, ly] = local(x, y, shape);
  const [u, v] = [f(lx * ix), f(ly * iy)];
  const k0 = f(Math.sqrt(f(f(u * u) + f(v * v))));
  const [a, b] = [f(u * ix), f(v * iy)];
  const k1 = f(Math.sqrt(f(f(a * a) + f(b * b))));
  return k1 > f(1e-6) ? f(f(k0 * f(k0 - 1)) / k1) : -Math.min(rx, ry);
}

function rectangleTwin(x: number, y: number, shape: Shape): number {
  const [lx, ly] = local(x, y, shape);
  const [u, v] = [f(Math.abs(lx) - f(shape.rx)), f(Math.abs(ly) - f(shape.ry))];
  const [a, b] = [Math.max(u, 0), Math.max(v, 0)];
  return f(f(Math.sqrt(f(f(a * a) + f(b * b)))) + Math.min(0, Math.max(u, v)));
}

function polygonTwin(x: number, y: number, corners: readonly number[]): number {
  const points = corners.map(f);
  const [px, py] = [f(x + 0.5), f(f(y) + 0.5)];
  const count = points.length / 2;
  let nearest = f(1e30);
  let winding = 0;
  for (let i = 0; i < count; i++) {
    const j = (i + count - 1) % count;
    const [ax, ay, bx, by] = [points[2 * j]!, points[2 * j + 1]!, points[2 * i]!, points[2 * i + 1]!];
    const [ex, ey] = [f(bx - ax), f(by - ay)];
    const length = Math.max(f(1e-12), f(f(ex * ex) + f(ey * ey)));
    const [dx, dy] = [f(px - ax), f(py - ay)];
    const t = Math.min(1, Math.max(0, f(f(f(dx * ex) + f(dy * ey)) / length)));
    const [ox, oy] = [f(dx - f(t * ex)), f(dy - f(t * ey))];
    nearest = Math.min(nearest, f(f(ox * ox) + f(oy * oy)));
    const side = f(f(ex * dy) - f(dx * ey));
    if (ay <= py && by > py && side > 0) winding++;
    else if (ay > py && by <= py && side < 0) winding--;
  }
  const away = f(Math.sqrt(nearest));
  return winding !== 0 ? -away : away;
}

const SOFT = [
  [0, 0, false],
  [3, 12, false],
  [-2, 5.5, true],
] as const;

describe.each(SIZES)('at %i x %i', (width, height) => {
  const turn = 0.4;
  const shape: Shape = {
    ...{ cx: width * 0.52, cy: height * 0.45, rx: 0.3 * width + 0.3, ry: 0.4 * height + 0.3 },
    ...{ cos: Math.cos(turn), sin: Math.sin(turn) },
  };
  const all = (twin: (x: number, y: number) => number) =>
    Array.from({ length: width * height }, (_, i) => twin(i % width, Math.floor(i / width)));

  it.each(SOFT)('an ellipse and a rectangle, moved out by %d, over %d', (grow, feather, inverted) => {
    const { cx, cy, cos, sin, rx, ry } = shape;
    for (const [kind, twin] of [
      ['ellipse', ellipseTwin],
      ['rectangle', rectangleTwin],
    ] as const) {
      k[kind](M, width, height, width, cx, cy, cos, sin, rx, ry, grow, feather, Number(inverted));
      expect(got(M, width * height)).toEqual(
        all((x, y) => faded(twin(x, y, shape), grow, feather, inverted)),
      );
    }
  });

  it.each(SOFT)(
    'polygons, one that crosses itself among them, out by %d, over %d',
    (grow, feather, inverted) => {
      const star = [0.5, 0.05, 0.8, 0.95, 0.02, 0.35, 0.98, 0.35, 0.2, 0.95];
      for (const part of [star, [0.1, 0.1, 0.9, 0.2, 0.4, 0.8]]) {
        const corners = part.map((v, i) => v * (i % 2 === 0 ? width : height));
        put(B, new Uint8Array(Float32Array.from(corners).buffer));
        k.polygon(M, width, height, width, B, corners.length / 2, grow, feather, Number(inverted));
        expect(got(M, width * height)).toEqual(
          all((x, y) => faded(polygonTwin(x, y, corners), grow, feather, inverted)),
        );
      }
    },
  );

  it('two pictures through a mask', () => {
    const [a, b, mask] = [bytes(4 * width * height), bytes(4 * width * height), bytes(width * height)];
    put(A, a);
    put(B, b);
    put(M, mask);
    k.maskMix(A, B, width * height, M);
    expect(got(B, b.length)).toEqual(
      [...b].map((v, i) => {
        const w = mask[i >> 2]! + (mask[i >> 2]! >> 7);
        return (a[i]! * (256 - w) + v * w + 128) >> 8;
      }),
    );
  });

  it.each([0, 1, 2])('a plane sized, turned and moved, edges %i', (edges) => {
    const [w, h] = [width + 3, Math.max(1, height - 1)];
    const from = bytes(w * h);
    put(A, from);
    const [ax, bx, cx, ay, by, cy] = [50_001, -9_000, 70_000, 8_123, 61_000, -90_000] as const;
    k.placePlane(
      ...([A, w, h, B, width, height] as const),
      ...([BigInt(ax), BigInt(bx), BigInt(cx), BigInt(ay), BigInt(by), BigInt(cy)] as const),
      ...([edges, 77] as const),
    );
    const mirrored = (at: number, size: number) => {
      const m = ((at % (2 * size)) + 2 * size) % (2 * size);
      return m < size ? m : 2 * size - 1 - m;
    };
    const value = (x: number, y: number) => {
      if (edges === 0 && (x < 0 || y < 0 || x >= w || y >= h)) return 77;
      const at =
        edges === 2
          ? [mirrored(x, w), mirrored(y, h)]
          : [Math.min(w - 1, Math.max(0, x)), Math.min(h - 1, Math.max(0, y))];
      return from[at[1]! * w + at[0]!]!;
    };
    expect(got(B, width * height)).toEqual(
      all((x, y) => {
        const [px, py] = [ax * x + bx * y + cx, ay * x + by * y + cy];
        const [sx, sy, fx, fy] = [px >> 16, py >> 16, (px >> 8) & 255, (py >> 8) & 255];
        const down = (i: number) => (value(i, sy) * (256 - fy) + value(i, sy + 1) * fy + 128) >> 8;
        return (down(sx) * (256 - fx) + down(sx + 1) * fx + 128) >> 8;
      }),
    );
  });
});
