import type { CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { madeSpans } from '@skipback/core/sound/made/spans';
import type { TimePath } from '@skipback/core/path/path';
import { toNumber } from '@skipback/core/time/rational';
import type { HeardSound } from './draw-sounds';

/** Spans by path: a piece that did not change is not looked at again. */
const known = new WeakMap<TimePath, ReturnType<typeof madeSpans>>();

function spansOf(path: TimePath): ReturnType<typeof madeSpans> {
  let spans = known.get(path);
  if (!spans) known.set(path, (spans = madeSpans(path)));
  return spans;
}

/** Every sound that the paths of a result call for, whether its kind is on or not. */
export function soundsCalledFor(result: CompiledProject, project: Project): HeardSound[] {
  const hz = toNumber(project.rate);
  return result.pieces.flatMap(({ startFrame, compiled }) =>
    spansOf(compiled.path).map(({ kind, fromS, toS }) => ({
      kind,
      from: startFrame + fromS * hz,
      to: startFrame + toS * hz,
    })),
  );
}
