/** Every kernel against its plain twin, byte for byte, at sizes that are no multiple of anything. */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { seeded } from '../../moves/random';
import { type Kernels, loadKernels } from './module';

const { kernels, memory } = loadKernels(1 << 22);
const A = 1 << 16;
const B = (1 << 20) + 256;
const OUT = (2 << 20) + 512;
const REST = 3 << 20;

const clamp = (v: number) => Math.min(255, Math.max(0, v));
const random = seeded(7);
const bytes = (n: number) => Uint8Array.from({ length: n }, () => Math.floor(random() * 256));
/** Smooth and busy parts, whites and blacks: values at the ends of the range are where rounding shows. */
const picture = (n: number) => bytes(n).map((b, i) => (i % 7 === 0 ? 255 : i % 11 === 0 ? 0 : b));
const put = (at: number, data: Uint8Array) => new Uint8Array(memory.buffer, at, data.length).set(data);
const got = (at: number, n: number) => new Uint8Array(memory.buffer, at, n).slice();

const SIZES = [
  [1, 1],
  [2, 2],
  [3, 5],
  [7, 4],
  [16, 3],
  [17, 9],
  [33, 20],
  [64, 31],
] as const;

it('the module is what the source makes', () => {
  const now = execFileSync('node', [join(__dirname, 'compile.mjs'), 'print']).toString();
  expect(now === readFileSync(join(__dirname, 'bytes.ts'), 'utf8')).toBe(true);
});

type Run = (
  k: Kernels,
  a: Uint8Array,
  b: Uint8Array,
  width: number,
  height: number,
) => { at: number; twin: Uint8Array | number[] };

function each(words: string, run: Run): void {
  it.each(SIZES)(`${words} at %i x %i`, (width, height) => {
    const n = width * height * 4;
    const [a, b] = [picture(n), picture(n)];
    put(A, a);
    put(B, b);
    const { at, twin } = run(kernels, a, b, width, height);
    expect([...got(at, twin.length)]).toEqual([...twin]);
  });
}

for (const weight of [0, 1, 77, 128, 255, 256])
  each(`mix by ${weight}`, (k, a, b) => {
    k.mix(A, B, OUT, a.length, weight);
    return { at: OUT, twin: a.map((v, i) => (v * (256 - weight) + b[i]! * weight + 128) >> 8) };
  });

for (const weight of [0, 90, 256])
  each(`fill by ${weight}`, (k, a) => {
    const colour = 0xff20c8ff;
    k.fill(A, a.length / 4, colour, weight);
    const one = [0xff, 0xc8, 0x20, 0xff];
    return { at: A, twin: a.map((v, i) => (v * (256 - weight) + one[i % 4]! * weight + 128) >> 8) };
  });

each('a colour through a mask', (k, a, b) => {
  k.maskFill(A, a.length / 4, B, 0xff0a64f0);
  const one = [0xf0, 0x64, 0x0a, 0xff];
  return {
    at: A,
    twin: a.map((v, i) => {
      const m = b[i >> 2]!;
      const w = m + (m >> 7);
      return (v * (256 - w) + one[i % 4]! * w + 128) >> 8;
    }),
  };
});

each('tables', (k, a) => {
  const tables = bytes(768);
  put(REST, tables);
  k.lookUp(A, a.length / 4, REST);
  return { at: A, twin: a.map((v, i) => (i % 4 === 3 ? v : tables[256 * (i % 4) + v]!)) };
});

each('a matrix', (k, a) => {
  const rows = [
    [5000, -700, -204],
    [-900, 5800, 12],
    [0, -2200, 6296],
  ];
  const packed = new Int16Array(12);
  rows.forEach((row, r) => row.forEach((v, c) => (packed[4 * r + c] = v)));
  put(REST, new Uint8Array(packed.buffer));
  k.matrix(A, a.length / 4, REST);
  return {
    at: A,
    twin: a.map((v, i) => {
      const [c, p] = [i % 4, i - (i % 4)];
      if (c === 3) return v;
      const [x, y, z] = rows[c]!;
      return clamp((x! * a[p]! + y! * a[p + 1]! + z! * a[p + 2]! + 2048) >> 12);
    }),
  };
});

const product = (x: number, y: number) => {
  const p = x * y + 128;
  return (p + (p >> 8)) >> 8;
};
each('add', (k, a, b) => {
  k.add(A, B, a.length);
  return { at: A, twin: a.map((v, i) => Math.min(255, v + b[i]!)) };
});
each('screen', (k, a, b) => {
  k.screen(A, B, a.length);
  return { at: A, twin: a.map((v, i) => 255 - product(255 - v, 255 - b[i]!)) };
});
each('multiply', (k, a, b) => {
  k.multiply(A, B, a.length);
  return { at: A, twin: a.map((v, i) => product(v, b[i]!)) };
});

const mirrored = (at: number, size: number) => {
  const m = ((at % (2 * size)) + 2 * size) % (2 * size);
  return m < size ? m : 2 * size - 1 - m;
};
for (const edges of [0, 1, 2])
  each(`an affine map, edges ${edges}`, (k, a, b, width, height) => {
    const [ax, bx, cx, ay, by, cy] = [58_000, -21_000, 130_000, 20_500, 61_000, -90_007];
    const mask = 0xff00ff00;
    put(OUT, b);
    k.affine(
      ...([A, OUT, width, height] as const),
      ...([BigInt(ax), BigInt(bx), BigInt(cx), BigInt(ay), BigInt(by), BigInt(cy)] as const),
      edges,
      mask,
    );
    const read = (x: number, y: number, c: number) => {
      if (edges === 0 && (x < 0 || y < 0 || x >= width || y >= height)) return c === 3 ? 255 : 0;
      const [px, py] =
        edges === 1
          ? [Math.min(width - 1, Math.max(0, x)), Math.min(height - 1, Math.max(0, y))]
          : edges === 2
            ? [mirrored(x, width), mirrored(y, height)]
            : [x, y];
      return a[4 * (py * width + px) + c]!;
    };
    const between = (x: number, y: number, f: number) => (x * (256 - f) + y * f + 128) >> 8;
    return {
      at: OUT,
      twin: b.map((old, i) => {
        const c = i % 4;
        if (((mask >>> (8 * c)) & 255) === 0) return old;
        const [x, y] = [(i >> 2) % width, Math.floor((i >> 2) / width)];
        const [px, py] = [ax * x + bx * y + cx, ay * x + by * y + cy];
        const [sx, sy, fx, fy] = [px >> 16, py >> 16, (px >> 8) & 255, (py >> 8) & 255];
        const left = between(read(sx, sy, c), read(sx, sy + 1, c), fy);
        return between(left, between(read(sx + 1, sy, c), read(sx + 1, sy + 1, c), fy), fx);
      }),
    };
  });

for (const edges of [0, 1, 2])
  each(`a shift, edges ${edges}, is what the affine map makes of it`, (k, _a, b, width, height) => {
    const [dx, dy, mask] = [-196_700, 83_000, 0xff00ffff];
    put(OUT, b);
    k.shift(A, OUT, width, height, dx, dy, edges, mask);
    const shifted = got(OUT, b.length);
    put(OUT, b);
    k.affine(
      ...([A, OUT, width, height, 65_536n, 0n, BigInt(dx)] as const),
      ...([0n, 65_536n, BigInt(dy), edges, mask] as const),
    );
    return { at: OUT, twin: shifted };
  });

for (const reach of [1, 3])
  each(`edges over ${reach}`, (k, a, _b, width, height) => {
    const [threshold, gain] = [40, 33];
    k.edges(A, OUT, width, height, reach, threshold, gain);
    const at = (x: number, y: number, c: number) =>
      a[4 * (Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x))) + c]!;
    return {
      at: OUT,
      twin: a.map((_, i) => {
        if (i % 4 === 3) return 255;
        const [x, y] = [(i >> 2) % width, Math.floor((i >> 2) / width)];
        const each = [0, 1, 2].map((c) =>
          Math.min(
            255,
            Math.abs(at(x - reach, y, c) - at(x + reach, y, c)) +
              Math.abs(at(x, y - reach, c) - at(x, y + reach, c)),
          ),
        );
        return Math.min(255, (Math.max(0, Math.max(...each) - threshold) * gain) >> 4);
      }),
    };
  });

for (const [dx0, dy0, dx1, dy1, up] of [
  [-2, 1, 3, -1, 0],
  [0, 0, 9, 4, 1],
  [-40, -40, 41, 41, 1],
] as const)
  each(`the mean of two places ${dx0} to ${dx1}`, (k, a, _b, width, height) => {
    k.meanOfTwo(A, OUT, width, height, dx0, dy0, dx1, dy1, up);
    const at = (x: number, y: number, c: number) =>
      a[4 * (Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x))) + c]!;
    return {
      at: OUT,
      twin: a.map((_, i) => {
        const [x, y, c] = [(i >> 2) % width, Math.floor((i >> 2) / width), i % 4];
        return (at(x + dx0, y + dy0, c) + at(x + dx1, y + dy1, c) + up) >> 1;
      }),
    };
  });

for (const radius of [1, 4, 60])
  each(`boxes of radius ${radius}`, (k, a, _b, width, height) => {
    const by = Math.floor((4194304 + radius) / (2 * radius + 1));
    const box = (from: Uint8Array, across: boolean) =>
      from.map((_, i) => {
        const [x, y, c] = [(i >> 2) % width, Math.floor((i >> 2) / width), i % 4];
        let sum = 0;
        for (let d = -radius; d <= radius; d++) {
          const px = across ? Math.min(width - 1, Math.max(0, x + d)) : x;
          const py = across ? y : Math.min(height - 1, Math.max(0, y + d));
          sum += from[4 * (py * width + px) + c]!;
        }
        return (sum * by + (1 << 21)) >>> 22;
      });
    k.boxAcross(A, B, width, height, radius);
    k.boxDown(B, OUT, width, height, radius, REST);
    return { at: OUT, twin: box(box(a, true), false) };
  });

for (const n of [2, 5, 17])
  each(`a cube of ${n}`, (k, a) => {
    const table = bytes(3 * n ** 3);
    put(REST, table);
    k.cube(A, a.length / 4, REST, n);
    return {
      at: A,
      twin: a.map((v, i) => {
        const [c, p] = [i % 4, i - (i % 4)];
        if (c === 3) return v;
        const at = [0, 1, 2].map((j) => {
          const whole = a[p + j]! * (n - 1) * 257;
          const low = Math.min(n - 2, whole >> 16);
          return { low, f: (whole - low * 65536 + 128) >> 8 };
        });
        const [r, g, b] = at as [(typeof at)[0], (typeof at)[0], (typeof at)[0]];
        const entry = (dr: number, dg: number, db: number) =>
          table[3 * (r.low + dr + n * (g.low + dg + n * (b.low + db))) + c]!;
        const row = (dg: number, db: number) => entry(0, dg, db) * (256 - r.f) + entry(1, dg, db) * r.f;
        const plane = (db: number) => row(0, db) * (256 - g.f) + row(1, db) * g.f;
        return Math.floor((plane(0) * (256 - b.f) + plane(1) * b.f + (1 << 23)) / 2 ** 24);
      }),
    };
  });

const OVER = [
  (p: number, q: number) => Math.min(p, q),
  (p: number, q: number) => Math.max(p, q),
  (p: number, q: number) => {
    const s = (255 - p) * (255 - q) + 128;
    return 255 - ((s + (s >> 8)) >> 8);
  },
  (p: number, q: number) => Math.min(255, p + q),
];
for (const [kind, over] of OVER.entries())
  for (const weight of [0, 100, 256])
    each(`blend ${kind} by ${weight}`, (k, a, b) => {
      k.blend(A, B, a.length, kind, weight);
      return { at: A, twin: a.map((p, i) => (p * (256 - weight) + over(p, b[i]!) * weight + 128) >> 8) };
    });

describe('mean', () => {
  it.each([
    [1, 33, [32_768]],
    [2, 48, [8192, 24_576]],
    [3, 47, [10_923, 10_922, 10_923]],
    [64, 100, Array.from({ length: 64 }, () => 512)],
  ] as const)('of %i', (count, length, weights) => {
    const stride = length + 5;
    const rows = Array.from({ length: count }, () => picture(length));
    rows.forEach((row, k) => put(A + k * stride, row));
    put(B, new Uint8Array(Uint16Array.from(weights).buffer));
    kernels.mean(A, stride, B, count, OUT, length);
    const twin = rows[0]!.map(
      (_, i) => (rows.reduce((sum, row, k) => sum + row[i]! * weights[k]!, 0) + 16_384) >> 15,
    );
    expect([...got(OUT, length)]).toEqual([...twin]);
  });

  it('keeps what is level level, black and white included', () => {
    for (const level of [0, 1, 128, 254, 255]) {
      for (let k = 0; k < 3; k++) put(A + 64 * k, new Uint8Array(64).fill(level));
      put(B, new Uint8Array(Uint16Array.from([1, 32_765, 2]).buffer));
      kernels.mean(A, 64, B, 3, OUT, 64);
      expect(new Set(got(OUT, 64))).toEqual(new Set([level]));
    }
  });
});

describe('to and from RGBA', () => {
  it.each(SIZES)('at %i x %i', (width, height) => {
    const [w, h] = [(width + 1) >> 1, (height + 1) >> 1];
    const [y, u, v] = [picture(width * height), picture(w * h), picture(w * h)];
    put(A, y);
    put(B, u);
    put(REST, v);
    kernels.toRgba(A, B, REST, OUT, width, height);
    const rgba = got(OUT, 4 * width * height);
    const twin = rgba.map((_, i) => {
      const [x, row, c] = [(i >> 2) % width, Math.floor((i >> 2) / width), i % 4];
      if (c === 3) return 255;
      const chroma = (row >> 1) * w + (x >> 1);
      const [l, cu, cv] = [y[row * width + x]! - 16, u[chroma]! - 128, v[chroma]! - 128];
      const sum = [9539 * l + 14686 * cv, 9539 * l - 1747 * cu - 4366 * cv, 9539 * l + 17305 * cu][c]!;
      return clamp((sum + 4096) >> 13);
    });
    expect([...rgba]).toEqual([...twin]);

    const pixels = picture(4 * width * height);
    put(OUT, pixels);
    kernels.fromRgba(OUT, A, B, REST, width, height);
    const at = (x: number, row: number, c: number) =>
      pixels[4 * (Math.min(height - 1, row) * width + Math.min(width - 1, x)) + c]!;
    expect([...got(A, width * height)]).toEqual(
      Array.from({ length: width * height }, (_, i) => {
        const [x, row] = [i % width, Math.floor(i / width)];
        return (
          (2992 * at(x, row, 0) + 10063 * at(x, row, 1) + 1016 * at(x, row, 2) + (16 << 14) + 8192) >> 14
        );
      }),
    );
    const chroma = (fr: number, fg: number, fb: number) =>
      Array.from({ length: w * h }, (_, i) => {
        const [x, row] = [2 * (i % w), 2 * Math.floor(i / w)];
        const sum = (c: number) =>
          at(x, row, c) +
          at(Math.min(width - 1, x + 1), row, c) +
          at(x, Math.min(height - 1, row + 1), c) +
          at(Math.min(width - 1, x + 1), Math.min(height - 1, row + 1), c);
        return clamp((fr * sum(0) + fg * sum(1) + fb * sum(2) + (128 << 16) + 32768) >> 16);
      });
    expect([...got(B, w * h)]).toEqual(chroma(-1649, -5547, 7196));
    expect([...got(REST, w * h)]).toEqual(chroma(7196, -6536, -660));
  });

  it('greys come back as they were, and pure colours within a level', () => {
    for (const [r, g, b] of [
      [0, 0, 0],
      [255, 255, 255],
      [200, 200, 200],
      [0, 0, 255],
      [255, 0, 0],
      [0, 255, 0],
    ] as const) {
      put(
        OUT,
        Uint8Array.from({ length: 16 }, (_, i) => [r, g, b, 255][i % 4]!),
      );
      kernels.fromRgba(OUT, A, B, REST, 2, 2);
      kernels.toRgba(A, B, REST, OUT, 2, 2);
      const back = got(OUT, 4);
      [r, g, b].forEach((c, i) =>
        expect(Math.abs(back[i]! - c)).toBeLessThanOrEqual(r === g && g === b ? 0 : 2),
      );
    }
  });
});
