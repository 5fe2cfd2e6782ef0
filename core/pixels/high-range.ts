import { type Colour, type Matrix, SHARES, type Transfer, differencesToRgb } from './colour';
import { FREE_FROM, sharedKernels } from './kernels/shared';
import { type Planes, planesBytes, planesIn } from './planes';

/** A picture of more than eight bits: I420 in 16-bit words. */
export interface DeepPlanes {
  readonly width: number;
  readonly height: number;
  readonly bits: number;
  readonly y: Uint16Array;
  readonly u: Uint16Array;
  readonly v: Uint16Array;
}

/** Light of reference white, cd/m² (ITU-R BT.2408): what standard range shows as its white. */
const WHITE_NITS = 203;
/** Up to this share of white light stays as it is; above it is bent to stay below one. */
const KNEE = 0.7;

/** Light in cd/m² of a PQ value (SMPTE ST 2084). */
function pqNits(value: number): number {
  const [m1, m2, c1, c2, c3] = [2610 / 16384, 2523 / 32, 3424 / 4096, 2413 / 128, 2392 / 128];
  const p = value ** (1 / m2);
  return 10_000 * (Math.max(0, p - c1) / (c2 - c3 * p)) ** (1 / m1);
}

/** Scene light, 0 to 1, of an HLG value (ARIB STD-B67). */
function hlgScene(value: number): number {
  const [a, b, c] = [0.17883277, 0.28466892, 0.55991073];
  return value <= 0.5 ? (value * value) / 3 : (Math.exp((value - c) / a) + b) / 12;
}

/** Light of an HLG display of 1000 cd/m²: its system gamma is 1.2 (ITU-R BT.2100). */
const HLG_PEAK = 1000;
const HLG_GAMMA = 1.2;

/** Light as a share of standard white, bent softly below one above the knee. */
function bent(light: number): number {
  if (light <= KNEE) return light;
  return KNEE + (1 - KNEE) * (1 - Math.exp(-(light - KNEE) / (1 - KNEE)));
}

/** Nodes of a cube of colours along light and each difference, and how far apart they are in ten-bit values. */
const [LIGHTS, LIGHT] = [33, 32];
const [SHADES, SHADE] = [65, 16];

/**
 * Brings a high-range or wide-colour picture to BT.709 in standard range. HLG is shown as on a display of
 * 1000 cd/m², PQ as it says; reference white (203 cd/m²) becomes white. The greatest of red, green and blue is
 * bent: up to 0.7 of white nothing changes, above it light nears white as 0.3 (1 - e^(-x/0.3)) does; the other
 * two keep their ratio to it, so hues stay. Colours outside of BT.709 are cut off. The result is encoded with
 * gamma 2.4 (BT.1886).
 *
 * All of that is worked out once, at 33 values of brightness and 65 of each difference; pictures lie between them, in
 * whole numbers (`kernels/incoming.ts`).
 */
export class HighRange {
  /** Four words a node, by the first difference, the second, light. */
  private readonly cube = new Int16Array(4 * LIGHTS * SHADES ** 2);

  constructor(
    private readonly transfer: Transfer,
    private readonly matrix: Matrix,
    private readonly fullRange: boolean,
    private readonly bits: number,
  ) {
    let at = 0;
    for (let u = 0; u < SHADES; u++)
      for (let v = 0; v < SHADES; v++)
        for (let l = 0; l < LIGHTS; l++, at += 4) {
          const [y, cb, cr] = this.exactly(l * LIGHT, u * SHADE, v * SHADE);
          this.cube[at] = Math.round(128 * y);
          this.cube[at + 1] = Math.round(128 * cb);
          this.cube[at + 2] = Math.round(128 * cr);
        }
  }

  /** Writes the picture into planes of the same size. */
  convert(from: DeepPlanes, to: Planes): void {
    const { width, height } = from;
    const bytes = planesBytes(width, height);
    const cubeBytes = this.cube.byteLength;
    const words = FREE_FROM + cubeBytes;
    const out = words + 16 * Math.ceil(bytes / 8);
    const { kernels, buffer } = sharedKernels(out + bytes);
    new Int16Array(buffer, FREE_FROM, this.cube.length).set(this.cube);
    let at = words;
    const [y, u, v] = [from.y, from.u, from.v].map((plane) => {
      const there = new Uint16Array(buffer, at, plane.length);
      if (this.bits === 10) there.set(plane);
      else plane.forEach((value, i) => (there[i] = toTen(value, this.bits)));
      const begins = at;
      at += there.byteLength;
      return begins;
    }) as [number, number, number];
    const made = planesIn(new Uint8Array(buffer, out, bytes), width, height);
    const { byteOffset: outU } = made.u;
    kernels.throughCube(y, u, v, out, outU, made.v.byteOffset, width, height, FREE_FROM);
    to.y.set(made.y);
    to.u.set(made.u);
    to.v.set(made.v);
  }

  /** The same for planes of eight bits, in place. */
  convertEight(planes: Planes): void {
    const { width, height } = planes;
    const bytes = planesBytes(width, height);
    const given = FREE_FROM + this.cube.byteLength;
    const words = given + 16 * Math.ceil(bytes / 16);
    const { kernels, buffer } = sharedKernels(words + 2 * bytes);
    new Int16Array(buffer, FREE_FROM, this.cube.length).set(this.cube);
    const there = planesIn(new Uint8Array(buffer, given, bytes), width, height);
    for (const plane of ['y', 'u', 'v'] as const) there[plane].set(planes[plane]);
    kernels.toTen(given, words, bytes);
    const [u, v] = [there.u.byteOffset - given, there.v.byteOffset - given];
    kernels.throughCube(
      ...([words, words + 2 * u, words + 2 * v] as const),
      ...([given, given + u, given + v, width, height, FREE_FROM] as const),
    );
    for (const plane of ['y', 'u', 'v'] as const) planes[plane].set(there[plane]);
  }

  /** Brightness and differences in BT.709 limited range, not rounded, of ten-bit ones. */
  exactly(y: number, u: number, v: number): readonly [number, number, number] {
    const { redOfCr, greenOfCb, greenOfCr, blueOfCb } = differencesToRgb(this.matrix);
    const { red, blue } = SHARES.bt709;
    // What all values of the picture's own bits come to in ten.
    const whole = (256 * 2 ** (this.bits - 8) - 1) * 2 ** (10 - this.bits);
    const [base, span, half] = this.fullRange ? [0, whole, whole] : [64, 876, 896];
    const [l, cb, cr] = [(y - base) / span, (u - 512) / half, (v - 512) / half];
    const [r, g, b] = this.shown(l + redOfCr * cr, l + greenOfCb * cb + greenOfCr * cr, l + blueOfCb * cb);
    const light = red * r + (1 - red - blue) * g + blue * b;
    return [
      16 + 219 * light,
      128 + (224 * (b - light)) / (2 * (1 - blue)),
      128 + (224 * (r - light)) / (2 * (1 - red)),
    ];
  }

  /** Red, green and blue in standard range, 0 to 1, of encoded ones. */
  private shown(er: number, eg: number, eb: number): readonly [number, number, number] {
    const { transfer } = this;
    let [r, g, b] = [toLight(er, transfer), toLight(eg, transfer), toLight(eb, transfer)];
    if (transfer === 'hlg') {
      const { red, blue } = SHARES.bt2020;
      const scene = red * r + (1 - red - blue) * g + blue * b;
      const gain = (HLG_PEAK / WHITE_NITS) * Math.max(1e-6, scene) ** (HLG_GAMMA - 1);
      [r, g, b] = [r * gain, g * gain, b * gain];
    }
    if (this.matrix === 'bt2020') {
      // BT.2020 to BT.709 primaries (ITU-R BT.2087).
      [r, g, b] = [
        1.6605 * r - 0.5876 * g - 0.0728 * b,
        -0.1246 * r + 1.1329 * g - 0.0083 * b,
        -0.0182 * r - 0.1006 * g + 1.1187 * b,
      ];
    }
    const most = Math.max(r, g, b);
    const keep = transfer === 'sdr' || most <= KNEE ? 1 : bent(most) / most;
    return [encoded(r * keep), encoded(g * keep), encoded(b * keep)];
  }
}

/** Light, 1 for white, of an encoded value; for HLG that of the scene. */
function toLight(value: number, transfer: Transfer): number {
  const v = value < 0 ? 0 : value > 1 ? 1 : value;
  return transfer === 'hlg' ? hlgScene(v) : transfer === 'pq' ? pqNits(v) / WHITE_NITS : v ** 2.4;
}

const encoded = (light: number): number => (light <= 0 ? 0 : light >= 1 ? 1 : light ** (1 / 2.4));
/** A value of other bits in ten. */
const toTen = (value: number, bits: number): number =>
  bits < 10 ? value << (10 - bits) : Math.min(1023, (value + (1 << (bits - 11))) >> (bits - 10));

/** Those of the colours met last. */
const cubes = new Map<string, HighRange>();

/** What brings pictures of a colour and so many bits to standard range; worked out once. */
export function highRange({ transfer, matrix, fullRange }: Colour, bits: number): HighRange {
  const key = `${transfer} ${matrix} ${fullRange} ${bits}`;
  let cube = cubes.get(key);
  if (!cube) {
    if (cubes.size >= 8) cubes.clear();
    cubes.set(key, (cube = new HighRange(transfer, matrix, fullRange, bits)));
  }
  return cube;
}
