import type { Finding, Mending, Standing } from '../moves/move';
import { moveById, valuesOf } from '../moves/registry';
import { addStep, setStepValues, shiftStep } from '../project/actions';
import { type CompiledProject, compilePiece, compileProject, projectMusic } from '../project/compile';
import { musicFrom } from '../beats/music';
import type { Piece, Project } from '../project/schema';
import { type LoopVerdict, loopVerdict } from './result';

/** A change that mends what a check found, as one action with its words. */
export interface Repair {
  /** Which finding it mends. */
  readonly mends: Finding;
  readonly words: string;
  apply(project: Project, newId: () => string): Project;
}

/** What a link of a chain would change to mend a finding. */
interface Offer {
  readonly pieceId: string;
  readonly stepId: string;
  readonly mending: Mending<Record<string, unknown>>;
}

/** All links of the result that could mend a finding, by their own account. */
function offersFor(compiled: CompiledProject, finding: Finding): Offer[] {
  return compiled.pieces.flatMap(({ compiled: { piece, steps, joins } }) => {
    if (finding === 'skip' && !joins.some((j) => j.skips)) return [];
    return piece.chain.flatMap((step, i): Offer[] => {
      const move = moveById(step.move);
      const applied = steps[i];
      if (!step.on || !move?.mends || !applied) return [];
      if (finding === 'ran-out' && !applied.notices.some((n) => n.code === 'ran-out')) return [];
      const standing: Standing = {
        inside: step.zone !== undefined || i < piece.chain.length - 1,
        incoming: applied.incoming,
      };
      const mending = move.mends(finding, valuesOf(step), standing);
      return mending ? [{ pieceId: piece.id, stepId: step.id, mending }] : [];
    });
  });
}

function carryOut(project: Project, { pieceId, stepId, mending }: Offer, newId: () => string): Project {
  const changed = mending.values ? setStepValues(project, pieceId, stepId, mending.values) : project;
  if (!mending.before) return changed;
  const id = newId();
  const { move, values } = mending.before;
  const added = addStep(changed, pieceId, { id, move, values });
  const chain = added.pieces.find((p) => p.id === pieceId)?.chain ?? [];
  return shiftStep(added, pieceId, id, chain.findIndex((s) => s.id === stepId) - (chain.length - 1));
}

/** Offers that say the same, carried out together. */
function together(finding: Finding, offers: readonly Offer[]): Repair[] {
  const first = offers[0];
  if (!first) return [];
  const alike = offers.filter((o) => o.mending.words === first.mending.words);
  return [
    {
      mends: finding,
      words: first.mending.words,
      apply: (project, newId) => alike.reduce((p, o) => carryOut(p, o, newId), project),
    },
  ];
}

/**
 * Repairs on offer for a result: an open loop is closed by what its moves offer, or by adding a way back;
 * doubled turn frames, skips and what ran out by the moves that made them. One that would leave any finding
 * worse than before is not offered.
 */
export function repairsFor(compiled: CompiledProject, project: Project): Repair[] {
  const verdict = loopVerdict(compiled);
  const repairs: Repair[] = [];
  const only = compiled.pieces.length === 1 ? compiled.pieces[0]!.compiled.piece : undefined;
  if (!verdict.closes && only) {
    const offers = together('loop', offersFor(compiled, 'loop').slice(-1));
    repairs.push(...(offers.length > 0 ? offers : [wayBack(only)]));
  }
  if (verdict.doubled.length > 0) repairs.push(...together('doubled', offersFor(compiled, 'doubled')));
  if (verdict.skips.length > 0) repairs.push(...together('skip', offersFor(compiled, 'skip')));
  for (const offer of offersFor(compiled, 'ran-out')) repairs.push(...together('ran-out', [offer]));
  return repairs.filter((r) => helps(r, compiled, verdict, project));
}

const wayBack = (piece: Piece): Repair => ({
  mends: 'loop',
  words: 'Add a return trip',
  apply: (p, newId) => addStep(p, piece.id, { id: newId(), move: 'boomerang', values: { trips: 1 } }),
});

/** How bad each finding is, to tell whether a change makes any worse. */
function findingsOf(compiled: CompiledProject, verdict: LoopVerdict): Record<Finding, number> {
  const ranOut = compiled.pieces.flatMap((p) =>
    p.compiled.steps.flatMap((s) => s.notices.filter((n) => n.code === 'ran-out')),
  );
  return {
    loop: verdict.closes || verdict.cut ? 0 : 1,
    doubled: verdict.doubled.length,
    skip: verdict.skips.length,
    'ran-out': ranOut.length,
  };
}

/** Whether a repair makes its own finding better and no other worse. */
function helps(repair: Repair, compiled: CompiledProject, verdict: LoopVerdict, project: Project): boolean {
  let made = 0;
  const mended = repair.apply(project, () => `mended-${made++}`);
  const music = projectMusic(mended);
  const known = new Map(compiled.pieces.map((p) => [p.compiled.piece, p.compiled]));
  const tables = new Map(compiled.pieces.map((p) => [p.compiled.clip.id, p.compiled.table]));
  const again = compileProject(mended, (piece, clip, startFrame) => {
    const table = tables.get(clip.id);
    if (!table) return undefined;
    const same = known.get(piece);
    if (same && !music) return same;
    return compilePiece(
      piece,
      { ...clip, readAt: null },
      table,
      mended.rate,
      music && musicFrom(music, startFrame),
    );
  });
  const before = findingsOf(compiled, verdict);
  const after = findingsOf(again, loopVerdict(again));
  return (
    after[repair.mends] < before[repair.mends] &&
    (Object.keys(before) as Finding[]).every((f) => after[f] <= before[f])
  );
}
