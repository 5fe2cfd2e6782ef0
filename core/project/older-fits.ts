import { musicFrom } from '../beats/music';
import { type FrameTable, readAt } from '../clip/frame-table';
import { stepGround } from '../moves/chain';
import { type ChainStep, valuesOf } from '../moves/registry';
import { runOf } from '../path/makers';
import type { TimePath } from '../path/path';
import { removeStep, setZone } from './actions';
import { type CompiledPiece, compilePiece, compileProject, projectMusic } from './compile';
import type { Project } from './schema';
import { stretchSegment } from './stretch';

/** A segment that begins and ends where a stretch does, by its place in the path. */
function segmentAt(path: TimePath, { from, to }: { from: number; to: number }): number | undefined {
  let start = 0;
  for (const [index, { length }] of path.segments.entries()) {
    if (start > from + 1e-6) return undefined;
    const { run, makers } = runOf(path, index);
    if (makers.length > 0 && Math.abs(run.from - from) < 1e-6 && Math.abs(run.to - to) < 1e-6) return index;
    start += length;
  }
  return undefined;
}

/** Result frames that a Fit by speed was put on when a segment's end was dragged, before that changed its maker. */
const draggedZone = (step: ChainStep): { from: number; to: number } | undefined => {
  const { zone } = step;
  const plain = zone && 'from' in zone && typeof zone.from === 'number' && typeof zone.to === 'number';
  if (!step.on || step.move !== 'fit' || valuesOf(step)['by'] !== 'speed' || !plain) return undefined;
  return { from: zone.from as number, to: zone.to as number };
};

const sameFrames = (a: CompiledPiece, b: CompiledPiece): boolean =>
  a.shown.length === b.shown.length && a.shown.every((frame, i) => frame === b.shown[i]);

/**
 * A project of before, its dragged segments as they would be now: a Fit on result frames that are just one segment is
 * the length of what made that, or holds on to it. What would not play the same frames stays as it is; so do pieces
 * whose clip's frames are not known.
 */
export function withDraggedSegments(
  project: Project,
  tableOf: (clipId: string) => FrameTable | undefined,
): Project {
  if (!project.pieces.some((p) => p.chain.some((s) => draggedZone(s)))) return project;
  const music = projectMusic(project);
  const starts = new Map<string, number>();
  const compile = (of: Project, pieceId: string): CompiledPiece | undefined => {
    const piece = of.pieces.find((p) => p.id === pieceId)!;
    const clip = of.clips.find((c) => c.id === piece.clipId);
    const table = clip && tableOf(clip.id);
    const here = music && musicFrom(music, starts.get(pieceId) ?? 0);
    return clip && table && compilePiece(piece, clip, table, of.rate, here);
  };
  compileProject(project, (piece, clip, at) => {
    starts.set(piece.id, at);
    const table = tableOf(clip.id);
    return table && compilePiece(piece, clip, table, project.rate, music && musicFrom(music, at));
  });
  let now = project;
  for (const { id: pieceId, chain } of project.pieces)
    for (const step of chain) {
      const zone = draggedZone(step);
      const before = zone && compile(now, pieceId);
      if (!zone || !before) continue;
      const links = before.piece.chain;
      const place = links.findIndex((s) => s.id === step.id);
      const { clip, base, music: heard } = before;
      const table = readAt(tableOf(clip.id)!, clip.readAt);
      const ground = stepGround(base, links, step.id, { table, music: heard, marks: clip.marks })?.incoming;
      const index = ground && segmentAt(ground.path, zone);
      if (!ground || index === undefined) continue;
      const { makers, nth } = runOf(ground.path, index);
      const held = setZone(now, pieceId, step.id, { segment: { makers: [...makers], nth }, was: zone });
      const tries = [held];
      if (place === links.length - 1) {
        const bare = removeStep(now, pieceId, step.id);
        const there = compile(bare, pieceId)!;
        const length = Number(valuesOf(step)['length']);
        tries.unshift(stretchSegment(bare, there, index, length, () => step.id));
      }
      now = tries.find((t) => sameFrames(compile(t, pieceId)!, before)) ?? now;
    }
  return now;
}
