import { useFirst } from '../state/counting';
import { usesOf } from '@skipback/core/checks/totals';
import { frameCount } from '@skipback/core/clip/frame-table';
import { dissolvesOf } from '@skipback/core/gather/dissolve';
import type { View } from '@skipback/core/edit/view';
import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { toNumber } from '@skipback/core/time/rational';
import { useMemo } from 'react';
import type { ClipState } from '../state/library';
import { useThumbnails } from '../state/library';
import { useOnPicture } from '../state/on-picture';
import { useSelection } from '../state/selection';
import { useTold } from '../state/told';
import type { PlayRange } from '../state/transport';
import { type Ribbon, ribbonsOf } from './threads/ribbons';
import type { Thumbnails, WeaveScene } from './scene';
import { resultViewOf, sourceViewOf, useViews } from '../state/views';

/** What every form of the lower half is made of. */
export interface WeaveModel {
  readonly project: Project;
  readonly compiled: CompiledProject;
  readonly clip: ClipState | undefined;
  readonly clipId: string | undefined;
  readonly clipFrames: number;
  readonly totalFrames: number;
  readonly rateHz: number;
  readonly piece: CompiledPiece | undefined;
  readonly pieceStart: number;
  readonly ribbons: readonly Ribbon[];
  readonly selected: Ribbon | undefined;
  readonly thumbnails: Thumbnails | undefined;
  readonly sourceView: View;
  readonly resultView: View;
  readonly range: PlayRange | null;
  /** What of the scene does not depend on pixels. */
  readonly facts: Pick<
    WeaveScene,
    | 'ribbons'
    | 'clipId'
    | 'clipFrames'
    | 'firstFrame'
    | 'totalFrames'
    | 'span'
    | 'thumbnails'
    | 'pieceId'
    | 'selected'
    | 'rateHz'
    | 'skips'
    | 'doubled'
    | 'uses'
    | 'range'
    | 'ready'
    | 'lost'
    | 'dissolves'
    | 'track'
  >;
}

const NONE: WeaveScene['lost'] = [];

export function useWeaveModel(
  project: Project,
  compiled: CompiledProject,
  clip: ClipState | undefined,
  pieceId: string | null,
  range: PlayRange | null,
): WeaveModel {
  const thumbnails = useThumbnails(clip?.loaded);
  const segment = useSelection((s) => s.segment);
  const views = useViews();
  const ribbons = useMemo(() => ribbonsOf(compiled), [compiled]);
  const clipId = clip?.clip.id;
  const clipFrames = clip?.loaded ? frameCount(clip.loaded.record.facts.table) : 0;
  const place = compiled.pieces.findIndex((p) => p.compiled.piece.id === pieceId);
  const piece = compiled.pieces[place]?.compiled;
  const selected = useMemo(
    () => (segment === null ? undefined : ribbons.find((r) => r.pieceId === pieceId && r.index === segment)),
    [ribbons, pieceId, segment],
  );
  const uses = useMemo(() => {
    const sum = new Uint32Array(clipFrames);
    for (const { compiled: p } of compiled.pieces)
      if (p.clip.id === clipId) usesOf(p.shown, 0, clipFrames).forEach((n, i) => (sum[i]! += n));
    return sum;
  }, [compiled, clipId, clipFrames]);
  const joins = useMemo(
    () =>
      compiled.pieces.flatMap((p) =>
        p.compiled.joins.map((j) => ({ ...j, clipId: p.compiled.clip.id, at: p.startFrame + j.atFrame })),
      ),
    [compiled],
  );
  const several = compiled.pieces.length > 1;
  const span = piece && piece.clip.id === clipId ? piece.piece.span : undefined;
  const rateHz = toNumber(project.rate);
  const firstFrame = useFirst();
  const ready = useTold((s) => s.ready);
  const lost = useTold((s) => s.motion?.lost ?? NONE);
  const dissolves = useMemo(() => dissolvesOf(compiled.pieces), [compiled]);
  const edited = useOnPicture((s) => (s.editing?.kind === 'track' ? s.editing.trackId : undefined));
  const holds = piece?.clip.id === clipId ? piece?.piece.steady?.track : undefined;
  const track = clip?.clip.tracks.find((t) => t.id === (edited ?? holds));
  const facts = useMemo(
    () => ({
      ribbons,
      clipId,
      clipFrames,
      firstFrame,
      totalFrames: compiled.totalFrames,
      span,
      thumbnails,
      pieceId: several ? pieceId : null,
      selected,
      rateHz,
      skips: joins.filter((j) => j.skips),
      doubled: joins.filter((j) => j.doubles).map((j) => j.at),
      uses,
      range,
      ready,
      lost,
      dissolves,
      track,
    }),
    [
      ribbons,
      clipId,
      clipFrames,
      firstFrame,
      compiled,
      span,
      thumbnails,
      several,
      pieceId,
      selected,
      rateHz,
      joins,
      uses,
      range,
      ready,
      lost,
      dissolves,
      track,
    ],
  );
  const sourceView = useMemo(
    () => sourceViewOf({ source: views.source, result: null }, clipId, clipFrames),
    [views.source, clipId, clipFrames],
  );
  return {
    project,
    compiled,
    clip,
    clipId,
    clipFrames,
    totalFrames: compiled.totalFrames,
    rateHz,
    piece,
    pieceStart: compiled.pieces[place]?.startFrame ?? 0,
    ribbons,
    selected,
    thumbnails,
    sourceView,
    resultView: resultViewOf(views, compiled.totalFrames),
    range,
    facts,
  };
}

/** The source frame that the result shows at a frame, where it is of the clip on the strip. */
export function shownAt(model: WeaveModel, position: number): number | undefined {
  const at = model.compiled.pieces.findLast((p) => p.startFrame <= position);
  return at && at.compiled.clip.id === model.clipId ? at.compiled.shown[position - at.startFrame] : undefined;
}

/** Result frames that show a source frame of the clip on the strip, at most `most` of them. */
export function whereShown(model: WeaveModel, sourceFrame: number, most: number): number[] {
  const found: number[] = [];
  for (const { startFrame, compiled } of model.compiled.pieces) {
    if (compiled.clip.id !== model.clipId) continue;
    for (
      let i = compiled.shown.indexOf(sourceFrame);
      i >= 0;
      i = compiled.shown.indexOf(sourceFrame, i + 1)
    ) {
      found.push(startFrame + i);
      if (found.length === most) return found;
    }
  }
  return found;
}
