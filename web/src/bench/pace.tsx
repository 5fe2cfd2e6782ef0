import { paceAlong } from '@skipback/core/checks/smoothness';
import { picturesOf } from '@skipback/core/gather/gathers';
import type { CompiledProject } from '@skipback/core/project/compile';
import { toNumber } from '@skipback/core/time/rational';
import { frame } from '@skipback/core/time/units';
import { Box } from '@mui/material';
import { useMemo } from 'react';
import { Along } from '../charts/lazy';
import { useFirst } from '../state/counting';
import { transport } from '../state/transport';

/** Most instants that the pace of a result is drawn at. */
const PACE_POINTS = 240;

/** How many new frames a second there are along the result; an instant that is gone to is shown. */
export function Pace({ compiled }: { readonly compiled: CompiledProject }) {
  const rate = compiled.pieces[0]?.compiled.path.rate;
  const first = useFirst();
  const points = useMemo(() => {
    if (!rate) return [];
    const all = new Int32Array(compiled.totalFrames);
    // Twice as large and odd in every other piece: where two meet, the picture is another.
    for (const [i, { startFrame, compiled: piece }] of compiled.pieces.entries())
      all.set(
        picturesOf(piece).map((n) => 2 * n + (i % 2)),
        startFrame,
      );
    return paceAlong(all, rate, PACE_POINTS).map((p) => ({ atFrame: p.atFrame, value: p.newPerS }));
  }, [compiled, rate]);
  if (!rate || points.length < 2) return null;
  return (
    <Box sx={{ px: 1, py: 0.5 }}>
      <Along
        name="New frames a second, along the result"
        points={points}
        whenWords={(n) => `frame ${n + first}`}
        valueWords={(v) => `${Number(v.toFixed(1))} new frames/s`}
        usual={toNumber(rate)}
        from={0}
        to={toNumber(rate) * 1.12}
        onPick={(n) => transport.seekResult(frame(n))}
      />
    </Box>
  );
}
