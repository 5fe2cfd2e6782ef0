import { produce } from 'immer';
import type { Look } from '../looks/look';
import { type ChainStep, valuesOf } from '../moves/registry';
import type { Project } from './schema';

/** Moves a piece by `by` places in the row, as far as the row goes. */
export function shiftPiece(project: Project, pieceId: string, by: number): Project {
  return produce(project, (d) => {
    const from = d.pieces.findIndex((p) => p.id === pieceId);
    if (from < 0) return;
    const to = Math.min(d.pieces.length - 1, Math.max(0, from + by));
    const [piece] = d.pieces.splice(from, 1);
    d.pieces.splice(to, 0, piece!);
  });
}

/** The same looks under other ids. */
const freshLooks = (looks: readonly Look[], newId: () => string): Look[] =>
  looks.map((look) => ({ ...look, id: newId() }));

const freshChain = (chain: readonly ChainStep[], newId: () => string): ChainStep[] =>
  chain.map((s) => ({ ...s, id: newId() }));

/** Puts a copy of a piece right after it. `newId` gives the ids of the copy, its moves and looks. */
export function duplicatePiece(project: Project, pieceId: string, newId: () => string): Project {
  const at = project.pieces.findIndex((p) => p.id === pieceId);
  const piece = project.pieces[at];
  if (!piece) return project;
  const copy = {
    ...piece,
    id: newId(),
    chain: freshChain(piece.chain, newId),
    looks: freshLooks(piece.looks, newId),
    // It comes after its own twin: a cut.
    dissolve: 0,
  };
  return produce(project, (d) => void d.pieces.splice(at + 1, 0, copy));
}

/**
 * Cuts a piece of `frames` result frames in two at its result frame `at`. Both halves keep the span, the
 * looks and the chain, each with a Trim at its end, so that every value stays editable; what listens to the music and
 * what looks count is as it was, as long as both lie where they did.
 */
export function splitPiece(
  project: Project,
  pieceId: string,
  at: number,
  frames: number,
  newId: () => string,
): Project {
  const place = project.pieces.findIndex((p) => p.id === pieceId);
  const piece = project.pieces[place];
  if (!piece || at <= 0 || at >= frames) return project;
  const trim = (from: number, length: number): ChainStep => ({
    id: newId(),
    move: 'trim',
    on: true,
    values: { from, length, looks: 'whole' },
  });
  const head = { ...piece, chain: [...piece.chain, trim(0, at)] };
  const tail = {
    ...piece,
    id: newId(),
    chain: [...freshChain(piece.chain, newId), trim(at, frames - at)],
    looks: freshLooks(piece.looks, newId),
    dissolve: 0,
  };
  return produce(project, (d) => void d.pieces.splice(place, 1, head, tail));
}

/**
 * Makes result frames [from, to) of a piece last `length` frames by changing their speed. Done with a Fit
 * at the chain's end that works on that stretch only; stretching the same one again changes that Fit.
 */
export function stretchSegment(
  project: Project,
  pieceId: string,
  stretch: { readonly from: number; readonly to: number },
  length: number,
  newId: () => string,
): Project {
  const piece = project.pieces.find((p) => p.id === pieceId);
  if (!piece || stretch.to <= stretch.from || length < 1) return project;
  const last = piece.chain[piece.chain.length - 1];
  const again =
    last?.move === 'fit' &&
    last.on &&
    valuesOf(last)['by'] === 'speed' &&
    last.zone !== undefined &&
    Math.abs(last.zone.from - stretch.from) < 1e-6 &&
    Math.abs(last.zone.from + Number(valuesOf(last)['length']) - stretch.to) < 1e-6;
  return produce(project, (d) => {
    const chain = d.pieces.find((p) => p.id === pieceId)!.chain;
    if (again) chain[chain.length - 1]!.values['length'] = length;
    else
      chain.push({
        id: newId(),
        move: 'fit',
        on: true,
        values: { length, by: 'speed' },
        zone: { ...stretch },
      });
  });
}
