import { CommandButton } from '../commands/command-button';
import { useCommand, useKeyOf } from '../commands/use-commands';
import { Box, IconButton } from '@mui/material';
import { beatFrames } from '@skipback/core/beats/music';
import { type CompiledProject, projectMusic } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { percentText } from '@skipback/core/time/entry';
import type { Rational } from '@skipback/core/time/rational';
import { formatTimecode } from '@skipback/core/time/timecode';
import { frame } from '@skipback/core/time/units';
import { Disc3, Pause, Play } from 'lucide-react';
import { useMemo } from 'react';
import { useShallow } from 'zustand/react/shallow';
import { useSeen } from '../picture/seen';
import { TracksMenu } from '../picture/tracks-menu';
import type { ClipState, LoadedClip } from '../state/library';
import { useFirst } from '../state/counting';
import { useOpen } from '../state/open';
import { usePlaying } from '../state/playing';
import { colors, mono } from '../theme';
import { type Ribbon, ribbonAt, ribbonsOf } from '../weave/threads/ribbons';
import { Checks } from './checks';
import { SoundMenu } from './sound-menu';

interface Props {
  readonly compiled: CompiledProject;
  readonly project: Project;
  readonly clips: readonly ClipState[];
  /** The clip on the source strip. */
  readonly clip: LoadedClip | undefined;
}

/** The line between picture and weave: where the playhead is, how fast, how long, and whether it is sound. */
export function Readouts({ project, compiled, clips, clip }: Props) {
  const seen = useSeen(project, compiled, clips);
  const { rate } = project;
  const ribbons = useMemo(() => ribbonsOf(compiled), [compiled]);
  const { totalFrames } = compiled;
  const music = useMemo(() => projectMusic(project), [project]);
  const beats = music ? beatFrames(music) : 0;
  return (
    <Box
      role="group"
      aria-label="Readouts"
      sx={{
        display: 'flex',
        alignItems: 'center',
        columnGap: 1.5,
        '@container (max-width: 680px)': { flexWrap: 'wrap' },
        px: 1.5,
        minHeight: 40,
        borderBottom: `1px solid ${colors.line}`,
        whiteSpace: 'nowrap',
        flex: 'none',
        '& > *': { flex: 'none' },
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', ml: -1 }}>
        <PlayButton />
        <ByHand />
        <SoundMenu project={project} compiled={compiled} />
        <TracksMenu
          project={project}
          loaded={clip}
          frame={seen && seen.loaded.clip.id === clip?.clip.id ? seen.frame : undefined}
        />
      </Box>
      <Playhead ribbons={ribbons} rate={rate} totalFrames={totalFrames} />
      <Box sx={{ '&&': { flex: '1 1 90px' }, minWidth: 0, display: 'flex', justifyContent: 'flex-end' }}>
        {totalFrames > 0 && <Checks compiled={compiled} clips={clips} />}
      </Box>
      <Box sx={{ fontFamily: mono, fontSize: 14 }} data-testid="length">
        <Box component="span" sx={{ fontWeight: 600 }}>
          {totalFrames} f
        </Box>
        <Box component="span" sx={{ color: colors.quiet }}>
          {' '}
          = {shortTime(formatTimecode(frame(totalFrames), rate))}
          {beats > 0 && ` = ${Number((totalFrames / beats).toFixed(1))} b`}
        </Box>
      </Box>
    </Box>
  );
}

/** A length without the hours and minutes that it does not have. */
const shortTime = (timecode: string): string => timecode.replace(/^(00[:;]){1,2}/, '');

function PlayButton() {
  const playing = usePlaying((s) => s.step !== 0);
  const { tip, can, run } = useCommand('play', playing ? 'Stop' : 'Play');
  return (
    <IconButton
      aria-label={playing ? 'Stop' : 'Play'}
      title={tip}
      disabled={!can}
      onClick={run}
      sx={{ color: colors.ink, p: 0.875 }}
    >
      {playing ? <Pause size={20} fill="currentColor" /> : <Play size={20} fill="currentColor" />}
    </IconButton>
  );
}

/** Playing by hand stands beside Play. */
function ByHand() {
  const byHand = useOpen((s) => s.byHand);
  return (
    <CommandButton id="hand" pressed={byHand}>
      <Disc3 size={18} />
    </CommandButton>
  );
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
  const key = useKeyOf('swap');
  const first = useFirst();
  const { showing, position, sourceFrame, step } = usePlaying(
    useShallow(({ showing, position, sourceFrame, step }) => ({ showing, position, sourceFrame, step })),
  );
  if (showing === 'source')
    return (
      <>
        <Box sx={{ fontFamily: mono, fontSize: 20 }} data-testid="source-frame">
          frame {sourceFrame + first}
        </Box>
        <Box sx={{ color: colors.quiet }}>of the source. {key} looks at the result.</Box>
      </>
    );
  const ribbon = totalFrames > 0 ? ribbonAt(ribbons, position) : undefined;
  const speed = ribbon?.speedAtResult(position + 0.5) ?? 0;
  const word = !ribbon ? '' : ribbon.kind === 'hold' ? 'hold' : speed < 0 ? 'backward' : 'forward';
  const color = word === 'backward' ? colors.backward : word === 'forward' ? colors.forward : colors.ink;
  return (
    <>
      <Box sx={{ fontFamily: mono, fontSize: 18, letterSpacing: '-0.02em' }} data-testid="timecode">
        {formatTimecode(frame(position), rate)}
      </Box>
      <Box sx={{ fontFamily: mono, color: colors.quiet }}>
        frame {totalFrames > 0 ? position + first : 0} of {totalFrames}
      </Box>
      <Box sx={{ color, fontSize: 13, minWidth: 92 }} data-testid="speed">
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
