import { colors } from '../theme';

interface Props {
  readonly shape: readonly number[];
  readonly width?: number;
  readonly height?: number;
}

/** A move drawn as its own time path: source up, result across; backward stretches in their colour. */
export function MoveShape({ shape, width = 64, height = 24 }: Props) {
  const last = shape.length - 1;
  const x = (i: number) => 3 + (i / last) * (width - 6);
  const y = (v: number) => height - 3 - v * (height - 6);
  return (
    <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} aria-hidden="true">
      {shape.slice(1).map((v, i) => {
        const before = shape[i]!;
        const jump = v < before && Math.abs(v - before) > 0.9;
        const color = v < before ? colors.backward : v === before ? colors.hold : colors.forward;
        return (
          <line
            key={i}
            x1={x(i)}
            y1={y(before)}
            x2={jump ? x(i) : x(i + 1)}
            y2={y(v)}
            stroke={jump ? colors.line : color}
            strokeWidth={2}
            strokeLinecap="round"
          />
        );
      })}
    </svg>
  );
}
