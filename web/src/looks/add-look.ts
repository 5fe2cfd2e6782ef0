import { factsOfPiece } from '@skipback/core/looks/facts';
import type { Scope } from '@skipback/core/looks/scope';
import { scopeFor } from '@skipback/core/looks/starts';
import type { AnyTreatment } from '@skipback/core/looks/treatment';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { type LookPlace, addLook } from '@skipback/core/project/look-actions';
import { regionOn } from '@skipback/core/regions/on-track';
import { darkOnLight } from '../state/clip-light';
import { focusFirstValue, openCard } from '../state/cards';
import { freshId } from '../state/ids';
import { editOnPicture } from '../state/on-picture';
import { setOpen } from '../state/open';
import { act, useProjectStore } from '../state/project-store';
import { frameOf, middleRegion } from './region-start';

/** Where a look begins on a piece: where it belongs, if there is such and other. */
export function beginsWith(
  { startsWhere, defaults }: AnyTreatment,
  piece: CompiledPiece,
): { readonly scope?: Scope } {
  const lasts = Number((defaults as { readonly fall?: unknown }).fall ?? 0);
  const scope = startsWhere && scopeFor(startsWhere, factsOfPiece(piece, false), Math.ceil(lasts));
  return scope ? { scope } : {};
}

/** What it brings in at first: the clip that came in last, where that is another one. */
function broughtFirst(treatment: AnyTreatment, piece: CompiledPiece | undefined): Record<string, unknown> {
  const field = treatment.fields.find((f) => f.kind === 'clip' && !f.own);
  const other = useProjectStore.getState().project?.clips.findLast((c) => c.id !== piece?.clip.id);
  return field && other ? { values: { ...treatment.defaults, [field.key]: other.id } } : {};
}

/** The region it begins with: on what is tracked, or in the middle; a rectangle for what is put through one. */
function regionFirst(treatment: AnyTreatment, piece: CompiledPiece | undefined, pieceStart: number) {
  if (!treatment.outside && !treatment.through) return {};
  const where = piece ? piece.piece.id : null;
  const track = piece?.clip.tracks.at(-1);
  if (treatment.through) return { region: middleRegion('rectangle', { piece, pieceStart, where }) };
  return {
    region:
      piece && track
        ? regionOn(track, frameOf(piece, pieceStart), piece.sizes?.picture.height ?? 720)
        : middleRegion('ellipse', { piece, pieceStart, where }),
  };
}

/** Values that suit its picture: what moves is to be kept whichever its ground. */
function suited(treatment: AnyTreatment, piece: CompiledPiece | undefined): Record<string, unknown> {
  const { onLight, defaults } = treatment;
  const suits = onLight && piece && darkOnLight(piece.clip.mediaId);
  return suits ? { values: { ...defaults, ...onLight } } : {};
}

/** Adds a look to a piece, or to the whole result, where it belongs there; opens its card. */
export function addLookTo(
  treatment: AnyTreatment,
  of: { readonly piece: CompiledPiece; readonly startFrame: number } | undefined,
  where: LookPlace,
): void {
  const id = freshId();
  const piece = where === null ? undefined : of?.piece;
  const given = {
    ...(piece && beginsWith(treatment, piece)),
    ...broughtFirst(treatment, piece),
    ...suited(treatment, piece),
    ...regionFirst(treatment, piece, of?.startFrame ?? 0),
  };
  act(`add ${treatment.name}`, (p) => addLook(p, where, { id, look: treatment.id, given }));
  openCard('look', id);
  // It is put in place on the picture next.
  if (treatment.through) editOnPicture({ kind: 'region', where, lookId: id });
  setOpen({ fresh: id });
  focusFirstValue(id);
}
