import { Box, IconButton, Switch, Tooltip } from '@mui/material';
import type { Field } from '@skipback/core/moves/move';
import { type ChainStep, moveById } from '@skipback/core/moves/registry';
import type { Notice } from '@skipback/core/notice';
import { removeStep, setStepValue, shiftStep, switchStep } from '@skipback/core/project/actions';
import { parseFrames, parsePercent, percentText } from '@skipback/core/time/entry';
import { type Rational, toNumber } from '@skipback/core/time/rational';
import { ChevronDown, ChevronUp, X } from 'lucide-react';
import { ChoiceField } from '../parts/choice-field';
import { NoticeLine } from '../parts/notice-line';
import { ValueField } from '../parts/value-field';
import { setPlayback } from '../state/playback';
import { act } from '../state/project-store';
import { colors } from '../theme';

type Values = Record<string, unknown>;

interface Props {
  readonly pieceId: string;
  readonly step: ChainStep;
  readonly notices: readonly Notice[];
  readonly rate: Rational;
  readonly selected: boolean;
  readonly first: boolean;
  readonly last: boolean;
}

/** One move of the chain: its values, on or off, earlier or later, away. */
export function StepCard({ pieceId, step, notices, rate, selected, first, last }: Props) {
  const move = moveById(step.move);
  const name = move?.name ?? step.move;
  return (
    <Box
      role="group"
      aria-label={name}
      onFocus={() => setPlayback({ stepId: step.id })}
      onPointerDown={() => setPlayback({ stepId: step.id })}
      sx={{
        p: 1.25,
        pt: 0.75,
        borderRadius: 2,
        bgcolor: selected ? colors.raised : colors.panel,
        boxShadow: selected ? `inset 3px 0 0 ${colors.forward}` : 'none',
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.25 }}>
        <Box sx={{ flex: 1, fontWeight: 600, fontSize: 14, opacity: step.on ? 1 : 0.55 }}>{name}</Box>
        <Tooltip title="Earlier in the chain">
          <span>
            <IconButton
              size="small"
              disabled={first}
              aria-label={`Move ${name} earlier`}
              onClick={() => act(`move ${name} earlier`, (p) => shiftStep(p, pieceId, step.id, -1))}
            >
              <ChevronUp size={15} />
            </IconButton>
          </span>
        </Tooltip>
        <Tooltip title="Later in the chain">
          <span>
            <IconButton
              size="small"
              disabled={last}
              aria-label={`Move ${name} later`}
              onClick={() => act(`move ${name} later`, (p) => shiftStep(p, pieceId, step.id, 1))}
            >
              <ChevronDown size={15} />
            </IconButton>
          </span>
        </Tooltip>
        <Switch
          size="small"
          checked={step.on}
          slotProps={{ input: { 'aria-label': `${name} on` } }}
          onChange={(_, on) =>
            act(`switch ${name} ${on ? 'on' : 'off'}`, (p) => switchStep(p, pieceId, step.id, on))
          }
        />
        <Tooltip title="Take away">
          <IconButton
            size="small"
            aria-label={`Take ${name} away`}
            onClick={() => act(`take ${name} away`, (p) => removeStep(p, pieceId, step.id))}
          >
            <X size={15} />
          </IconButton>
        </Tooltip>
      </Box>
      {move?.fields
        .filter((f) => f.when?.(step.values) ?? true)
        .map((field) => (
          <Box
            key={field.key}
            sx={{
              display: 'flex',
              justifyContent: 'space-between',
              alignItems: 'center',
              minHeight: 28,
              opacity: step.on ? 1 : 0.55,
            }}
          >
            <Box sx={{ color: colors.quiet }}>{field.label}</Box>
            <FieldEditor pieceId={pieceId} step={step} name={name} field={field} rate={rate} />
          </Box>
        ))}
      {notices.length > 0 && (
        <Box sx={{ mt: 0.5 }}>
          {notices.map((n) => (
            <NoticeLine key={n.code} notice={n} />
          ))}
        </Box>
      )}
    </Box>
  );
}

function FieldEditor({
  pieceId,
  step,
  name,
  field,
  rate,
}: {
  pieceId: string;
  step: ChainStep;
  name: string;
  field: Field<Values>;
  rate: Rational;
}) {
  const value = step.values[field.key];
  const label = `${name}: ${field.label}`;
  const set = (next: unknown) =>
    act(`change ${name}, ${field.label.toLowerCase()}`, (p) =>
      setStepValue(p, pieceId, step.id, field.key, next),
    );
  if (field.kind === 'choice')
    return (
      <ChoiceField
        label={label}
        value={String(value)}
        options={field.options}
        onChange={set}
        hint={field.help}
      />
    );
  const clamp = (n: number) => Math.min(field.max, Math.max(field.min, n));
  const read = {
    count: (t: string) => (/^\d+$/.test(t.trim()) ? Number(t) : undefined),
    percent: parsePercent,
    frames: (t: string) => parseFrames(t, rate),
  }[field.kind];
  const text = {
    count: String,
    percent: percentText,
    frames: (n: number) => `${n} f  ${Number((n / toNumber(rate)).toFixed(2))} s`,
  }[field.kind];
  return (
    <ValueField
      label={label}
      text={text(Number(value))}
      hint={field.help}
      width={field.kind === 'frames' ? 128 : 84}
      onEnter={(typed) => {
        const n = read(field.kind === 'frames' ? typed.replace(/\s{2}.*$/, '') : typed);
        if (n === undefined || n < field.min || n > field.max) return false;
        set(n);
        return true;
      }}
      onStep={(by) => set(clamp(Math.round(Number(value) + by * (field.kind === 'percent' ? 5 : 1))))}
    />
  );
}
