import { factsOfPiece } from '@skipback/core/looks/facts';
import type { Scope } from '@skipback/core/looks/scope';
import { scopeFor } from '@skipback/core/looks/starts';
import type { AnyTreatment } from '@skipback/core/looks/treatment';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { type LookPlace, addLook } from '@skipback/core/project/look-actions';
import { openCard } from '../state/cards';
import { freshId } from '../state/ids';
import { act } from '../state/project-store';

/** Where a look begins on a piece: where it belongs, if there is such and other. */
export function beginsWith(
  { startsWhere, defaults }: AnyTreatment,
  piece: CompiledPiece,
): { readonly scope?: Scope } {
  const lasts = Number((defaults as { readonly fall?: unknown }).fall ?? 0);
  const scope = startsWhere && scopeFor(startsWhere, factsOfPiece(piece, false), Math.ceil(lasts));
  return scope ? { scope } : {};
}

/** Adds a look to a piece, or to the whole result, where it belongs there; opens its card. */
export function addLookTo(treatment: AnyTreatment, piece: CompiledPiece | undefined, where: LookPlace): void {
  const id = freshId();
  const given = piece && where !== null ? beginsWith(treatment, piece) : {};
  act(`add ${treatment.name}`, (p) => addLook(p, where, { id, look: treatment.id, given }));
  openCard('look', id);
}
