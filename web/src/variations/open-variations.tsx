import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import type { LoadedClip } from '../state/library';
import { setOpen, useOpen } from '../state/open';
import { useSelection } from '../state/selection';
import { LookVariations } from './look-variations';
import { MoveVariations } from './move-variations';

interface Props {
  readonly project: Project;
  readonly compiled: CompiledProject;
  readonly piece: CompiledPiece;
  readonly clip: LoadedClip | undefined;
}

/** Opens variations of what was selected last: a look, or a move of a piece; of the other where there is none. */
export function openVariations(piece: CompiledPiece, project: Project): void {
  const { lookId, selectedLast } = useSelection.getState();
  const look = [...piece.piece.looks, ...project.looks].some((l) => l.id === lookId);
  const move = piece.piece.chain.length > 0;
  if (look && (selectedLast === 'look' || !move)) setOpen({ varies: 'look' });
  else if (move) setOpen({ varies: 'move' });
}

/** The sheet of variations that is asked for, of the selected move (or the last one) or of the selected look. */
export function OpenVariations({ project, compiled, piece, clip }: Props) {
  const varies = useOpen((s) => s.varies);
  const stepId = useSelection((s) => s.stepId);
  const lookId = useSelection((s) => s.lookId);
  const onClose = () => setOpen({ varies: null });
  if (varies === 'look') {
    const own = piece.piece.looks.find((l) => l.id === lookId);
    const look = own ?? project.looks.find((l) => l.id === lookId);
    const pieceStart = compiled.pieces.find((p) => p.compiled === piece)?.startFrame ?? 0;
    if (!look) return null;
    return (
      <LookVariations
        {...{ project, compiled, piece, pieceStart, look, clip, onClose }}
        where={own ? piece.piece.id : null}
      />
    );
  }
  const { chain } = piece.piece;
  const step = chain.find((s) => s.id === stepId) ?? chain.at(-1);
  if (varies !== 'move' || !step) return null;
  return <MoveVariations {...{ piece, clip, onClose }} stepId={step.id} rate={project.rate} />;
}
