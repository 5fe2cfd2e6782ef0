import { timeAt } from '../state/time-at';
import { parseAmount } from '@skipback/core/time/amount';
import { Box, IconButton, Tooltip } from '@mui/material';
import { Crosshair, Maximize2, Repeat1, ScanLine, Snail } from 'lucide-react';
import { type ReactNode, createContext, memo, useContext } from 'react';
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
  { value: 'curve', label: 'Graph', title: 'Source time over result time, bent by hand' },
  { value: 'speed', label: 'Speeds', title: 'Percent over result time' },
  { value: 'grid', label: 'Grid', title: 'The grid of a Pattern' },
];

/** The project's clips, which stand in the weave's bar. */
export const ClipsRow = createContext<ReactNode>(null);

/** Over the weave: the clips, what is selected as numbers, the weave's forms, and how it is looked at. */
export function WeaveBar({
  model,
  ownRow = false,
  children,
}: {
  readonly model: WeaveModel;
  /** What is in it has a row of its own: there is much of it. */
  readonly ownRow?: boolean;
  readonly children: ReactNode;
}) {
  const mode = useOpen((s) => s.mode);
  const clips = useContext(ClipsRow);
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
      aria-label="Over the weave"
      sx={{
        display: 'flex',
        alignItems: 'center',
        rowGap: 0.25,
        ...(ownRow && { flexWrap: 'wrap' }),
        '@container (max-width: 680px)': { flexWrap: 'wrap' },
        columnGap: 1,
        px: 1.5,
        minHeight: 38,
        flex: 'none',
        whiteSpace: 'nowrap',
      }}
    >
      <Box
        sx={{
          flex: '1 1 120px',
          // The way in, and one clip.
          minWidth: 168,
          overflow: 'hidden',
          '&:has(+ * [data-hint])': { flex: '0 1 auto' },
        }}
      >
        {clips}
      </Box>
      <Box
        data-part="bar"
        sx={{
          ...{ flex: '0 1 auto', minWidth: 0, maxWidth: '100%', overflowX: 'auto', scrollbarWidth: 'none' },
          ...{ display: 'flex', alignItems: 'center', gap: 1.5, '&:empty': { display: 'none' } },
          ...(ownRow && { flex: '1 0 100%', order: 1, minHeight: 34 }),
          // Advice has what the clips leave.
          '&:has([data-hint])': { flex: '1 1 0', containerType: 'inline-size' },
          '@container (max-width: 160px)': { '& [data-hint]': { display: 'none' } },
        }}
      >
        {children}
      </Box>
      <ChoiceRow label="View" value={mode} options={modes} onChange={(next) => setOpen({ mode: next })} />
      <Looking song={model.project.song !== null} />
    </Box>
  );
}

/** A line of advice in the bar; where nothing stands with it, it makes room for the clips. */
export function BarHint({ text, alone = false }: { readonly text: string; readonly alone?: boolean }) {
  return (
    <Box
      title={text}
      {...(alone && { 'data-hint': '' })}
      sx={{ color: colors.quiet, minWidth: 0, overflow: 'hidden', textOverflow: 'ellipsis' }}
    >
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
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.25, flex: 'none' }}>
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
      {song && <Press on={beats !== null} id="bar" label="Loop the bar" icon={<Repeat1 size={15} />} />}
      <Press on={nearFrames !== null} id="near" label="Loop the selection" icon={<ScanLine size={15} />} />
      {pace !== 1 && <Press on id="half" label="Half speed" icon={<Snail size={15} />} />}
      <Press on={follows} id="follow" label="Follow the playhead" icon={<Crosshair size={15} />} />
      <Press on={false} id="fit" label="Zoom to all" disabled={!zoomed} icon={<Maximize2 size={15} />} />
    </Box>
  );
});

function Press({
  id,
  on,
  label,
  icon,
  disabled = false,
}: {
  id: CommandId;
  on: boolean;
  label: string;
  icon: ReactNode;
  disabled?: boolean;
}) {
  const { tip, can, run } = useCommand(id, label);
  return (
    <Tooltip title={tip} describeChild>
      <span>
        <IconButton
          size="small"
          aria-pressed={on}
          aria-label={label}
          disabled={disabled || !can}
          onClick={run}
          sx={{
            borderRadius: 1.5,
            color: on ? colors.ink : colors.quiet,
            bgcolor: on ? colors.raised : 'transparent',
            boxShadow: on ? `inset 0 0 0 1px ${colors.faint}` : 'none',
            '&:hover': { color: colors.ink },
          }}
        >
          {icon}
        </IconButton>
      </span>
    </Tooltip>
  );
}
