import { timeAt } from '../state/time-at';
import { parseAmount } from '@skipback/core/time/amount';
import { Box, ButtonBase, Tooltip } from '@mui/material';
import { type ReactNode, memo } from 'react';
import type { CommandId } from '../commands/commands';
import { useCommand, useKeyOf } from '../commands/use-commands';
import { ChoiceRow } from '../parts/choice-row';
import { ValueField } from '../parts/value-field';
import { type WeaveMode, setOpen, useOpen } from '../state/open';
import { setPlaying, usePlaying } from '../state/playing';
import { colors, mono } from '../theme';
import { useViews } from '../state/views';
import type { WeaveModel } from './weave-model';

const MODES: readonly { readonly value: WeaveMode; readonly label: string; readonly title: string }[] = [
  { value: 'threads', label: 'Threads', title: 'From source to result' },
  { value: 'curve', label: 'Curve', title: 'Source time over result time, bent by hand' },
  { value: 'speed', label: 'Speed', title: 'Percent over result time' },
  { value: 'grid', label: 'Steps', title: 'The grid of a Pattern' },
];

/** Over the lower half: its forms, what is selected as numbers, and how it is looked at and played. */
export function WeaveBar({ model, children }: { readonly model: WeaveModel; readonly children: ReactNode }) {
  const mode = useOpen((s) => s.mode);
  const keys = {
    threads: useKeyOf('threads'),
    curve: useKeyOf('curve'),
    speed: useKeyOf('speed'),
    grid: useKeyOf('grid'),
  };
  const modes = MODES.map((m) => ({ ...m, title: `${m.title} (${keys[m.value]})` }));
  return (
    <Box
      role="group"
      aria-label="Lower half"
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 2,
        px: 2,
        height: 34,
        flex: 'none',
        whiteSpace: 'nowrap',
      }}
    >
      <ChoiceRow
        label="Form of the lower half"
        value={mode}
        options={modes}
        onChange={(next) => setOpen({ mode: next })}
      />
      <Box sx={{ flex: 1, minWidth: 0, overflow: 'hidden', display: 'flex', alignItems: 'center', gap: 1.5 }}>
        {children}
      </Box>
      <Looking song={model.project.song !== null} />
    </Box>
  );
}

/** A line of advice in the bar. */
export function BarHint({ text }: { readonly text: string }) {
  return (
    <Box title={text} sx={{ color: colors.quiet, overflow: 'hidden', textOverflow: 'ellipsis' }}>
      {text}
    </Box>
  );
}

/** How the strips are looked at, and how they are played. */
const Looking = memo(function Looking({ song }: { song: boolean }) {
  const beats = usePlaying((s) => s.beats);
  const pace = usePlaying((s) => s.pace);
  const follows = useOpen((s) => s.follows);
  const nearFrames = usePlaying((s) => s.nearFrames);
  const zoomed = useViews((v) => v.source !== null || v.result !== null);
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, flex: 'none' }}>
      {nearFrames !== null && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5, color: colors.quiet, fontFamily: mono }}>
          ±
          <ValueField
            label="Frames around what is selected"
            text={String(nearFrames)}
            width={36}
            hint="Playing keeps to the selected segment or piece, and so many frames around it"
            onEnter={(typed) => {
              const n = parseAmount(typed, { unit: 'f', least: 0, most: 100_000, whole: true, at: timeAt() });
              if (typeof n === 'string') return n;
              setPlaying({ nearFrames: n });
              return true;
            }}
            onStep={(by) => setPlaying({ nearFrames: Math.max(0, nearFrames + by) })}
          />
        </Box>
      )}
      {song && (
        <Press
          on={beats !== null}
          id="bar"
          label="Bars"
          words="Play only the bar of the song under the playhead, to be drawn wider"
        />
      )}
      <Press on={nearFrames !== null} id="near" label="Near" />
      <Press on={pace !== 1} id="half" label="½" words="Half speed" />
      <Press on={follows} id="follow" label="Follow" words="Keep the playhead in sight while playing" />
      <Press on={false} id="fit" label="Fit" disabled={!zoomed} />
    </Box>
  );
});

function Press({
  id,
  on,
  label,
  words,
  disabled = false,
}: {
  id: CommandId;
  on: boolean;
  label: string;
  words?: string;
  disabled?: boolean;
}) {
  const { tip, can, run } = useCommand(id, words);
  return (
    <Tooltip title={tip} describeChild>
      <span>
        <ButtonBase
          aria-pressed={on}
          aria-label={label === '½' ? '½: half speed' : label}
          disabled={disabled || !can}
          onClick={run}
          sx={{
            px: 1,
            py: 0.25,
            borderRadius: 1.5,
            fontSize: 13,
            fontWeight: 500,
            color: on ? colors.ink : colors.quiet,
            bgcolor: on ? colors.raised : 'transparent',
            boxShadow: on ? `inset 0 0 0 1px ${colors.faint}` : 'none',
            '&:hover': { color: colors.ink },
            '&.Mui-disabled': { opacity: 0.45 },
          }}
        >
          {label}
        </ButtonBase>
      </span>
    </Tooltip>
  );
}
