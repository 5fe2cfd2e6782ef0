import { produce } from 'immer';
import { type Steady, SteadySchema } from '../steady/steady';
import type { Project } from './schema';

/** Holds a piece by a track, or changes how; null lets go of it. What makes no sense changes nothing. */
export function setSteady(project: Project, pieceId: string, change: Partial<Steady> | null): Project {
  const piece = project.pieces.find((p) => p.id === pieceId);
  if (!piece) return project;
  const next = change === null ? null : SteadySchema.safeParse({ ...piece.steady, ...change }).data;
  if (next === undefined) return project;
  return produce(project, (d) => void (d.pieces.find((p) => p.id === pieceId)!.steady = next));
}
