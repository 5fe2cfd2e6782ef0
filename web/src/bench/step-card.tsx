import { withEdge } from '@skipback/core/edit/ordered';
import { useSaying } from '../notices';
import { Box, ButtonBase, Switch } from '@mui/material';
import type { AppliedStep } from '@skipback/core/moves/chain';
import { type ChainStep, type Zone, moveById, valuesOf } from '@skipback/core/moves/registry';
import type { Notice } from '@skipback/core/notice';
import type { CompiledPiece } from '@skipback/core/project/compile';
import type { Place } from '@skipback/core/places/place';
import { segmentText } from '@skipback/core/places/words';
import { removeStep, setZone, switchStep } from '@skipback/core/project/actions';
import type { Rational } from '@skipback/core/time/rational';
import { Fragment, type ReactNode, useState } from 'react';
import { Line } from '../parts/line';
import { NoticeLine } from '../parts/notice-line';
import { SortedCard } from '../parts/sorted-list';
import { PlaceField } from '../parts/place-field';
import { inCount } from '../state/counting';
import { usePlaceWords } from '../state/place-words';
import { setOpen } from '../state/open';
import { toggleCard, useCardOpen } from '../state/cards';
import { act } from '../state/project-store';
import { colors } from '../theme';
import { FieldEditor } from './field-editor';
import { stepBrief } from './step-brief';
import { StepMenu } from './step-menu';

interface Props {
  readonly pieceId: string;
  readonly step: ChainStep;
  readonly notices: readonly Notice[];
  readonly rate: Rational;
  readonly selected: boolean;
  /** What it came to: what came in and out, where it worked. */
  readonly applied: AppliedStep | undefined;
  readonly piece: CompiledPiece;
  /** Result frame at which the piece begins. */
  readonly startFrame: number;
  /** It was taken away. */
  readonly onGone: () => void;
  readonly otherPieces: readonly { readonly id: string; readonly words: string }[];
}

/** One move of the chain: its values, its zone, on or off; dragged by its grip to another place. */
export function StepCard({
  pieceId,
  step,
  notices,
  rate,
  selected,
  applied,
  piece,
  startFrame,
  otherPieces,
  onGone,
}: Props) {
  const move = moveById(step.move);
  const name = move?.name ?? step.move;
  const { zone } = step;
  const say = useSaying();
  const open = useCardOpen('move', step.id);
  const words = usePlaceWords(pieceId);
  const lasts = applied && lengthsIn(applied);
  const limit = (zone: Zone) => act(`limit ${name}`, (p) => setZone(p, pieceId, step.id, zone));
  const zoneEdge = (edge: 'from' | 'to') => (place: Place) => {
    if (!zone || !('from' in zone)) return;
    const other = zone[edge === 'from' ? 'to' : 'from'];
    if (typeof place !== 'number' || typeof other !== 'number') return limit({ ...zone, [edge]: place });
    const { from, to, gaveWay } = withEdge(zone as { from: number; to: number }, edge, place);
    limit({ from, to });
    if (gaveWay)
      say(
        inCount(
          `The part’s ${edge === 'from' ? 'end' : 'beginning'} gave way: it is frame ${from} to ${to} now.`,
          words.telling.first === 1 ? 1 : 0,
        ),
      );
  };
  const remove = () => {
    act(`remove ${name}`, (p) => removeStep(p, pieceId, step.id, piece.steps));
    onGone();
  };
  return (
    <SortedCard
      id={step.id}
      name={name}
      selected={selected}
      accent={colors.forward}
      open={open}
      brief={stepBrief(step, words.telling)}
      on={step.on}
      onToggle={() => toggleCard('move', step.id, open)}
      tools={
        <>
          <Switch
            size="small"
            checked={step.on}
            slotProps={{ input: { 'aria-label': `${name} on` } }}
            onChange={(_, on) =>
              act(`switch ${name} ${on ? 'on' : 'off'}`, (p) => switchStep(p, pieceId, step.id, on))
            }
          />
          <StepMenu {...{ piece, startFrame, step, name, otherPieces, remove }} />
        </>
      }
      said={
        notices.length > 0 && (
          <Box sx={{ pb: 0.75 }}>
            {notices.map((n) => (
              <NoticeLine key={n.code} notice={n} />
            ))}
          </Box>
        )
      }
    >
      <Box sx={{ opacity: step.on ? 1 : 0.55 }}>
        {move?.fields
          .filter((f) => f.when?.(valuesOf(step), step.zone !== undefined) ?? true)
          .map((field) => {
            const editor = <FieldEditor {...{ pieceId, step, name, field, rate, lasts }} />;
            return field.kind === 'text' ? (
              <List
                key={field.key}
                name={name}
                label={field.label}
                summary={field.summary(valuesOf(step)[field.key], words.telling)}
                byHand={field.byHand}
              >
                {editor}
              </List>
            ) : (
              <Line key={field.key} label={field.label}>
                {editor}
              </Line>
            );
          })}
        {zone && 'segment' in zone && (
          <Line label="Only">
            <Box sx={{ fontSize: 13 }}>{segmentText(zone.segment, words.telling)}</Box>
          </Line>
        )}
        {zone && 'from' in zone && (
          <Line label="Only">
            <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'center' }}>
              {(['from', 'to'] as const).map((edge) => (
                <Fragment key={edge}>
                  {edge === 'to' && 'to'}
                  <PlaceField
                    label={`${name}: zone ${edge}`}
                    value={zone[edge]}
                    pieceId={pieceId}
                    width={typeof zone[edge] === 'number' ? 52 : 96}
                    onChange={zoneEdge(edge)}
                  />
                </Fragment>
              ))}
            </Box>
          </Line>
        )}
      </Box>
    </SortedCard>
  );
}

/** How long what a link works on lasts, and what it makes of it. */
function lengthsIn({ incoming, outgoing, zone }: AppliedStep): { before: number; after: number } | undefined {
  if (outgoing === undefined) return undefined;
  const before = zone ? Math.min(zone.to, incoming) - zone.from : incoming;
  return { before, after: outgoing - (incoming - before) };
}

/** A list: in plain words, with the way to where it is edited by hand; typed as text when that is asked for. */
function List({
  name,
  label,
  summary,
  byHand,
  children,
}: {
  name: string;
  label: string;
  summary: string;
  byHand: 'curve' | 'speed' | 'grid' | undefined;
  children: ReactNode;
}) {
  const [typed, setTyped] = useState(false);
  return (
    <Box sx={{ py: 0.25 }}>
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
