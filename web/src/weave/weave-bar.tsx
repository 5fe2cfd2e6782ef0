import { parseAmount } from '@skipback/core/time/amount';
import { Box, ButtonBase, Tooltip } from '@mui/material';
import { type ReactNode, memo } from 'react';
import { ChoiceRow } from '../parts/choice-row';
import { ValueField } from '../parts/value-field';
import { type WeaveMode, setOpen, useOpen } from '../state/open';
import { NEAR_FRAMES, setPlaying, usePlaying } from '../state/playing';
import { toggleBars } from '../state/bar-loop';
import { useProjectStore } from '../state/project-store';
import { transport } from '../state/transport';
import { colors, mono } from '../theme';
import { fitViews, useViews } from '../state/views';
import type { WeaveModel } from './weave-model';

const MODES: readonly { readonly value: WeaveMode; readonly label: string; readonly title: string }[] = [
  { value: 'threads', label: 'Threads', title: 'From source to result (1)' },
  { value: 'curve', label: 'Curve', title: 'Source time over result time, bent by hand (2)' },
  { value: 'speed', label: 'Speed', title: 'Percent over result time (3)' },
  { value: 'grid', label: 'Steps', title: 'The grid of a Pattern (4)' },
];

/** Over the lower half: its forms, what is selected as numbers, and how it is looked at and played. */
export function WeaveBar({ model, children }: { readonly model: WeaveModel; readonly children: ReactNode }) {
  const mode = useOpen((s) => s.mode);
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
        options={MODES}
        onChange={(next) => setOpen({ mode: next })}
      />
      <Box sx={{ flex: 1, minWidth: 0, overflow: 'hidden', display: 'flex', alignItems: 'center', gap: 1.5 }}>
        {children}
      </Box>
      <Looking empty={model.totalFrames === 0} song={model.project.song !== null} />
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
const Looking = memo(function Looking({ empty, song }: { empty: boolean; song: boolean }) {
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
              const n = parseAmount(typed, { unit: 'f', least: 0, most: 100_000, whole: true });
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
          label="Bars"
          words="Play only the bar of the song under the playhead, to be drawn wider (B)"
          disabled={empty}
          onPress={() => {
            const { project } = useProjectStore.getState();
            if (project) toggleBars(project, 1);
          }}
        />
      )}
      <Press
        on={nearFrames !== null}
        label="Near"
        words="Play only the neighbourhood of what is selected (N)"
        disabled={empty}
        onPress={() => setPlaying({ nearFrames: nearFrames === null ? NEAR_FRAMES : null })}
      />
      <Press
        on={pace !== 1}
        label="½"
        words="Half speed (Shift Space)"
        onPress={() => transport.togglePace()}
      />
      <Press
        on={follows}
        label="Follow"
        words="Keep the playhead in sight while playing (F)"
        onPress={() => setOpen({ follows: !follows })}
      />
      <Press on={false} label="Fit" words="See both strips whole (0)" disabled={!zoomed} onPress={fitViews} />
    </Box>
  );
});

function Press({
  on,
  label,
  words,
  onPress,
  disabled = false,
}: {
  on: boolean;
  label: string;
  words: string;
  onPress: () => void;
  disabled?: boolean;
}) {
  return (
    <Tooltip title={words}>
      <span>
        <ButtonBase
          aria-pressed={on}
          aria-label={label === '½' ? 'Half speed' : label}
          disabled={disabled}
          onClick={onPress}
          sx={{
            px: 1,
            py: 0.25,
            borderRadius: 1.5,
            fontSize: 13,
            fontWeight: 500,
            color: on ? colors.ink : colors.quiet,
            bgcolor: on ? colors.raised : 'transparent',
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
