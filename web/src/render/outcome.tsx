import { Box, Button } from '@mui/material';
import { colors, mono } from '../theme';
import type { RenderState } from './use-render';

type Ended = Exclude<RenderState, { kind: 'idle' } | { kind: 'running' }>;

/** How a render ended: the proof of the file, or the sentence. */
export function Outcome({ state }: { readonly state: Ended }) {
  if (state.kind === 'cancelled')
    return <Box sx={{ color: colors.quiet }}>Cancelled. Nothing was left behind.</Box>;
  if (state.kind === 'failed')
    return (
      <Box role="alert" sx={{ color: colors.attention, maxWidth: 520 }}>
        {state.sentence}
      </Box>
    );
  const { proof, counts } = state;
  const rows: [string, string][] = [
    ['Frames', `${proof.frames}`],
    ['Length', `${proof.durationS.toFixed(3)} s`],
    ...(proof.soundCodec
      ? ([['Sound', `${proof.soundCodec}, ${proof.soundDurationS.toFixed(3)} s`]] as [string, string][])
      : []),
    ['Size on disk', `${(proof.bytes / 1e6).toFixed(2)} MB`],
    ['Source frames read', `${counts.decoded} for ${counts.distinct} different ones`],
    ['Speed', `${(proof.frames / (counts.elapsedMs / 1000)).toFixed(1)} frames/s`],
  ];
  return (
    <Box sx={{ maxWidth: 520 }} data-testid="render-proof" data-as-ordered={proof.asOrdered}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, fontSize: 15, fontWeight: 600, mb: 1.5 }}>
        <svg width="12" height="12" aria-hidden="true">
          {proof.asOrdered ? (
            <circle cx="6" cy="6" r="5" fill={colors.good} />
          ) : (
            <path d="M6 0 12 11H0Z" fill={colors.attention} />
          )}
        </svg>
        {proof.asOrdered
          ? `${state.name} is ready: opened again, every frame is there`
          : `${state.name} is not what was ordered`}
      </Box>
      {rows.map(([label, value]) => (
        <Box key={label} sx={{ display: 'flex', py: 0.4 }}>
          <Box sx={{ width: 180, color: colors.quiet }}>{label}</Box>
          <Box sx={{ fontFamily: mono }}>{value}</Box>
        </Box>
      ))}
      {state.damaged > 0 && (
        <Box role="alert" sx={{ mt: 1, color: colors.attention }}>
          {state.damaged} damaged source frames were stood in for by the good frame before.
        </Box>
      )}
      {state.download && (
        <Button sx={{ mt: 2 }} variant="outlined" color="inherit" onClick={state.download}>
          Download again
        </Button>
      )}
    </Box>
  );
}
