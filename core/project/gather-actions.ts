import { produce } from 'immer';
import type { Between } from '../gather/gather';
import { type Value, ValueSchema } from '../looks/driver';
import type { Piece, Project } from './schema';

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

/** What new pieces begin with. */
export const setNewBetween = (project: Project, between: Between): Project =>
  produce(project, (d) => void (d.between = between));
