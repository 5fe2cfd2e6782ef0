import { inCount, useFirst } from '../state/counting';
import { Sheet } from '../parts/sheet';
import { type Frame, frame } from '@skipback/core/time/units';
import { Box, Button, ButtonBase } from '@mui/material';
import { visuallyHidden } from '@mui/utils';
import type { Join } from '@skipback/core/checks/joins';
import { type Repair, repairsFor } from '@skipback/core/checks/repairs';
import { type LoopVerdict, loopVerdict } from '@skipback/core/checks/result';
import { type Smoothness, choppiest } from '@skipback/core/checks/smoothness';
import { picturesOf } from '@skipback/core/gather/gathers';
import type { Flashing } from '@skipback/core/looks/flashing';
import type { CompiledProject } from '@skipback/core/project/compile';
import { setFlashingIsMeant } from '@skipback/core/project/look-actions';
import type { Project } from '@skipback/core/project/schema';
import { toNumber } from '@skipback/core/time/rational';
import { importClient } from '@skipback/media/import/import-client';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { ChevronDown } from 'lucide-react';
import { type ReactNode, useMemo, useState } from 'react';
import { Mending } from '../parts/small-button';
import { Verdict } from '../parts/verdict';
import { Pace } from './pace';
import { freshId } from '../state/ids';
import type { ClipState, LoadedClip } from '../state/library';
import { useTold } from '../state/told';
import { act, useProjectStore } from '../state/project-store';
import { transport } from '../state/transport';
import { colors, mono } from '../theme';

/** One thing the checks found: words, where to look, what would mend it. */
interface Found {
  /** In the readouts, where there is room for few words. */
  readonly brief: string;
  readonly words: string;
  readonly atFrame: Frame;
  readonly repair: Pick<Repair, 'words' | 'apply'> | undefined;
}

/** Pieces that were left out because the result would last too long with them. */
export const beyondWords = (pieces: number): string =>
  `${pieces} piece${pieces === 1 ? '' : 's'} left out: a result lasts six hours at most`;

const flashWords = ({ flashes }: Flashing): string =>
  `${flashes} flashes of the whole picture within a second: can cause seizures`;

/** Dismisses the warning for the project; undo brings it back. */
const FLASHING_IS_MEANT = { words: 'Keep it like this', apply: (p: Project) => setFlashingIsMeant(p, true) };

/**
 * One verdict on the whole: the worst thing found, with what would mend it; a press opens all that was looked at.
 */
export function Checks({
  compiled,
  clips,
}: {
  readonly compiled: CompiledProject;
  readonly clips: readonly ClipState[];
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const verdict = useMemo(() => loopVerdict(compiled), [compiled]);
  const rough = useMemo(() => roughest(compiled), [compiled]);
  const project = useProjectStore((s) => s.project);
  const repairs = useMemo(() => (project ? repairsFor(compiled, project) : []), [compiled, project]);
  const flashes = useTold((s) => s.flashing);
  const flashing = project?.flashingIsMeant ? null : flashes;
  const first = useFirst();
  const findings = useMemo((): Found[] => {
    const mend = (mends: Repair['mends']) => repairs.find((r) => r.mends === mends);
    const { skips, doubled } = verdict;
    const ranOut = mend('ran-out');
    return [
      ...(flashing
        ? [
            {
              brief: `${flashing.flashes} flashes a second`,
              words: flashWords(flashing),
              atFrame: flashing.atFrame,
              repair: FLASHING_IS_MEANT,
            },
          ]
        : []),
      ...(verdict.closes || verdict.cut
        ? []
        : [
            {
              brief: loopWords(verdict),
              words: 'The loop jumps at its end',
              atFrame: frame(compiled.totalFrames - 1),
              repair: mend('loop'),
            },
          ]),
      ...skips.map((atFrame, i) => ({
        brief: count(skips.length, 'jump'),
        words: inCount(`Jumps at frame ${atFrame}`, first),
        atFrame,
        repair: i === 0 ? mend('skip') : undefined,
      })),
      ...(compiled.beyond.length > 0
        ? [
            {
              brief: `${count(compiled.beyond.length, 'piece')} left out`,
              words: beyondWords(compiled.beyond.length),
              atFrame: frame(0),
              repair: undefined,
            },
          ]
        : []),
      ...(ranOut
        ? [
            {
              brief: 'A coast runs out',
              words: 'A coast runs out of frames',
              atFrame: frame(0),
              repair: ranOut,
            },
          ]
        : []),
      ...(doubled.length > 0
        ? [
            {
              brief: `${count(doubled.length, 'turn frame')} twice`,
              words: `${count(doubled.length, 'turn frame')} shown twice`,
              atFrame: doubled[0]!,
              repair: mend('doubled'),
            },
          ]
        : []),
    ];
  }, [compiled, verdict, repairs, flashing, first]);
  const worst = findings[0];
  const own = clips.find((c) => c.clip.id === compiled.pieces[0]?.compiled.clip.id)?.loaded;
  const good = `${loopWords(verdict)} · cuts are clean`;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, minWidth: 0 }}>
      <ButtonBase
        title={`${worst?.brief ?? good}: all checks`}
        aria-haspopup="dialog"
        onClick={(event) => setAnchor(event.currentTarget)}
        sx={{ borderRadius: 1, gap: 0.25, minHeight: 24, minWidth: 96, '& svg': { flex: 'none' } }}
      >
        <Box component="span" sx={visuallyHidden}>
          All checks:{' '}
        </Box>
        <Verdict good={!worst} text={worst?.brief ?? good} />
        {findings.length > 1 && (
          <Box component="span" sx={{ fontFamily: mono, color: colors.quiet }}>
            +{findings.length - 1}
          </Box>
        )}
        <ChevronDown size={14} color={colors.quiet} />
      </ButtonBase>
      <Mend repair={worst?.repair} />
      <Sheet anchor={anchor} name="Checks" onClose={() => setAnchor(null)}>
        <Box role="group" aria-label="Checks" sx={{ p: 1, minWidth: 340 }}>
          <Box
            sx={{
              display: 'flex',
              flexWrap: 'wrap',
              columnGap: 2,
              px: 1,
              minHeight: 32,
              alignItems: 'center',
            }}
          >
            <Verdict good={verdict.closes || verdict.cut} text={loopWords(verdict)} />
            <Seam clip={own} join={verdict.end} />
            <Verdict
              good={verdict.skips.length === 0}
              text={verdict.skips.length === 0 ? 'Cuts are clean' : count(verdict.skips.length, 'jump')}
            />
          </Box>
          {rough && (
            <Finding
              words={`choppiest part: ${Number(rough.distinctPerS.toFixed(1))} new frames/s`}
              atFrame={rough.fromFrame}
            />
          )}
          {anchor && <Pace compiled={compiled} />}
          {findings.map((f) => (
            <Finding key={f.words} words={f.words} atFrame={f.atFrame}>
              <Mend repair={f.repair} onDone={() => setAnchor(null)} />
            </Finding>
          ))}
        </Box>
      </Sheet>
    </Box>
  );
}

/** One thing that was found: its words, what would mend it, where it is. */
function Finding({
  words,
  atFrame,
  children,
}: {
  readonly words: string;
  readonly atFrame: Frame;
  readonly children?: ReactNode;
}) {
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, px: 1, minHeight: 32 }}>
      <Box sx={{ flex: 1 }}>{words}</Box>
      {children}
      <Button
        size="small"
        color="inherit"
        sx={{ minWidth: 0, py: 0, minHeight: 24 }}
        onClick={() => transport.seekResult(atFrame)}
      >
        Show
      </Button>
    </Box>
  );
}

/** How the loop ends, in words. */
export const loopWords = ({ closes, cut }: LoopVerdict): string =>
  closes ? 'Loop closes' : cut ? 'Loop ends on a cut' : 'Loop jumps at its end';

const count = (n: number, word: string) => `${n} ${word}${n === 1 ? '' : 's'}`;

/** The loop's seam as it is seen, measured on the pictures themselves. */
function Seam({ clip, join }: { clip: LoadedClip | undefined; join: Join | undefined }) {
  const { before = 0, after = 0 } = join ?? {};
  const looks = useTold((s) => s.ends);
  const { data } = useQuery({
    queryKey: ['seam', clip?.record.id, before, after, looks],
    enabled: clip !== undefined && join !== undefined,
    placeholderData: keepPreviousData,
    queryFn: () => importClient.seam(clip!.source, before, after, looks),
  });
  if (!join || data === undefined) return null;
  const { plain, treated } = data;
  return (
    <Box
      data-testid="seam"
      title={`How much the picture changes where the loop begins again, in usual steps of this clip. 1 is invisible.${treated === undefined ? '' : ' Looks are not the same at the two ends: measured on the clip’s own frames, and with the looks on them.'}`}
      sx={{
        fontFamily: mono,
        fontSize: 12.5,
        color: plain < 2.5 ? colors.quiet : colors.attention,
      }}
    >
      loop match {plain.toFixed(1)}
      {treated !== undefined && `, with looks ${treated.toFixed(1)}`}
    </Box>
  );
}

function Mend({ repair, onDone }: { repair: Found['repair']; onDone?: () => void }) {
  if (!repair) return null;
  const { words, apply } = repair;
  return (
    <Mending
      onPress={() => {
        act(words.toLowerCase(), (p) => apply(p, freshId));
        onDone?.();
      }}
    >
      {words}
    </Mending>
  );
}

/** The choppiest stretch of all pieces, where it is choppier than the project's rate. */
function roughest(compiled: CompiledProject): Smoothness | undefined {
  let worst: Smoothness | undefined;
  for (const { startFrame, compiled: piece } of compiled.pieces) {
    const here = choppiest(piece.path, picturesOf(piece));
    if (!here || here.distinctPerS > toNumber(piece.path.rate) * 0.98) continue;
    if (!worst || here.distinctPerS < worst.distinctPerS)
      worst = { ...here, fromFrame: frame(here.fromFrame + startFrame), toFrame: here.toFrame + startFrame };
  }
  return worst;
}
