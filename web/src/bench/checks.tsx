import { inCount, useFirst } from '../state/counting';
import { Sheet } from '../parts/sheet';
import { type Frame, frame } from '@skipback/core/time/units';
import { Box, Button, ButtonBase } from '@mui/material';
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
import { useMemo, useState } from 'react';
import { Verdict } from '../parts/verdict';
import { freshId } from '../state/ids';
import type { ClipState, LoadedClip } from '../state/library';
import { useTold } from '../state/told';
import { act, useProjectStore } from '../state/project-store';
import { transport } from '../state/transport';
import { colors, mono } from '../theme';

/** One thing the checks found: words, where to look, what would mend it. */
interface Finding {
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
const FLASHING_IS_MEANT = { words: 'It is meant', apply: (p: Project) => setFlashingIsMeant(p, true) };

/**
 * Whether the loop closes, how many skips, the choppiest stretch: always in sight, with the most urgent
 * repair beside them. Everything the checks found is one press away, each with where it is and its repair.
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
  const findings = useMemo((): Finding[] => {
    const mend = (mends: Repair['mends']) => repairs.find((r) => r.mends === mends);
    const { skips, doubled } = verdict;
    const ranOut = mend('ran-out');
    return [
      ...(flashing
        ? [{ words: flashWords(flashing), atFrame: flashing.atFrame, repair: FLASHING_IS_MEANT }]
        : []),
      ...(verdict.closes || verdict.cut
        ? []
        : [
            {
              words: 'The loop skips at its end',
              atFrame: frame(compiled.totalFrames - 1),
              repair: mend('loop'),
            },
          ]),
      ...skips.map((atFrame, i) => ({
        words: inCount(`Skips at frame ${atFrame}`, first),
        atFrame,
        repair: i === 0 ? mend('skip') : undefined,
      })),
      ...(compiled.beyond.length > 0
        ? [{ words: beyondWords(compiled.beyond.length), atFrame: frame(0), repair: undefined }]
        : []),
      ...(ranOut ? [{ words: 'A coast runs out of frames', atFrame: frame(0), repair: ranOut }] : []),
      ...(doubled.length > 0
        ? [
            {
              words: `${count(doubled.length, 'turn frame')} twice`,
              atFrame: doubled[0]!,
              repair: mend('doubled'),
            },
          ]
        : []),
    ];
  }, [compiled, verdict, repairs, flashing, first]);
  const urgent = findings.find((f) => f.repair)?.repair;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.75, flex: 'none' }}>
      <Verdict good={verdict.closes || verdict.cut} text={loopWords(verdict)} />
      <Seam
        clip={clips.find((c) => c.clip.id === compiled.pieces[0]?.compiled.clip.id)?.loaded}
        join={verdict.end}
      />
      {verdict.skips.length === 0 ? (
        <Verdict good text="No skips" />
      ) : (
        <ButtonBase onClick={() => transport.seekResult(verdict.skips[0]!)} sx={{ borderRadius: 1 }}>
          <Verdict good={false} text={`${count(verdict.skips.length, 'skip')}: show`} />
        </ButtonBase>
      )}
      {flashing && (
        <ButtonBase
          title="More than three flashes of the whole picture in a second can cause seizures (WCAG 2.3.1). Press to see it."
          onClick={() => transport.seekResult(flashing.atFrame)}
          sx={{ borderRadius: 1 }}
        >
          <Verdict good={false} text={`${flashing.flashes} flashes a second`} />
        </ButtonBase>
      )}
      {rough && (
        <ButtonBase
          title="Different pictures a second in the choppiest moving stretch. Press to see it."
          onClick={() => transport.seekResult(rough.fromFrame)}
          sx={{ color: colors.quiet, borderRadius: 1, display: { xs: 'none', lg: 'inline-flex' } }}
        >
          choppiest {Number(rough.distinctPerS.toFixed(1))}/s
        </ButtonBase>
      )}
      <Mend repair={urgent} />
      {findings.length > 0 && (
        <ButtonBase
          aria-label={`All checks: ${count(findings.length, 'finding')}`}
          aria-haspopup="true"
          onClick={(event) => setAnchor(event.currentTarget)}
          sx={{
            color: colors.quiet,
            borderRadius: 1,
            gap: 0.25,
            fontFamily: mono,
            '&:hover': { color: colors.ink },
          }}
        >
          {findings.length}
          <ChevronDown size={14} />
        </ButtonBase>
      )}
      <Sheet
        anchor={findings.length > 0 ? anchor : null}
        name="Findings"
        place="over"
        onClose={() => setAnchor(null)}
      >
        <Box
          role="group"
          aria-label="Findings"
          sx={{ p: 1, minWidth: 320, maxHeight: 320, overflowY: 'auto' }}
        >
          {findings.map((f) => (
            <Box key={f.words} sx={{ display: 'flex', alignItems: 'center', gap: 2, px: 1, minHeight: 32 }}>
              <Box sx={{ flex: 1 }}>{f.words}</Box>
              <Mend repair={f.repair} onDone={() => setAnchor(null)} />
              <Button
                size="small"
                color="inherit"
                sx={{ minWidth: 0, py: 0 }}
                onClick={() => transport.seekResult(f.atFrame)}
              >
                Show
              </Button>
            </Box>
          ))}
        </Box>
      </Sheet>
    </Box>
  );
}

/** How the loop ends, in words. */
export const loopWords = ({ closes, cut }: LoopVerdict): string =>
  closes ? 'Loop closes' : cut ? 'Loop ends on a cut' : 'Loop skips at its end';

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
      title={`How much the picture changes where the loop begins again, in usual steps of this clip. About 1 is invisible.${treated === undefined ? '' : ' Looks are not the same at the two ends: measured on the clip’s own frames, and with the looks on them.'}`}
      sx={{
        fontFamily: mono,
        fontSize: 12.5,
        ml: -0.75,
        color: plain < 2.5 ? colors.quiet : colors.attention,
      }}
    >
      seam {plain.toFixed(1)}
      {treated !== undefined && `, with looks ${treated.toFixed(1)}`}
    </Box>
  );
}

function Mend({ repair, onDone }: { repair: Finding['repair']; onDone?: () => void }) {
  if (!repair) return null;
  return (
    <Button
      size="small"
      color="inherit"
      onClick={() => {
        act(repair.words.toLowerCase(), (p) => repair.apply(p, freshId));
        onDone?.();
      }}
      sx={{ py: 0, px: 0.5, minWidth: 0, flex: 'none', textDecoration: 'underline', textUnderlineOffset: 3 }}
    >
      {repair.words}
    </Button>
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
