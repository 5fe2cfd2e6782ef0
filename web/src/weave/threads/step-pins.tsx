import { partOf, stepGround } from '@skipback/core/moves/chain';
import { moveById, valuesOf } from '@skipback/core/moves/registry';
import { later } from '@skipback/core/places/moved';
import { type Place, inClip } from '@skipback/core/places/place';
import { sourceOf } from '@skipback/core/places/resolve';
import { markText, placeText } from '@skipback/core/places/words';
import { setStepValue, setZone } from '@skipback/core/project/actions';
import { useMemo } from 'react';
import { usePlaceWords } from '../../state/place-words';
import { act } from '../../state/project-store';
import { useSelection } from '../../state/selection';
import { PlacePin } from '../place-pin';
import { targetsOn } from '../place-targets';
import type { Scale } from '../scales';
import type { WeaveLayout } from '../scene';
import type { WeaveModel } from '../weave-model';

interface Pin {
  readonly key: string;
  readonly label: string;
  readonly place: Place;
  /** Where it lies in what comes in, and in the piece's result. */
  readonly at: number;
  readonly seen: number;
  readonly inside: boolean;
  change(place: Place): void;
}

/** The places of the selected move on the result strip: where it happens, where it begins and ends to work. */
export function StepPins({
  model,
  resultX,
  layout,
}: {
  readonly model: WeaveModel;
  readonly resultX: Scale;
  readonly layout: WeaveLayout;
}) {
  const stepId = useSelection((s) => s.stepId);
  const { piece, pieceStart } = model;
  const { telling } = usePlaceWords(piece?.piece.id ?? null);
  const pins = useMemo((): Pin[] => {
    const place = piece?.piece.chain.findIndex((s) => s.id === stepId) ?? -1;
    const step = piece?.piece.chain[place];
    const applied = piece?.steps[place];
    const move = step && moveById(step.move);
    if (!piece || !step?.on || !move || !applied) return [];
    const pieceId = piece.piece.id;
    const values = valuesOf(step);
    const { zone } = step;
    const parts = partOf(piece.path, step.id);
    const edges =
      zone && 'from' in zone && applied.zone && parts
        ? (['from', 'to'] as const).map((edge): Pin => ({
            key: `zone ${edge}`,
            label: `${move.name}, ${edge}`,
            place: zone[edge],
            at: applied.zone![edge],
            seen: parts[edge],
            inside: false,
            change: (next) =>
              act(`limit ${move.name}`, (p) => setZone(p, pieceId, step.id, { ...zone, [edge]: next })),
          }))
        : [];
    const fields = move.fields.flatMap((field): Pin[] => {
      const at = applied.places?.[field.key];
      const begins = partOf(piece.path, step.id, 1)?.from;
      if (field.kind !== 'place' || !(field.when?.(values, zone !== undefined) ?? true) || at === undefined)
        return [];
      return [
        {
          key: field.key,
          label: `${move.name}, ${field.label.toLowerCase()}`,
          place: values[field.key] as Place,
          at,
          seen: begins ?? at + (applied.zone?.from ?? 0),
          inside: true,
          change: (next) =>
            act(`change ${move.name}, ${field.label.toLowerCase()}`, (p) =>
              setStepValue(p, pieceId, step.id, field.key, next),
            ),
        },
      ];
    });
    return [...edges, ...fields];
  }, [piece, stepId]);
  if (!piece || !stepId) return null;
  return pins.map(({ key, label, place, at, seen, inside, change }) => (
    <PlacePin
      key={key}
      label={label}
      words={placeText(place, telling)}
      place={place}
      at={at}
      toX={(to) => resultX(pieceStart + seen + to - at)}
      top={layout.resultTop - 4}
      height={layout.resultBottom - layout.resultTop + 8}
      width={layout.width}
      targets={() => {
        const grounds = stepGround(piece.base, piece.piece.chain, stepId, {
          ...{ table: piece.table, music: piece.music, marks: piece.clip.marks },
        });
        return grounds ? targetsOn(inside ? grounds.inside : grounds.incoming) : [];
      }}
      onChange={change}
      later={later}
    />
  ));
}

/** Frames of the clip that the selected move names, on the source strip: what it lands, where it runs back to. */
export function SourcePins({
  model,
  sourceX,
  layout,
}: {
  readonly model: WeaveModel;
  readonly sourceX: Scale;
  readonly layout: WeaveLayout;
}) {
  const stepId = useSelection((s) => s.stepId);
  const { piece, clipId } = model;
  const { telling } = usePlaceWords(piece?.piece.id ?? null);
  const step = piece?.piece.chain.find((s) => s.id === stepId);
  const move = step && moveById(step.move);
  if (!piece || !step?.on || !move || piece.clip.id !== clipId) return null;
  const values = valuesOf(step);
  const { marks } = piece.clip;
  return move.fields.map((field) => {
    const value = values[field.key];
    if (field.kind !== 'source' || !(field.when?.(values, step.zone !== undefined) ?? true)) return null;
    const at = inClip(value) ? sourceOf(value, { marks, table: piece.table }) : Number(value);
    if (at === undefined) return null;
    return (
      <PlacePin
        key={field.key}
        label={`${move.name}, ${field.label.toLowerCase()}`}
        words={inClip(value) ? placeText(value, telling) : `source ${at + telling.first}`}
        place={inClip(value) ? value : at}
        at={at}
        toX={(to) => sourceX(to + 0.5)}
        top={layout.rulerBottom}
        height={layout.sourceBottom - layout.rulerBottom}
        width={layout.width}
        targets={() => marks.map((m) => ({ value: m.frame, words: markText(m.name), place: { mark: m.id } }))}
        onChange={(next) =>
          act(`change ${move.name}, ${field.label.toLowerCase()}`, (p) =>
            setStepValue(p, piece.piece.id, step.id, field.key, next),
          )
        }
        later={later}
      />
    );
  });
}
