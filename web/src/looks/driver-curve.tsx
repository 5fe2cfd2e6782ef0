import { type Driver, valueAt } from '@skipback/core/looks/driver';
import type { Facts } from '@skipback/core/looks/facts';
import type { Stretch } from '@skipback/core/looks/scope';
import { useMemo } from 'react';
import { colors } from '../theme';

/** Points that a curve is drawn of, at most. */
const POINTS = 240;

/** A driver's value over the frames of a look's stretches; gaps where the look does not apply. */
export function DriverCurve({
  driver,
  facts,
  stretches,
  width,
  height,
  fills = false,
}: {
  readonly driver: Driver;
  readonly facts: Facts;
  readonly stretches: readonly Stretch[];
  readonly width: number;
  readonly height: number;
  /** As wide as there is room. */
  readonly fills?: boolean;
}) {
  const path = useMemo(() => {
    const step = Math.max(1, Math.floor(facts.frames / POINTS));
    const rows = stretches.map((stretch) => {
      const points: [number, number][] = [];
      for (let frame = stretch.first; frame < stretch.end; frame += step)
        points.push([frame, valueAt(driver, frame, stretch, facts)]);
      return points;
    });
    const values = rows.flat().map((p) => p[1]);
    const low = values.reduce((a, b) => Math.min(a, b), Infinity);
    const high = values.reduce((a, b) => Math.max(a, b), -Infinity);
    const y = (v: number) =>
      high > low ? height - 2 - ((v - low) / (high - low)) * (height - 4) : height / 2;
    const x = (frame: number) => (frame / Math.max(1, facts.frames - 1)) * width;
    return rows
      .map((row) => row.map(([f, v], i) => `${i ? 'L' : 'M'}${x(f).toFixed(1)} ${y(v).toFixed(1)}`).join(''))
      .join('');
  }, [driver, facts, stretches, width, height]);
  return (
    <svg
      {...(fills
        ? { width: '100%', viewBox: `0 0 ${width} ${height}`, preserveAspectRatio: 'none' }
        : { width })}
      height={height}
      aria-hidden="true"
      style={{ display: 'block', flex: 'none' }}
    >
      <path
        d={path}
        fill="none"
        stroke={colors.forward}
        strokeWidth={1.4}
        strokeLinejoin="round"
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}
