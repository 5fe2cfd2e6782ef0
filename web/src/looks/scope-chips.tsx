import { Box, ButtonBase } from '@mui/material';
import { type Condition, ConditionSchema, type Scope } from '@skipback/core/looks/scope';
import { colors } from '../theme';

interface Chip {
  readonly label: string;
  readonly condition: Condition;
}

/** The usual places, as one press each: those that the song and the marks give only where they are. */
function chipsFor(hasSong: boolean, mark: string | undefined, lasts: number): Chip[] {
  const hit = { before: 0, after: Math.max(6, lasts) };
  const chip = (label: string, condition: object): Chip => ({
    label,
    condition: ConditionSchema.parse(condition),
  });
  return [
    chip('backward', { kind: 'way', way: 'backward' }),
    chip('held', { kind: 'way', way: 'held' }),
    chip('slow', { kind: 'slower', percent: 80 }),
    chip('fast', { kind: 'faster', percent: 150 }),
    chip('turns', { kind: 'turns', ...hit }),
    chip('cuts', { kind: 'joins', ...hit }),
    ...(hasSong
      ? [
          chip('beats', { kind: 'beats', of: 'beats', every: 1, from: 1, ...hit }),
          chip('kicks', { kind: 'accents', band: 'low', ...hit }),
          chip('snares', { kind: 'accents', band: 'mid', ...hit }),
        ]
      : []),
    ...(mark === undefined ? [] : [chip('mark', { kind: 'mark', name: mark, ...hit })]),
  ];
}

/** Whether a condition is what a chip stands for, however many frames it has. */
const isOf = (c: Condition, { condition: d }: Chip): boolean =>
  c.kind === d.kind &&
  !(c.kind !== 'unknown' && c.not) &&
  (!('way' in c) || c.way === (d as typeof c).way) &&
  (c.kind !== 'accents' || c.band === (d as typeof c).band) &&
  (c.kind !== 'mark' || c.name === (d as typeof c).name);

/** The usual places where a look applies in a row: a press puts it there, with Shift there as well. */
export function ScopeChips({
  name,
  scope,
  hasSong,
  mark,
  lasts,
  onChange,
}: {
  readonly name: string;
  readonly scope: Scope;
  readonly hasSong: boolean;
  /** A mark of the clip, if it has one. */
  readonly mark: string | undefined;
  /** Frames that what the look does takes to fall away. */
  readonly lasts: number;
  readonly onChange: (scope: Scope) => void;
}) {
  const { all } = scope;
  const press = (chip: Chip, adds: boolean) => {
    const on = all.some((c) => isOf(c, chip));
    if (!adds)
      return onChange({ ...scope, either: false, all: on && all.length === 1 ? [] : [chip.condition] });
    const next = on ? all.filter((c) => !isOf(c, chip)) : [...all, chip.condition].slice(0, 12);
    return onChange({ ...scope, either: next.length > 1, all: next });
  };
  return (
    <Box
      role="group"
      aria-label={`Usual places of ${name}`}
      sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.375, py: 0.5 }}
    >
      <One label="everywhere" on={all.length === 0} onPress={() => onChange({ ...scope, all: [] })} />
      {chipsFor(hasSong, mark, lasts).map((chip) => (
        <One
          key={chip.label}
          label={chip.label}
          on={all.some((c) => isOf(c, chip))}
          onPress={(adds) => press(chip, adds)}
        />
      ))}
    </Box>
  );
}

function One({
  label,
  on,
  onPress,
}: {
  readonly label: string;
  readonly on: boolean;
  readonly onPress: (adds: boolean) => void;
}) {
  return (
    <ButtonBase
      aria-pressed={on}
      title={`${label}: click for this alone, with Shift for this as well`}
      onClick={(event) => onPress(event.shiftKey)}
      sx={{
        ...{ minHeight: 24, px: 0.875, borderRadius: 1.5, fontSize: 12 },
        color: on ? colors.ink : colors.quiet,
        bgcolor: on ? colors.line : colors.ground,
        '&:hover': { color: colors.ink },
      }}
    >
      {label}
    </ButtonBase>
  );
}
