import { Box } from '@mui/material';
import { type Envelope, levelAfter } from '@skipback/core/beats/envelope';
import { Area, AreaChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from 'recharts';
import { colors, mono } from '../theme';

const HEIGHT = 76;
/** What is seen before and after the shape, of its length. */
const MARGIN = 0.08;

/** The shape that an accent is given, over milliseconds: a line where the accent sounds. */
export function EnvelopeShape({ envelope, name }: { readonly envelope: Envelope; readonly name: string }) {
  const { riseMs, holdMs, fallMs } = envelope;
  const more = MARGIN * (riseMs + holdMs + fallMs);
  const at = [-riseMs - more, -riseMs, 0, holdMs, holdMs + fallMs, holdMs + fallMs + more];
  const points = at.map((ms) => ({ ms, level: levelAfter(envelope, ms / 1000) }));
  // What has no rise is there at once.
  if (riseMs === 0) points.splice(2, 0, { ms: 0, level: 0 });
  return (
    <Box
      role="img"
      aria-label={`${name}: up over ${riseMs} ms, at its top for ${holdMs} ms, down over ${fallMs} ms`}
      sx={{ my: 0.75, bgcolor: colors.ground, borderRadius: 1, overflow: 'hidden' }}
    >
      <ResponsiveContainer width="100%" height={HEIGHT} minWidth={0}>
        <AreaChart
          data={points}
          accessibilityLayer={false}
          margin={{ top: 8, right: 22, bottom: 0, left: 0 }}
        >
          <XAxis
            dataKey="ms"
            type="number"
            domain={['dataMin', 'dataMax']}
            ticks={[...new Set([0, holdMs + fallMs])]}
            tickFormatter={(ms: number) => (ms === 0 ? '0' : `${ms} ms`)}
            height={18}
            axisLine={false}
            tickLine={false}
            tick={{ fill: colors.quiet, fontSize: 11, fontFamily: mono }}
            interval={0}
          />
          <YAxis domain={[0, 1]} hide />
          <ReferenceLine x={0} stroke={colors.quiet} strokeDasharray="3 3" />
          <Area
            dataKey="level"
            type="linear"
            stroke={colors.forward}
            strokeWidth={1.5}
            fill={colors.forward}
            fillOpacity={0.16}
            isAnimationActive={false}
            dot={false}
            activeDot={false}
          />
        </AreaChart>
      </ResponsiveContainer>
    </Box>
  );
}
