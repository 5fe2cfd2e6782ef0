import { Box } from '@mui/material';
import { type KeyboardEvent, useState } from 'react';
import { Area, AreaChart, ReferenceDot, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { colors, mono } from '../theme';

/** One point of a value along a result. */
export interface PointAlong {
  readonly atFrame: number;
  readonly value: number;
}

interface Props {
  /** What is drawn, for those who hear it. */
  readonly name: string;
  readonly points: readonly PointAlong[];
  /** What an instant and a value are called. */
  readonly whenWords: (atFrame: number) => string;
  readonly valueWords: (value: number) => string;
  /** The value there is usually, as a line across. */
  readonly usual: number;
  /** The least and the most of the scale. */
  readonly from: number;
  readonly to: number;
  readonly onPick?: (atFrame: number) => void;
}

const HEIGHT = 92;

/** A value along a result, walked by the pointer or by arrow keys: what it is at an instant is said under it. */
export function Along({ name, points, whenWords, valueWords, usual, from, to, onPick }: Props) {
  const [chosen, setChosen] = useState<number>();
  const at = chosen === undefined ? undefined : points[chosen];
  const least = points.reduce((a, b) => (b.value < a.value ? b : a), points[0]!);
  const told = at ?? least;
  const choose = (i: number) => {
    const next = Math.max(0, Math.min(points.length - 1, i));
    setChosen(next);
    onPick?.(points[next]!.atFrame);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const now = chosen ?? points.indexOf(least);
    const page = Math.ceil(points.length / 10);
    const to = {
      ArrowRight: now + 1,
      ArrowLeft: now - 1,
      PageUp: now + page,
      PageDown: now - page,
      Home: 0,
      End: points.length - 1,
    }[event.key];
    if (to === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    choose(to);
  };
  return (
    <Box sx={{ minWidth: 0 }}>
      <Box aria-hidden sx={{ fontSize: 12.5, color: colors.quiet, mb: 0.5 }}>
        {name}
      </Box>
      <Box
        role="slider"
        tabIndex={0}
        aria-label={name}
        aria-valuemin={0}
        aria-valuemax={points.length - 1}
        aria-valuenow={chosen ?? points.indexOf(least)}
        aria-valuetext={`${whenWords(told.atFrame)}: ${valueWords(told.value)}`}
        onKeyDown={onKeyDown}
        onPointerDown={(event) => {
          const { left, width } = event.currentTarget.getBoundingClientRect();
          choose(Math.round(((event.clientX - left) / width) * (points.length - 1)));
        }}
        sx={{
          height: HEIGHT,
          borderRadius: 1,
          bgcolor: colors.ground,
          overflow: 'hidden',
          cursor: 'pointer',
        }}
      >
        <ResponsiveContainer width="100%" height={HEIGHT} minWidth={0}>
          <AreaChart
            data={points as PointAlong[]}
            accessibilityLayer={false}
            margin={{ top: 6, right: 0, bottom: 2, left: 0 }}
          >
            <XAxis dataKey="atFrame" type="number" domain={['dataMin', 'dataMax']} hide />
            <YAxis domain={[from, to]} hide allowDataOverflow />
            <ReferenceLine y={usual} stroke={colors.line} strokeDasharray="3 3" />
            <Area
              dataKey="value"
              type="linear"
              baseValue={from}
              stroke={colors.ink}
              strokeWidth={1.5}
              fill={colors.raised}
              fillOpacity={1}
              isAnimationActive={false}
              dot={points.length <= 30 ? { r: 2, fill: colors.ink, stroke: 'none' } : false}
              activeDot={false}
            />
            {at && <ReferenceLine x={at.atFrame} stroke={colors.quiet} />}
            <ReferenceDot
              x={told.atFrame}
              y={told.value}
              r={4}
              fill={told.value < usual ? colors.attention : colors.good}
              stroke={colors.ground}
            />
          </AreaChart>
        </ResponsiveContainer>
      </Box>
      <Box
        aria-hidden
        sx={{
          ...{ display: 'flex', justifyContent: 'space-between', gap: 1, mt: 0.5 },
          ...{ fontSize: 12, color: colors.quiet, '& b': { fontWeight: 400, fontFamily: mono } },
        }}
      >
        <span>
          {at ? '' : 'least: '}
          <b>{valueWords(told.value)}</b>
        </span>
        <b>{whenWords(told.atFrame)}</b>
      </Box>
    </Box>
  );
}
