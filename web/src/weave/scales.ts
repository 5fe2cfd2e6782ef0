/** A straight scale between a range of numbers and pixels. */
export interface Scale {
  (value: number): number;
  invert(x: number): number;
}

export function linearScale(from: number, to: number, x0: number, x1: number): Scale {
  const k = (x1 - x0) / Math.max(1e-9, to - from);
  const scale = ((value: number) => x0 + (value - from) * k) as Scale;
  scale.invert = (x) => from + (x - x0) / k;
  return scale;
}

/** Ruler ticks: a step of 1, 2, 5, 10, ... whose labels keep `apart` pixels. */
export function tickStep(perPixel: number, apart: number): number {
  const least = perPixel * apart;
  const power = 10 ** Math.floor(Math.log10(Math.max(1, least)));
  return [1, 2, 5, 10].map((k) => k * power).find((s) => s >= least) ?? 10 * power;
}
