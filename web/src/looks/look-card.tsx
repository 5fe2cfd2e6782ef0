import { placeLookedAt } from '../state/begins';
import { useTip } from '../commands/use-commands';
import { Box, Button, ButtonBase, IconButton, Switch, Tooltip } from '@mui/material';
import type { Facts } from '@skipback/core/looks/facts';
import { treatmentById } from '@skipback/core/looks/registry';
import { shownValues } from '@skipback/core/looks/moments';
import type { LookResult } from '@skipback/core/looks/resolve';
import type { LookField } from '@skipback/core/looks/treatment';
import { scopeWords } from '@skipback/core/looks/words';
import {
  type LookPlace,
  copyLook,
  removeLook,
  setLookScope,
  setLookStrength,
  setLookValue,
  shiftLook,
  switchLook,
} from '@skipback/core/project/look-actions';
import type { CompiledPiece } from '@skipback/core/project/compile';
import type { Rational } from '@skipback/core/time/rational';
import { X } from 'lucide-react';
import { useState } from 'react';
import { MoreMenu } from '../parts/more-menu';
import { NoticeLine } from '../parts/notice-line';
import { SortedCard } from '../parts/sorted-list';
import { freshId } from '../state/ids';
import { editOnPicture, useOnPicture } from '../state/on-picture';
import { setOpen } from '../state/open';
import { usePlaying } from '../state/playing';
import { select } from '../state/selection';
import { usePlaceWords } from '../state/place-words';
import { useTold } from '../state/told';
import { transport } from '../state/transport';
import { act } from '../state/project-store';
import { colors, mono } from '../theme';
import { DrivenNumber, LookFieldEditor } from './look-fields';
import { MatteRows } from './matte-rows';
import { RegionRows } from './region-rows';
import { Row } from './row';
import { ScopeSheet } from './scope-sheet';

interface Props {
  readonly where: LookPlace;
  readonly result: LookResult;
  readonly facts: Facts;
  readonly rate: Rational;
  readonly selected: boolean;
  readonly marks: readonly string[];
  /** The piece it is of; undefined for the whole result. */
  readonly piece: CompiledPiece | undefined;
  /** The result frame at which that begins. */
  readonly pieceStart: number;
  /** It was taken away. */
  readonly onGone: () => void;
  /** Other lists it can be copied to. */
  readonly others: readonly { readonly id: LookPlace; readonly words: string }[];
}

const STRENGTH: Extract<LookField, { kind: 'number' }> = {
  key: 'strength',
  kind: 'number',
  label: 'Strength',
  help: 'How much of it is seen.',
  min: 0,
  max: 100,
  unit: '%',
};

/** One look: where it applies, whether it is on, what it costs; its values when it is selected. */
export function LookCard({
  where,
  result,
  facts,
  rate,
  selected,
  marks,
  others,
  piece,
  pieceStart,
  onGone,
}: Props) {
  const { look, stretches, notices } = result;
  const treatment = treatmentById(look.look);
  const name = treatment?.name ?? look.look;
  const costMs = useTold((s) => s.stats?.costs[look.look]);
  const [scopeAt, setScopeAt] = useState<HTMLElement | null>(null);
  const editing = useOnPicture((s) => s.editing);
  const placing = editing?.kind === 'placing' && editing.lookId === look.id;
  const ground = { facts, stretches, where };
  const { telling } = usePlaceWords(where);
  const values = treatment ? shownValues(treatment, look.values) : {};
  const row = (fields: readonly LookField[]) =>
    fields
      .filter((f) => f.when?.(values) ?? true)
      .map((field) => (
        <Row key={field.key} label={field.label}>
          <LookFieldEditor
            name={name}
            field={field}
            value={values[field.key]}
            ground={ground}
            clipId={piece?.clip.id}
            put={(p, value) => setLookValue(p, where, look.id, field.key, value)}
            onChange={(value) =>
              act(`change ${name}, ${field.label.toLowerCase()}`, (p) =>
                setLookValue(p, where, look.id, field.key, value),
              )
            }
          />
        </Row>
      ));
  const variations = useTip('variations', 'Variations');
  const choose = () => select({ lookId: look.id, selectedLast: 'look' });
  return (
    <SortedCard
      id={look.id}
      name={name}
      label={`Look ${name}`}
      selected={selected}
      accent={colors.good}
      // Not before the press has ended: a card that grows under it would take it away from its button.
      onSelect={choose}
      head={
        <>
          <ButtonBase
            aria-label={`${name}: its values`}
            aria-expanded={selected}
            sx={{
              flex: 1,
              justifyContent: 'flex-start',
              fontWeight: 600,
              fontSize: 14,
              opacity: look.on ? 1 : 0.55,
              borderRadius: 1,
            }}
          >
            {name}
          </ButtonBase>
          {costMs !== undefined && look.on && (
            <Box
              title="Milliseconds a picture, at the size shown"
              sx={{ fontFamily: mono, fontSize: 12, color: colors.quiet }}
            >
              {costMs.toFixed(1)} ms
            </Box>
          )}
          <Switch
            size="small"
            checked={look.on}
            slotProps={{ input: { 'aria-label': `${name} on` } }}
            onChange={(_, on) =>
              act(`switch ${name} ${on ? 'on' : 'off'}`, (p) => switchLook(p, where, look.id, on))
            }
          />
          <MoreMenu
            name={name}
            items={[
              ...(treatment
                ? [[variations, () => (select({ lookId: look.id }), setOpen({ varies: 'look' }))] as const]
                : []),
              ['Duplicate', () => act(`duplicate ${name}`, (p) => copyLook(p, where, look.id, freshId()))],
              [
                'Earlier in the list',
                () => act(`move ${name} earlier`, (p) => shiftLook(p, where, look.id, -1)),
              ],
              ['Later in the list', () => act(`move ${name} later`, (p) => shiftLook(p, where, look.id, 1))],
              ...others.map(
                (other) =>
                  [
                    `Copy to ${other.words}`,
                    () => act(`copy ${name}`, (p) => copyLook(p, where, look.id, freshId(), other.id)),
                  ] as const,
              ),
            ]}
          />
          <Tooltip title="Take away">
            <IconButton
              size="small"
              aria-label={`Take ${name} away`}
              onClick={() => {
                act(`take ${name} away`, (p) => removeLook(p, where, look.id));
                onGone();
              }}
            >
              <X size={15} />
            </IconButton>
          </Tooltip>
        </>
      }
    >
      <ButtonBase
        aria-label={`Where ${name} applies: ${scopeWords(look.scope, telling)}`}
        onClick={(event) => setScopeAt(event.currentTarget)}
        sx={{
          fontSize: 13,
          textAlign: 'left',
          color: colors.quiet,
          borderBottom: `1px dotted ${colors.faint}`,
          '&:hover': { color: colors.ink },
        }}
      >
        {scopeWords(look.scope, telling)}
      </ButtonBase>
      <ScopeSheet
        anchor={scopeAt}
        name={name}
        scope={look.scope}
        rate={rate}
        marks={marks}
        begins={() => (where !== null && piece ? placeLookedAt(piece, pieceStart) : undefined)}
        lasts={Math.ceil(Number(values['fall'] ?? 0))}
        where={where}
        onChange={(scope) => act(`where ${name} applies`, (p) => setLookScope(p, where, look.id, scope))}
        onClose={() => setScopeAt(null)}
      />
      {notices.map((n) => (
        <NoticeLine key={n.code} notice={n} />
      ))}
      {selected && treatment && (
        <Box sx={{ mt: 0.5, opacity: look.on ? 1 : 0.55 }}>
          {/* Without it there is nothing to be placed or weighed. */}
          {row(treatment.fields.filter((f) => f.kind === 'clip'))}
          <Row label="Strength">
            <DrivenNumber
              label={`${name}: Strength`}
              field={STRENGTH}
              value={look.strength}
              ground={ground}
              onChange={(value) =>
                act(`change ${name}, strength`, (p) => setLookStrength(p, where, look.id, value))
              }
            />
          </Row>
          <RegionRows name={name} where={where} look={look} piece={piece} pieceStart={pieceStart} />
          <MatteRows name={name} where={where} look={look} piece={piece} />
          {treatment.placed && (
            <Row label="">
              <Button
                size="small"
                color="inherit"
                aria-pressed={placing}
                onClick={() => {
                  // Looks are seen on the result.
                  if (!placing) transport.seekResult(usePlaying.getState().position);
                  editOnPicture(placing ? null : { kind: 'placing', where, lookId: look.id });
                }}
              >
                {placing ? 'Leave the picture' : 'Place it on the picture'}
              </Button>
            </Row>
          )}
          {row(treatment.fields.filter((f) => f.kind !== 'clip'))}
        </Box>
      )}
    </SortedCard>
  );
}
