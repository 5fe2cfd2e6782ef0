import { factsOfPiece } from '@skipback/core/looks/facts';
import { EVERYWHERE, stretchesOf } from '@skipback/core/looks/scope';
import type { AnyTreatment } from '@skipback/core/looks/treatment';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { type LookPlace, addLook } from '@skipback/core/project/look-actions';
import { openCard } from '../state/cards';
import { freshId } from '../state/ids';
import { act } from '../state/project-store';

/** Where a look for fast parts applies: to those, if there are such and others. */
function whereItStarts({ startsWhere }: AnyTreatment, piece: CompiledPiece | undefined, where: LookPlace) {
  if (!startsWhere || !piece || where === null) return {};
  const scope = { ...EVERYWHERE, all: [startsWhere] };
  const frames = stretchesOf(scope, factsOfPiece(piece, false)).reduce((n, s) => n + s.end - s.first, 0);
  return frames > 0 && frames < piece.shown.length ? { scope } : {};
}

/** Adds a look to a piece, or to the whole result, where it belongs there; opens its card. */
export function addLookTo(treatment: AnyTreatment, piece: CompiledPiece | undefined, where: LookPlace): void {
  const id = freshId();
  act(`add ${treatment.name}`, (p) =>
    addLook(p, where, { id, look: treatment.id, given: whereItStarts(treatment, piece, where) }),
  );
  openCard('look', id);
}
