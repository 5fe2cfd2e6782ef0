import { Box, Button } from '@mui/material';
import { useEffect, useState } from 'react';
import type { RenderProof, RenderSettings } from '@skipback/media/render/messages';
import { PROMISED_DB } from '@skipback/media/render/aims';
import { Along } from '../charts/lazy';
import { colors, mono } from '../theme';
import type { RenderState } from '../state/rendering';

type Ended = Exclude<RenderState, { kind: 'idle' } | { kind: 'running' }>;

/** The one line that says whether the file can be handed over. */
function headline({ name, proof, damaged }: Extract<Ended, { kind: 'done' }>): string {
  if (proof.differing > 0)
    return `${name} is not right: ${proof.differing} of ${proof.compared} pictures do not match what went in`;
  if (proof.lacks.length > 0) return `${name} lacks something of the project`;
  if (!proof.asOrdered) return `${name} is not as expected: frames or sound are missing or too many`;
  if (damaged > 0)
    return `${name} is whole, but ${damaged} source frame${damaged === 1 ? ' is' : 's are'} damaged`;
  return `${name} is ready: opened again, every frame is there`;
}

/** The finished file itself, playing in a loop. */
function Playing({ file, name }: { readonly file: File; readonly name: string }) {
  const [url, setUrl] = useState<string>();
  useEffect(() => {
    const made = URL.createObjectURL(file);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [file]);
  const style = {
    width: 'min(100%, 498px)',
    aspectRatio: '16 / 9',
    background: '#000',
    display: 'block',
    borderRadius: 6,
  } as const;
  if (/\.(gif|png)$/.test(name))
    return <img src={url} alt="The finished file" style={{ ...style, objectFit: 'contain' }} />;
  if (name.endsWith('.zip')) return null;
  return (
    <video
      key={url}
      src={url}
      aria-label="The finished file"
      autoPlay={!window.matchMedia('(prefers-reduced-motion: reduce)').matches}
      loop
      muted
      controls
      playsInline
      style={style}
    />
  );
}

/** How near the pictures that were compared came to what went in, along the file. */
function Nearness({
  proof,
  quality,
}: {
  readonly proof: RenderProof;
  readonly quality: RenderSettings['quality'];
}) {
  const { along = [], frames, durationS } = proof;
  if (along.length < 2) return null;
  const points = along.map(({ atFrame, db }) => ({ atFrame, value: db }));
  const values = points.map((p) => p.value);
  return (
    <Box sx={{ mt: 1.5, maxWidth: 498 }}>
      <Along
        name="Quality along the file"
        points={points}
        whenWords={(n) => `at ${((n * durationS) / frames).toFixed(2)} s`}
        valueWords={(db) => (db >= 99 ? 'the same' : `${db.toFixed(1)} dB`)}
        usual={PROMISED_DB[quality]}
        from={Math.min(PROMISED_DB[quality], ...values) - 4}
        to={Math.min(60, Math.max(PROMISED_DB[quality], ...values)) + 2}
      />
      <Box sx={{ color: colors.quiet, fontSize: 12, mt: 0.5 }}>
        How near the compared pictures come to what went in. The line is what “{quality}” promises.
      </Box>
    </Box>
  );
}

/** How a render ended: the file, its proof, or the sentence. */
export function Outcome({ state }: { readonly state: Ended }) {
  if (state.kind === 'cancelled')
    return <Box sx={{ color: colors.quiet }}>Cancelled. Nothing was left behind.</Box>;
  if (state.kind === 'failed')
    return (
      <Box role="alert" sx={{ color: colors.attention, maxWidth: 520 }}>
        {state.sentence}
      </Box>
    );
  const { proof, counts, damaged } = state;
  const ready = proof.asOrdered && damaged === 0;
  const rows: [string, string][] = [
    ['Frames', `${proof.frames}`],
    ['Length', `${proof.durationS.toFixed(3)} s`],
    ...(proof.soundCodec
      ? ([['Sound', `${proof.soundCodec}, ${proof.soundDurationS.toFixed(3)} s`]] as [string, string][])
      : []),
    ['Size on disk', `${(proof.bytes / 1e6).toFixed(2)} MB`],
    ['Pictures compared', `${proof.compared - proof.differing} of ${proof.compared} match what went in`],
    ['Source frames read', `${counts.decoded}, ${counts.distinct} different`],
    ...(counts.treated > 0
      ? ([['Looks', `drawn on ${counts.treated} pictures, ${counts.treatedAgain} reused`]] as [
          string,
          string,
        ][])
      : []),
    ...(counts.encoded < proof.frames
      ? ([['Encoded', `${counts.encoded} pictures; the others repeat them`]] as [string, string][])
      : []),
    ['Speed', `${(proof.frames / (counts.elapsedMs / 1000)).toFixed(1)} frames/s`],
  ];
  return (
    <Box sx={{ maxWidth: 520 }} data-testid="render-proof" data-as-ordered={proof.asOrdered}>
      <Box sx={{ mb: 2 }}>
        <Playing file={state.file} name={state.name} />
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, fontSize: 15, fontWeight: 600, mb: 1.5 }}>
        <svg width="12" height="12" aria-hidden="true">
          {ready ? (
            <circle cx="6" cy="6" r="5" fill={colors.good} />
          ) : (
            <path d="M6 0 12 11H0Z" fill={colors.attention} />
          )}
        </svg>
        {headline(state)}
      </Box>
      {proof.lacks.map((sentence) => (
        <Box key={sentence} role="alert" sx={{ mb: 1, color: colors.attention }}>
          {sentence}
        </Box>
      ))}
      {proof.notes.map((sentence) => (
        <Box key={sentence} role="status" sx={{ mb: 1 }}>
          {sentence}
        </Box>
      ))}
      {damaged > 0 && (
        <Box role="alert" sx={{ mb: 1, color: colors.attention }}>
          The nearest good frame stands in for {damaged === 1 ? 'it' : 'each of them'}.
        </Box>
      )}
      {!proof.asOrdered && (
        <Box role="alert" sx={{ mb: 1, color: colors.attention }}>
          Do not deliver this file.{' '}
          {proof.lacks.length > 0
            ? 'Bring back what is missing, and render it again.'
            : 'Render it again, or try another format.'}
        </Box>
      )}
      {rows.map(([label, value]) => (
        <Box key={label} sx={{ display: 'flex', py: 0.4 }}>
          <Box sx={{ width: 180, color: colors.quiet }}>{label}</Box>
          <Box sx={{ fontFamily: mono }}>{value}</Box>
        </Box>
      ))}
      <Nearness proof={proof} quality={state.quality} />
      {state.download && (
        <Button
          sx={{ mt: 2 }}
          variant={state.handed ? 'outlined' : 'contained'}
          {...(state.handed && { color: 'inherit' })}
          onClick={state.download}
        >
          {state.handed ? 'Download again' : `Save it, ${(proof.bytes / 1e6).toFixed(2)} MB`}
        </Button>
      )}
    </Box>
  );
}
