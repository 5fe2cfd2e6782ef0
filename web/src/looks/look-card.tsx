import { placeLookedAt } from '../state/begins';
import { useTip } from '../commands/use-commands';
import { Box, Button, ButtonBase, Switch } from '@mui/material';
import type { Driver } from '@skipback/core/looks/driver';
import type { Facts } from '@skipback/core/looks/facts';
import { treatmentById } from '@skipback/core/looks/registry';
import { shownValues } from '@skipback/core/looks/moments';
import type { LookResult } from '@skipback/core/looks/resolve';
import type { LookField } from '@skipback/core/looks/treatment';
import type { Scope } from '@skipback/core/looks/scope';
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
import { useState } from 'react';
import { Line } from '../parts/line';
import { CopyTo, copyEntries } from '../parts/copy-to';
import { MoreMenu } from '../parts/more-menu';
import { NoticeLine } from '../parts/notice-line';
import { SortedCard } from '../parts/sorted-list';
import { toggleCard, useCardOpen } from '../state/cards';
import { freshId } from '../state/ids';
import { toggleInside, useInside } from '../state/inside';
import { editOnPicture, useOnPicture } from '../state/on-picture';
import { setOpen, useOpen } from '../state/open';
import { usePlaying } from '../state/playing';
import { select } from '../state/selection';
import { usePlaceWords } from '../state/place-words';
import { useTold } from '../state/told';
import { transport } from '../state/transport';
import { act } from '../state/project-store';
import { colors, mono } from '../theme';
import { DriverPanel } from './driver-panel';
import { DrivenNumber, LookFieldEditor } from './look-fields';
import { MatteRows } from './matte-rows';
import { RegionRows } from './region-rows';
import { ScopeChips } from './scope-chips';
import { ScopePanel } from './scope-panel';

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
  const open = useCardOpen('look', look.id);
  const inside = useInside(look.id);
  const editing = useOnPicture((s) => s.editing);
  const placing = editing?.kind === 'placing' && editing.lookId === look.id;
  const isFresh = useOpen((s) => s.fresh === look.id);
  const ground = { facts, stretches, where, card: look.id };
  const { telling } = usePlaceWords(where);
  const values = treatment ? shownValues(treatment, look.values) : {};
  const change = (field: LookField) => (value: unknown) =>
    act(`change ${name}, ${field.label.toLowerCase()}`, (p) =>
      setLookValue(p, where, look.id, field.key, value),
    );
  const row = (fields: readonly LookField[]) =>
    fields
      .filter((f) => f.when?.(values) ?? true)
      .map((field) => (
        <Line key={field.key} label={field.label}>
          <LookFieldEditor
            name={name}
            field={field}
            value={values[field.key]}
            ground={ground}
            clipId={piece?.clip.id}
            isFresh={isFresh}
            put={(p, value) => setLookValue(p, where, look.id, field.key, value)}
            onChange={change(field)}
          />
        </Line>
      ));
  const variations = useTip('variations', 'Variations');
  const words = scopeWords(look.scope, telling);
  const lasts = Math.ceil(Number(values['fall'] ?? 0));
  const changeScope = (scope: Scope) =>
    act(`where ${name} applies`, (p) => setLookScope(p, where, look.id, scope));
  const changeStrength = (value: number | Driver) =>
    act(`change ${name}, strength`, (p) => setLookStrength(p, where, look.id, value));
  const driven = [STRENGTH, ...(treatment?.fields ?? [])].find((f) => f.key === inside);
  const copy = (to: LookPlace) => act(`copy ${name}`, (p) => copyLook(p, where, look.id, freshId(), to));
  const [asks, setAsks] = useState(false);
  const remove = () => {
    act(`remove ${name}`, (p) => removeLook(p, where, look.id));
    onGone();
  };
  return (
    <SortedCard
      id={look.id}
      name={name}
      label={`Look ${name}`}
      selected={selected}
      accent={colors.good}
      open={open}
      brief={words}
      on={look.on}
      onToggle={() => toggleCard('look', look.id, open)}
      tools={
        <>
          {open && costMs !== undefined && look.on && (
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
                ? [
                    [
                      variations,
                      () => (select({ lookId: look.id, selectedLast: 'look' }), setOpen({ varies: 'look' })),
                    ] as const,
                  ]
                : []),
              ['Duplicate', () => act(`duplicate ${name}`, (p) => copyLook(p, where, look.id, freshId()))],
              [
                'Earlier in the list',
                () => act(`move ${name} earlier`, (p) => shiftLook(p, where, look.id, -1)),
              ],
              ['Later in the list', () => act(`move ${name} later`, (p) => shiftLook(p, where, look.id, 1))],
              ['Remove', remove],
              ...copyEntries(others, copy, () => setAsks(true)),
            ]}
          />
          <CopyTo name={name} open={asks} targets={others} onCopy={copy} onClose={() => setAsks(false)} />
        </>
      }
      said={notices.map((n) => (
        <NoticeLine key={n.code} notice={n} />
      ))}
    >
      {inside === 'scope' ? (
        <ScopePanel
          card={look.id}
          name={name}
          scope={look.scope}
          rate={rate}
          marks={marks}
          begins={() => (where !== null && piece ? placeLookedAt(piece, pieceStart) : undefined)}
          lasts={lasts}
          where={where}
          onChange={changeScope}
        />
      ) : driven && driven.kind === 'number' ? (
        <DriverPanel
          what={driven.key}
          label={`${name}: ${driven.label}`}
          value={driven === STRENGTH ? look.strength : (values[driven.key] as number | Driver)}
          limits={driven}
          ground={ground}
          onChange={driven === STRENGTH ? changeStrength : change(driven)}
        />
      ) : (
        <>
          <ButtonBase
            aria-label={`Where ${name} applies: ${words}`}
            data-opens={`${look.id} scope`}
            onClick={() => toggleInside(look.id, 'scope')}
            sx={{
              ...{ fontSize: 13, textAlign: 'left', minHeight: 24, color: colors.quiet },
              borderBottom: `1px dotted ${colors.faint}`,
              '&:hover': { color: colors.ink },
            }}
          >
            {words}
          </ButtonBase>
          <ScopeChips
            name={name}
            scope={look.scope}
            hasSong={facts.music !== undefined}
            mark={marks[0]}
            lasts={lasts}
            onChange={changeScope}
          />
          {treatment && (
            <Box sx={{ mt: 0.25, opacity: look.on ? 1 : 0.55 }}>
              {/* Without it there is nothing to be placed or weighed. */}
              {row(treatment.fields.filter((f) => f.kind === 'clip'))}
              <Line label="Strength">
                <DrivenNumber
                  label={`${name}: Strength`}
                  field={STRENGTH}
                  value={look.strength}
                  ground={ground}
                  onChange={changeStrength}
                />
              </Line>
              <RegionRows name={name} where={where} look={look} piece={piece} pieceStart={pieceStart} />
              <MatteRows name={name} where={where} look={look} piece={piece} />
              {treatment.placed && (
                <Line label="">
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
                </Line>
              )}
              {row(treatment.fields.filter((f) => f.kind !== 'clip'))}
            </Box>
          )}
        </>
      )}
    </SortedCard>
  );
}
