import { produce } from 'immer';
import type { Between } from '../gather/gather';
import { type Value, ValueSchema } from '../looks/driver';
import { type Piece, PieceSchema, type Project } from './schema';

/** How the pictures of pieces are made of source frames. Each returns a new project, or the same where nothing changes. */
const change = (project: Project, pieceId: string, recipe: (piece: Piece) => void): Project =>
  produce(project, (d) => {
    const piece = d.pieces.find((p) => p.id === pieceId);
    if (piece) recipe(piece);
  });

export const setBetween = (project: Project, pieceId: string, between: Between): Project =>
  change(project, pieceId, (p) => void (p.between = between));

/** Sets a shutter: degrees, or what moves them. What is neither changes nothing. */
export const setShutter = (project: Project, pieceId: string, shutter: Value): Project =>
  ValueSchema.safeParse(shutter).success
    ? change(project, pieceId, (p) => void (p.shutter = shutter))
    : project;

/** Mixes what would be flow from these frames of the clip to the next ones as well. */
export const mixPairs = (project: Project, pieceId: string, firsts: Iterable<number>): Project =>
  change(project, pieceId, (p) => {
    const all = new Set(firsts);
    for (const { from, to } of p.mixed) for (let n = from; n < to; n++) all.add(n);
    p.mixed = [];
    for (const n of [...all].sort((a, b) => a - b)) {
      const last = p.mixed[p.mixed.length - 1];
      if (last?.to === n) last.to++;
      else p.mixed.push({ from: n, to: n + 1 });
    }
  });

/** Flow everywhere again. */
export const mixNothing = (project: Project, pieceId: string): Project =>
  change(project, pieceId, (p) => void (p.mixed = []));

/** Sets how long the piece before runs into this one: what is no such length changes nothing. */
export const setDissolve = (project: Project, pieceId: string, dissolve: Piece['dissolve']): Project =>
  PieceSchema.shape.dissolve.safeParse(dissolve).success
    ? change(project, pieceId, (p) => void (p.dissolve = dissolve))
    : project;

/** What new pieces begin with. */
export const setNewBetween = (project: Project, between: Between): Project =>
  produce(project, (d) => void (d.between = between));
