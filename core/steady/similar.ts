/** Where a picture is put: (a x - b y + x0, b x + a y + y0), so sized, turned and moved, never bent. */
export interface Similar {
  readonly a: number;
  readonly b: number;
  readonly x: number;
  readonly y: number;
}

export interface Point {
  readonly x: number;
  readonly y: number;
}

export const put = ({ a, b, x, y }: Similar, p: Point): Point => ({
  x: a * p.x - b * p.y + x,
  y: b * p.x + a * p.y + y,
});

/** First `inner`, then `outer`. */
export const both = (outer: Similar, inner: Similar): Similar => ({
  a: outer.a * inner.a - outer.b * inner.b,
  b: outer.a * inner.b + outer.b * inner.a,
  ...put(outer, inner),
});

export function undone({ a, b, x, y }: Similar): Similar {
  const whole = a * a + b * b;
  const [ia, ib] = [a / whole, -b / whole];
  return { a: ia, b: ib, x: -(ia * x - ib * y), y: -(ib * x + ia * y) };
}

/** How many times as large things become. */
export const sizeOf = ({ a, b }: Similar): number => Math.hypot(a, b);

/** By how many degrees they are turned, clockwise. */
export const turnOf = ({ a, b }: Similar): number => (Math.atan2(b, a) * 180) / Math.PI;

/** So many times as large, turned clockwise, with the point `from` coming to lie at `to`. */
export function about(from: Point, to: Point, size: number, degrees: number): Similar {
  const turn = (degrees * Math.PI) / 180;
  const [a, b] = [size * Math.cos(turn), size * Math.sin(turn)];
  return { a, b, x: to.x - (a * from.x - b * from.y), y: to.y - (b * from.x + a * from.y) };
}
