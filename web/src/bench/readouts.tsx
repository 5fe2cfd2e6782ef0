import { Box, Button, ButtonBase, IconButton } from '@mui/material';
import type { CompiledProject } from '@skipback/core/project/compile';
import { percentText } from '@skipback/core/time/entry';
import { type Rational, rateText, toNumber } from '@skipback/core/time/rational';
import { formatTimecode } from '@skipback/core/time/timecode';
import { frame } from '@skipback/core/time/units';
import { type Repair, repairsFor } from '@skipback/core/checks/repairs';
import type { Join } from '@skipback/core/checks/joins';
import { loopVerdict } from '@skipback/core/checks/result';
import { type Smoothness, choppiest } from '@skipback/core/checks/smoothness';
import { importClient } from '@skipback/media/import/import-client';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Pause, Play } from 'lucide-react';
import { useMemo } from 'react';
import { Verdict } from '../parts/verdict';
import { freshId } from '../state/ids';
import type { ClipState, LoadedClip } from '../state/library';
import { usePlayback } from '../state/playback';
import { act } from '../state/project-store';
import { transport } from '../state/transport';
import { colors, mono } from '../theme';
import { type Ribbon, ribbonAt, ribbonsOf } from '../weave/ribbons';

interface Props {
  readonly compiled: CompiledProject;
  readonly rate: Rational;
  readonly clips: readonly ClipState[];
}

/** The line between picture and weave: where the playhead is, how fast, how long, and whether it is sound. */
export function Readouts({ compiled, rate, clips }: Props) {
  const ribbons = useMemo(() => ribbonsOf(compiled), [compiled]);
  const verdict = useMemo(() => loopVerdict(compiled), [compiled]);
  const repairs = useMemo(() => repairsFor(compiled), [compiled]);
  const rough = useMemo(() => roughest(compiled), [compiled]);
  const { totalFrames } = compiled;
  return (
    <Box
      role="group"
      aria-label="Readouts"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 2.5,
        px: 2,
        height: 42,
        borderTop: `1px solid ${colors.line}`,
        borderBottom: `1px solid ${colors.line}`,
        whiteSpace: 'nowrap',
        overflow: 'hidden',
        flex: 'none',
      }}
    >
      <PlayButton disabled={totalFrames === 0} />
      <Playhead ribbons={ribbons} rate={rate} totalFrames={totalFrames} />
      <Box sx={{ flex: 1 }} />
      <Stats />
      {totalFrames > 0 && (
        <>
          <Verdict good={verdict.closes} text={verdict.closes ? 'Loop closes' : 'Loop skips at its end'} />
          <Seam
            clip={clips.find((c) => c.clip.id === compiled.pieces[0]?.compiled.clip.id)?.loaded}
            join={verdict.end}
          />
          <Mend repair={repairs.find((r) => r.mends === 'loop')} />
          {verdict.skips.length === 0 ? (
            <Verdict good text="No skips" />
          ) : (
            <ButtonBase onClick={() => transport.seekResult(verdict.skips[0]!)} sx={{ borderRadius: 1 }}>
              <Verdict
                good={false}
                text={`${verdict.skips.length} skip${verdict.skips.length === 1 ? '' : 's'}: show`}
              />
            </ButtonBase>
          )}
          <Mend repair={repairs.find((r) => r.mends === 'skip')} />
          <Mend repair={repairs.find((r) => r.mends === 'ran-out')} />
          {verdict.doubled.length > 0 && (
            <ButtonBase
              title="A turn that shows its frame twice rests there for one frame. Press to see the first."
              onClick={() => transport.seekResult(verdict.doubled[0]!)}
              sx={{ color: colors.quiet, borderRadius: 1 }}
            >
              {verdict.doubled.length} turn frame{verdict.doubled.length === 1 ? '' : 's'} twice
            </ButtonBase>
          )}
          <Mend repair={repairs.find((r) => r.mends === 'doubled')} />
          {rough && (
            <ButtonBase
              title="Different pictures a second in the choppiest moving stretch. Press to see it."
              onClick={() => transport.seekResult(rough.fromFrame)}
              sx={{ color: colors.quiet, borderRadius: 1 }}
            >
              choppiest {Number(rough.distinctPerS.toFixed(1))}/s
            </ButtonBase>
          )}
        </>
      )}
      <Box sx={{ fontFamily: mono, fontSize: 14 }} data-testid="length">
        <Box component="span" sx={{ fontWeight: 600 }}>
          {totalFrames} f
        </Box>
        <Box component="span" sx={{ color: colors.quiet }}>
          {' '}
          = {formatTimecode(frame(totalFrames), rate)} at {rateText(rate)}
        </Box>
      </Box>
    </Box>
  );
}

function PlayButton({ disabled }: { disabled: boolean }) {
  const playing = usePlayback((s) => s.step !== 0);
  return (
    <IconButton
      aria-label={playing ? 'Stop' : 'Play'}
      title={playing ? 'Stop (Space)' : 'Play (Space)'}
      disabled={disabled}
      onClick={() => transport.toggle()}
      sx={{ color: colors.ink, mx: -1 }}
    >
      {playing ? <Pause size={20} fill="currentColor" /> : <Play size={20} fill="currentColor" />}
    </IconButton>
  );
}

/** The loop's seam as it is seen, measured on the pictures themselves. */
function Seam({ clip, join }: { clip: LoadedClip | undefined; join: Join | undefined }) {
  const { before = 0, after = 0 } = join ?? {};
  const { data } = useQuery({
    queryKey: ['seam', clip?.record.id, before, after],
    enabled: clip !== undefined && join !== undefined,
    placeholderData: keepPreviousData,
    queryFn: () => importClient.seam(clip!.source, before, after),
  });
  if (!join || data === undefined) return null;
  return (
    <Box
      data-testid="seam"
      title="How much the picture changes where the loop begins again, in usual steps of this clip. About 1 is invisible."
      sx={{ fontFamily: mono, fontSize: 12.5, ml: -1.5, color: data < 2.5 ? colors.quiet : colors.attention }}
    >
      seam {data.toFixed(1)}
    </Box>
  );
}

function Mend({ repair }: { repair: Repair | undefined }) {
  if (!repair) return null;
  return (
    <Button
      size="small"
      color="inherit"
      onClick={() => act(repair.words.toLowerCase(), (p) => repair.apply(p, freshId))}
      sx={{ ml: -2, py: 0, minWidth: 0, textDecoration: 'underline', textUnderlineOffset: 3 }}
    >
      {repair.words}
    </Button>
  );
}

/** The choppiest stretch of all pieces, where it is choppier than the project's rate. */
function roughest(compiled: CompiledProject): Smoothness | undefined {
  let worst: Smoothness | undefined;
  for (const { startFrame, compiled: piece } of compiled.pieces) {
    const here = choppiest(piece.path, piece.shown);
    if (!here || here.distinctPerS > toNumber(piece.path.rate) * 0.98) continue;
    if (!worst || here.distinctPerS < worst.distinctPerS)
      worst = { ...here, fromFrame: here.fromFrame + startFrame, toFrame: here.toFrame + startFrame };
  }
  return worst;
}

function Playhead({
  ribbons,
  rate,
  totalFrames,
}: {
  ribbons: readonly Ribbon[];
  rate: Rational;
  totalFrames: number;
}) {
  const { showing, position, sourceFrame, step } = usePlayback();
  if (showing === 'source')
    return (
      <>
        <Box sx={{ fontFamily: mono, fontSize: 20 }} data-testid="source-frame">
          frame {sourceFrame}
        </Box>
        <Box sx={{ color: colors.quiet }}>of the source. S looks at the result.</Box>
      </>
    );
  const ribbon = totalFrames > 0 ? ribbonAt(ribbons, position) : undefined;
  const speed = ribbon?.speedAtResult(position + 0.5) ?? 0;
  const word = !ribbon ? '' : ribbon.kind === 'hold' ? 'hold' : speed < 0 ? 'backward' : 'forward';
  const color = word === 'backward' ? colors.backward : word === 'forward' ? colors.forward : colors.ink;
  return (
    <>
      <Box sx={{ fontFamily: mono, fontSize: 20, letterSpacing: '-0.01em' }} data-testid="timecode">
        {formatTimecode(frame(position), rate)}
      </Box>
      <Box sx={{ fontFamily: mono, color: colors.quiet, minWidth: 140 }}>
        frame {totalFrames > 0 ? position + 1 : 0} of {totalFrames}
      </Box>
      <Box sx={{ color, fontSize: 13, minWidth: 110 }} data-testid="speed">
        {word}{' '}
        <Box component="span" sx={{ fontFamily: mono }}>
          {word && word !== 'hold' ? percentText(Math.abs(speed) * 100) : ''}
        </Box>
        {Math.abs(step) > 1 && (
          <Box component="span" sx={{ color: colors.quiet }}>
            {' '}
            playing {Math.abs(step)}x
          </Box>
        )}
      </Box>
    </>
  );
}

function Stats() {
  const { stats, showStats } = usePlayback();
  if (!showStats || !stats) return null;
  return (
    <Box sx={{ fontFamily: mono, fontSize: 12, color: colors.quiet }} data-testid="stats">
      {stats.late} late of {stats.shown + stats.late}, {stats.decoded} decoded,{' '}
      {Math.round(stats.heldBytes / 2 ** 20)} of {Math.round(stats.budgetBytes / 2 ** 20)} MB held
    </Box>
  );
}
