import { SHARES, type Transfer, differencesToRgb, type Matrix } from './colour';
import { type Planes, halfOf } from './planes';

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
  const p = Math.max(0, value) ** (1 / m2);
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

const STEPS = 4096;

/**
 * Brings a high-range or wide-colour picture to BT.709 in standard range. HLG is shown as on a display of
 * 1000 cd/m², PQ as it says; reference white (203 cd/m²) becomes white. The greatest of red, green and blue is
 * bent: up to 0.7 of white nothing changes, above it light nears white as 0.3 (1 - e^(-x/0.3)) does; the other
 * two keep their ratio to it, so hues stay. Colours outside of BT.709 are cut off. The result is encoded with
 * gamma 2.4 (BT.1886).
 */
export class HighRange {
  /** Linear light (for HLG: scene light) of each value of `bits` bits. */
  private readonly light: Float32Array;
  private readonly encoded: Uint8Array;

  constructor(
    private readonly transfer: Transfer,
    private readonly matrix: Matrix,
    private readonly fullRange: boolean,
    private readonly bits: number,
  ) {
    const toLight = {
      sdr: (v: number) => Math.max(0, v) ** 2.4,
      hlg: hlgScene,
      pq: (v: number) => pqNits(v) / WHITE_NITS,
    };
    this.light = Float32Array.from({ length: STEPS + 1 }, (_, i) => toLight[transfer](i / STEPS));
    // By the square root of light, so that dark values are told apart.
    this.encoded = Uint8Array.from({ length: STEPS + 1 }, (_, i) =>
      Math.round(255 * (i / STEPS) ** (2 / 2.4)),
    );
  }

  /** Writes the picture into planes of the same size. */
  convert(from: DeepPlanes, to: Planes): void {
    const { width, height } = from;
    const { redOfCr, greenOfCb, greenOfCr, blueOfCb } = differencesToRgb(this.matrix);
    const { red, blue } = SHARES.bt709;
    const green = 1 - red - blue;
    const deep = 1 << (this.bits - 8);
    const [base, span, half] = this.fullRange
      ? [0, 256 * deep - 1, 256 * deep - 1]
      : [16 * deep, 219 * deep, 224 * deep];
    const across = halfOf(width);
    const rgb = new Float32Array(3);
    for (let row = 0; row < halfOf(height); row++)
      for (let i = 0; i < across; i++) {
        const at = row * across + i;
        const cb = (from.u[at]! - 128 * deep) / half;
        const cr = (from.v[at]! - 128 * deep) / half;
        let [sumR, sumG, sumB, n] = [0, 0, 0, 0];
        for (let dy = 0; dy < 2 && 2 * row + dy < height; dy++)
          for (let dx = 0; dx < 2 && 2 * i + dx < width; dx++) {
            const place = (2 * row + dy) * width + 2 * i + dx;
            const l = (from.y[place]! - base) / span;
            this.shown(l + redOfCr * cr, l + greenOfCb * cb + greenOfCr * cr, l + blueOfCb * cb, rgb);
            const [r, g, b] = [rgb[0]!, rgb[1]!, rgb[2]!];
            to.y[place] = Math.round(16 + (219 * (red * r + green * g + blue * b)) / 255);
            sumR += r;
            sumG += g;
            sumB += b;
            n++;
          }
        const light = red * sumR + green * sumG + blue * sumB;
        to.u[at] = Math.round(128 + (224 * (sumB - light)) / (2 * (1 - blue) * 255 * n));
        to.v[at] = Math.round(128 + (224 * (sumR - light)) / (2 * (1 - red) * 255 * n));
      }
  }

  /** Red, green and blue in standard range, 0 to 255, of encoded ones. */
  private shown(er: number, eg: number, eb: number, out: Float32Array): void {
    let [r, g, b] = [this.lightOf(er), this.lightOf(eg), this.lightOf(eb)];
    if (this.transfer === 'hlg') {
      const scene =
        SHARES.bt2020.red * r + (1 - SHARES.bt2020.red - SHARES.bt2020.blue) * g + SHARES.bt2020.blue * b;
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
    const keep = this.transfer === 'sdr' || most <= KNEE ? 1 : bent(most) / most;
    out[0] = this.encode(r * keep);
    out[1] = this.encode(g * keep);
    out[2] = this.encode(b * keep);
  }

  private lightOf(value: number): number {
    return this.light[value <= 0 ? 0 : value >= 1 ? STEPS : Math.round(value * STEPS)]!;
  }

  private encode(light: number): number {
    return this.encoded[light <= 0 ? 0 : light >= 1 ? STEPS : Math.round(Math.sqrt(light) * STEPS)]!;
  }
}
