import type { CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import type { ClipState } from '../state/library';
import { useOpen } from '../state/open';
import type { PlayRange } from '../state/transport';
import { CurveView } from './curve/curve-view';
import { PatternGrid } from './steps/pattern-grid';
import { SpeedView } from './speed/speed-view';
import { ThreadsBar } from './threads/threads-bar';
import { ThreadsView } from './threads/threads-view';
import { useFollow } from './use-follow';
import { useWeaveModel } from './weave-model';

interface Props {
  readonly project: Project;
  readonly compiled: CompiledProject;
  /** The clip on the source strip. */
  readonly clip: ClipState | undefined;
  readonly pieceId: string | null;
  /** Result frames that playing keeps to. */
  readonly range: PlayRange | null;
}

/** The lower half: one result, seen as threads, as a curve, as speed, or as the steps of a pattern. */
export function Weave({ project, compiled, clip, pieceId, range }: Props) {
  const model = useWeaveModel(project, compiled, clip, pieceId, range);
  const mode = useOpen((s) => s.mode);
  useFollow(model);
  if (mode === 'curve') return <CurveView model={model} />;
  if (mode === 'speed') return <SpeedView model={model} />;
  if (mode === 'grid') return <PatternGrid model={model} />;
  return (
    <>
      <ThreadsBar model={model} />
      <ThreadsView model={model} />
    </>
  );
}
