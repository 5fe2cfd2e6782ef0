import { withEdge } from '@skipback/core/edit/ordered';
import { useSaying } from '../notices';
import { timeAt } from '../state/time-at';
import { useTip } from '../commands/use-commands';
import { parseAmount } from '@skipback/core/time/amount';
import { Box, ButtonBase, IconButton, Switch, Tooltip } from '@mui/material';
import { type ChainStep, moveById, valuesOf } from '@skipback/core/moves/registry';
import type { Notice } from '@skipback/core/notice';
import { removeStep, setZone, switchStep } from '@skipback/core/project/actions';
import type { Rational } from '@skipback/core/time/rational';
import { LayoutGrid, X } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { NoticeLine } from '../parts/notice-line';
import { SortedCard } from '../parts/sorted-list';
import { ValueField } from '../parts/value-field';
import { setOpen } from '../state/open';
import { select } from '../state/selection';
import { act } from '../state/project-store';
import { colors } from '../theme';
import { FieldEditor } from './field-editor';
import { StepMenu } from './step-menu';

interface Props {
  readonly pieceId: string;
  readonly step: ChainStep;
  readonly notices: readonly Notice[];
  readonly rate: Rational;
  readonly selected: boolean;
  /** Frames of what comes into this move. */
  readonly incoming: number;
  /** It was taken away. */
  readonly onGone: () => void;
  readonly otherPieces: readonly { readonly id: string; readonly words: string }[];
}

/** One move of the chain: its values, its zone, on or off; dragged by its grip to another place. */
export function StepCard({ pieceId, step, notices, rate, selected, incoming, otherPieces, onGone }: Props) {
  const move = moveById(step.move);
  const name = move?.name ?? step.move;
  const { zone } = step;
  const say = useSaying();
  const variations = useTip('variations', 'Variations');
  const zoneEdge = (edge: 'from' | 'to') => (typed: string) => {
    const n = parseAmount(typed, { unit: 'f', least: 0, most: 10_000_000, whole: true, at: timeAt() });
    if (typeof n === 'string') return n;
    const { from, to, gaveWay } = withEdge(zone!, edge, n);
    act(`limit ${name}`, (p) => setZone(p, pieceId, step.id, { ...zone!, from, to }));
    if (gaveWay)
      say(`The part’s ${edge === 'from' ? 'end' : 'beginning'} gave way: it is frame ${from} to ${to} now.`);
    return true;
  };
  const stepZone = (edge: 'from' | 'to') => (by: number) => {
    const next = withEdge(zone!, edge, Math.round(zone![edge]) + by);
    if (!next.gaveWay)
      act(`limit ${name}`, (p) => setZone(p, pieceId, step.id, { ...zone!, from: next.from, to: next.to }));
  };
  return (
    <SortedCard
      id={step.id}
      name={name}
      selected={selected}
      accent={colors.forward}
      onFocus={() => select({ stepId: step.id, selectedLast: 'move' })}
      onPress={() => select({ stepId: step.id, selectedLast: 'move' })}
      head={
        <>
          <Box sx={{ flex: 1, fontWeight: 600, fontSize: 14, opacity: step.on ? 1 : 0.55 }}>{name}</Box>
          <Switch
            size="small"
            checked={step.on}
            slotProps={{ input: { 'aria-label': `${name} on` } }}
            onChange={(_, on) =>
              act(`switch ${name} ${on ? 'on' : 'off'}`, (p) => switchStep(p, pieceId, step.id, on))
            }
          />
          <Tooltip title={variations}>
            <IconButton
              size="small"
              aria-label={`Variations of ${name}`}
              onClick={() => (select({ stepId: step.id }), setOpen({ varies: 'move' }))}
            >
              <LayoutGrid size={14} />
            </IconButton>
          </Tooltip>
          <StepMenu pieceId={pieceId} step={step} name={name} incoming={incoming} otherPieces={otherPieces} />
          <Tooltip title="Take away">
            <IconButton
              size="small"
              aria-label={`Take ${name} away`}
              onClick={() => {
                act(`take ${name} away`, (p) => removeStep(p, pieceId, step.id));
                onGone();
              }}
            >
              <X size={15} />
            </IconButton>
          </Tooltip>
        </>
      }
    >
      {move?.fields
        .filter((f) => f.when?.(valuesOf(step)) ?? true)
        .map((field) =>
          field.kind === 'text' ? (
            <List
              key={field.key}
              name={name}
              label={field.label}
              on={step.on}
              summary={field.summary(valuesOf(step)[field.key])}
              byHand={field.byHand}
            >
              <FieldEditor pieceId={pieceId} step={step} name={name} field={field} rate={rate} />
            </List>
          ) : (
            <Line key={field.key} label={field.label} on={step.on}>
              <FieldEditor pieceId={pieceId} step={step} name={name} field={field} rate={rate} />
            </Line>
          ),
        )}
      {zone && (
        <Line label="Only frames" on={step.on}>
          <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'center' }}>
            <ValueField
              label={`${name}: zone from`}
              text={String(Number(zone.from.toFixed(2)))}
              width={52}
              onEnter={zoneEdge('from')}
              onStep={stepZone('from')}
            />
            to
            <ValueField
              label={`${name}: zone to`}
              text={String(Number(zone.to.toFixed(2)))}
              width={52}
              onEnter={zoneEdge('to')}
              onStep={stepZone('to')}
            />
          </Box>
        </Line>
      )}
      {notices.length > 0 && (
        <Box sx={{ mt: 0.5 }}>
          {notices.map((n) => (
            <NoticeLine key={n.code} notice={n} />
          ))}
        </Box>
      )}
    </SortedCard>
  );
}

/** A list: in plain words, with the way to where it is edited by hand; typed as text when that is asked for. */
function List({
  name,
  label,
  on,
  summary,
  byHand,
  children,
}: {
  name: string;
  label: string;
  on: boolean;
  summary: string;
  byHand: 'curve' | 'speed' | 'grid' | undefined;
  children: ReactNode;
}) {
  const [typed, setTyped] = useState(false);
  return (
    <Box sx={{ opacity: on ? 1 : 0.55, py: 0.25 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1.5 }}>
        <Box sx={{ color: colors.quiet, flex: 1 }}>{label}</Box>
        {byHand && <Way onPress={() => setOpen({ mode: byHand })}>by hand</Way>}
        <Way label={`${name}: ${label} as text`} pressed={typed} onPress={() => setTyped(!typed)}>
          as text
        </Way>
      </Box>
      <Box sx={{ fontSize: 12.5, lineHeight: 1.35 }}>{summary}</Box>
      {typed && children}
    </Box>
  );
}

/** A way to edit a list, as a word. */
function Way({
  label,
  pressed,
  onPress,
  children,
}: {
  label?: string;
  pressed?: boolean;
  onPress: () => void;
  children: string;
}) {
  return (
    <ButtonBase
      aria-label={label}
      aria-pressed={pressed}
      onClick={onPress}
      sx={{ fontSize: 12, px: 0.5, borderRadius: 1, color: colors.ink, textDecoration: 'underline' }}
    >
      {children}
    </ButtonBase>
  );
}

function Line({ label, on, children }: { label: string; on: boolean; children: ReactNode }) {
  return (
    <Box
      sx={{
        display: 'flex',
        justifyContent: 'space-between',
        alignItems: 'center',
        gap: 1,
        minHeight: 27,
        opacity: on ? 1 : 0.55,
      }}
    >
      <Box sx={{ color: colors.quiet, whiteSpace: 'nowrap' }}>{label}</Box>
      {children}
    </Box>
  );
}
