import { produce } from 'immer';
import type { Look } from '../looks/look';
import type { ChainStep } from '../moves/registry';
import { withSteps } from '../places/moved';
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
const freshLooks = (looks: readonly Look[], chain: Fresh, newId: () => string): Look[] =>
  looks.map((look) => ({ ...withSteps(look, chain.id), id: newId() }));

/** The same moves under other ids; what holds on to parts of them does so as before. */
function freshChain(chain: readonly ChainStep[], newId: () => string): Fresh {
  const ids = new Map(chain.map((s) => [s.id, newId()]));
  const id = (was: string) => ids.get(was) ?? was;
  return { id, chain: chain.map((s) => ({ ...withSteps(s, id), id: id(s.id) })) };
}

/** A chain under other ids, and what each is called now. */
interface Fresh {
  readonly chain: ChainStep[];
  id(was: string): string;
}

/** Puts a copy of a piece right after it. `newId` gives the ids of the copy, its moves and looks. */
export function duplicatePiece(project: Project, pieceId: string, newId: () => string): Project {
  const at = project.pieces.findIndex((p) => p.id === pieceId);
  const piece = project.pieces[at];
  if (!piece) return project;
  const fresh = freshChain(piece.chain, newId);
  const copy = {
    ...piece,
    id: newId(),
    chain: fresh.chain,
    looks: freshLooks(piece.looks, fresh, newId),
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
  const fresh = freshChain(piece.chain, newId);
  const head = { ...piece, chain: [...piece.chain, trim(0, at)] };
  const tail = {
    ...piece,
    id: newId(),
    chain: [...fresh.chain, trim(at, frames - at)],
    looks: freshLooks(piece.looks, fresh, newId),
    dissolve: 0,
  };
  return produce(project, (d) => void d.pieces.splice(place, 1, head, tail));
}
