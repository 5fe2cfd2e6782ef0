import { Box } from '@mui/material';
import { loopVerdict } from '@skipback/core/checks/result';
import { beyondWords, loopWords } from '../bench/checks';
import { totalsOf } from '@skipback/core/checks/totals';
import type { CompiledProject } from '@skipback/core/project/compile';
import { useMemo } from 'react';
import { Verdict } from '../parts/verdict';
import type { ClipState } from '../state/library';
import { colors } from '../theme';
import { costWords, decodeCost } from './decode-cost';

interface Props {
  readonly compiled: CompiledProject;
  readonly clips: readonly ClipState[];
  /** The file's, in pixels. */
  readonly size: { readonly width: number; readonly height: number };
}

/** What is known of the result before it is rendered. */
export function Checks({ compiled, clips, size: { width, height } }: Props) {
  const cost = useMemo(
    () =>
      decodeCost(
        compiled,
        clips.flatMap(({ loaded }) => loaded ?? []),
        { width, height },
      ),
    [compiled, clips, width, height],
  );
  const verdict = useMemo(() => loopVerdict(compiled), [compiled]);
  const distinct = useMemo(
    () => compiled.pieces.reduce((sum, p) => sum + totalsOf(p.compiled.shown).distinctFrames, 0),
    [compiled],
  );
  if (compiled.totalFrames === 0) return null;
  const skips = verdict.skips.length;
  return (
    <Box role="group" aria-label="Checks" sx={{ display: 'flex', flexDirection: 'column', gap: 0.75 }}>
      <Verdict good={verdict.closes || verdict.cut} text={loopWords(verdict)} />
      <Verdict
        good={skips === 0}
        text={skips === 0 ? 'Cuts are clean' : `${skips} jump${skips === 1 ? '' : 's'} inside`}
      />
      <Box sx={{ color: colors.quiet, pl: '18px' }}>
        {distinct} different source frames in {compiled.totalFrames}
        {verdict.doubled.length > 0 &&
          `; ${verdict.doubled.length} turn frame${verdict.doubled.length === 1 ? '' : 's'} shown twice`}
      </Box>
      {cost && <Box sx={{ color: colors.quiet, pl: '18px' }}>{costWords(cost, { width, height })}</Box>}
      {compiled.missing.length > 0 && (
        <Verdict
          good={false}
          text={`${compiled.missing.length} piece${compiled.missing.length === 1 ? '' : 's'} left out: the clip is not in this browser`}
        />
      )}
      {compiled.beyond.length > 0 && <Verdict good={false} text={beyondWords(compiled.beyond.length)} />}
    </Box>
  );
}
