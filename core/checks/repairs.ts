import { startThatFits } from '../moves/coast';
import { addStep, setStepValue, shiftStep } from '../project/actions';
import type { CompiledProject } from '../project/compile';
import type { Project } from '../project/schema';
import { loopVerdict } from './result';

/** A change that mends what a check found, as one action with its words. */
export interface Repair {
  /** Which finding it mends. */
  readonly mends: 'loop' | 'doubled' | 'skip' | 'ran-out';
  readonly words: string;
  apply(project: Project, newId: () => string): Project;
}

/**
 * Repairs on offer for a result: an open loop is closed by letting the last boomerang end home, or by
 * adding one that does; doubled turn frames go by turning once; a boomerang in the middle of something
 * leaves forward; what is repeated and skips goes there and back; a coast that runs out starts slower.
 */
export function repairsFor(compiled: CompiledProject): Repair[] {
  const verdict = loopVerdict(compiled);
  const last = compiled.pieces[compiled.pieces.length - 1]?.compiled.piece;
  const repairs: Repair[] = [];
  if (!verdict.closes && last && compiled.pieces.length === 1) {
    const away = last.chain.findLast((s) => s.on && s.move === 'boomerang');
    if (away?.values['ends'] === 'away')
      repairs.push({
        mends: 'loop',
        words: 'End home',
        apply: (p) => setStepValue(p, last.id, away.id, 'ends', 'home'),
      });
    else
      repairs.push({
        mends: 'loop',
        words: 'Add a way back',
        apply: (p, newId) => addStep(p, last.id, { id: newId(), move: 'boomerang', values: { trips: 1 } }),
      });
  }
  const twice = compiled.pieces.flatMap(({ compiled: { piece } }) =>
    piece.chain
      .filter((s) => s.on && s.move === 'boomerang' && s.values['turn'] === 'twice')
      .map((s) => ({ piece, step: s })),
  );
  if (verdict.doubled.length > 0 && twice.length > 0)
    repairs.push({
      mends: 'doubled',
      words: 'Turn once',
      apply: (p) => twice.reduce((q, t) => setStepValue(q, t.piece.id, t.step.id, 'turn', 'once'), p),
    });
  const staysBack = compiled.pieces.flatMap(({ compiled: { piece } }) =>
    piece.chain
      .filter(
        (s, i) =>
          s.on &&
          s.move === 'boomerang' &&
          s.values['ends'] === 'home' &&
          (s.zone || i < piece.chain.length - 1),
      )
      .map((s) => ({ piece, step: s })),
  );
  if (verdict.skips.length > 0 && staysBack.length > 0)
    repairs.push({
      mends: 'skip',
      words: 'Leave forward',
      apply: (p) => staysBack.reduce((q, t) => setStepValue(q, t.piece.id, t.step.id, 'ends', 'away'), p),
    });
  const repeated = compiled.pieces.flatMap(({ compiled: { piece, joins } }) => {
    const step = piece.chain.find((s) => s.on && s.move === 'fit' && s.values['by'] === 'repeats');
    return step && joins.some((j) => j.skips) ? [{ piece, step }] : [];
  });
  if (repeated.length > 0 && staysBack.length === 0)
    repairs.push({
      mends: 'skip',
      words: 'Repeat there and back',
      apply: (p, newId) =>
        repeated.reduce((q, { piece, step }) => {
          const id = newId();
          const added = addStep(q, piece.id, { id, move: 'boomerang', values: { trips: 1 } });
          return shiftStep(added, piece.id, id, piece.chain.indexOf(step) - piece.chain.length);
        }, p),
    });
  for (const { compiled: piece } of compiled.pieces)
    for (const [i, applied] of piece.steps.entries()) {
      const step = piece.piece.chain[i]!;
      if (step.move !== 'coast' || !applied.notices.some((n) => n.code === 'ran-out')) continue;
      const fits = startThatFits(applied.incoming, Number(step.values['over']), Number(step.values['to']));
      if (fits >= 1)
        repairs.push({
          mends: 'ran-out',
          words: 'Start slower',
          apply: (p) => setStepValue(p, piece.piece.id, step.id, 'from', fits),
        });
    }
  return repairs;
}
