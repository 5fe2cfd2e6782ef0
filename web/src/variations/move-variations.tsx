import { isPlace } from '@skipback/core/places/place';
import { type Telling, placeText } from '@skipback/core/places/words';
import { type AnyMove, inFrames } from '@skipback/core/moves/move';
import { applyChain, contextsOf } from '@skipback/core/moves/chain';
import { moveById, valuesOf } from '@skipback/core/moves/registry';
import { variationsOf } from '@skipback/core/moves/variations';
import { sampleFrames } from '@skipback/core/path/path';
import { setStepValues } from '@skipback/core/project/actions';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { percentText } from '@skipback/core/time/entry';
import type { Rational } from '@skipback/core/time/rational';
import { useMemo, useState } from 'react';
import type { LoadedClip } from '../state/library';
import { usePlaceWords } from '../state/place-words';
import { act } from '../state/project-store';
import { OTHERS, type Search, type Variation, VariationsSheet } from './variations-sheet';

interface Props {
  readonly piece: CompiledPiece;
  readonly stepId: string | null;
  readonly clip: LoadedClip | undefined;
  readonly rate: Rational;
  onClose(): void;
}

type Values = Record<string, unknown>;

/** The same move with other values, all playing in step; pick one. */
export function MoveVariations({ piece, stepId, clip, rate, onClose }: Props) {
  const [search, setSearch] = useState<Search>({ seed: 1, wildness: 0.5 });
  const { telling } = usePlaceWords(piece.piece.id);
  const place = piece.piece.chain.findIndex((s) => s.id === stepId);
  const step = piece.piece.chain[place];
  const move = step && moveById(step.move);

  const variations = useMemo((): Variation[] => {
    if (!step || !move) return [];
    const { chain } = piece.piece;
    const now = valuesOf(step);
    const context = { table: piece.table, music: piece.music, marks: piece.clip.marks };
    const here = contextsOf(chain, context)[place]!;
    const incoming = applyChain(piece.base, chain.slice(0, place), here).path;
    const others = variationsOf(move, now, incoming, here, { ...search, count: OTHERS });
    return [now, ...others].map((values) => {
      const varied = chain.with(place, { ...step, values, on: true });
      const { path } = applyChain(piece.base, varied, context);
      return {
        words: differences(move, now, values, telling, step.zone !== undefined),
        shown: sampleFrames(path, piece.table),
        pick: () =>
          act(`take a variation of ${move.name}`, (p) => setStepValues(p, piece.piece.id, step.id, values)),
      };
    });
  }, [piece, place, step, move, search, telling]);

  if (!move) return null;
  return (
    <VariationsSheet name={move.name} {...{ variations, clip, rate, search, onClose }} onSearch={setSearch} />
  );
}

/** What a variation changes, in words. */
function differences(move: AnyMove, now: Values, then: Values, telling: Telling, limited: boolean): string {
  return move.fields
    .filter(
      (f) => (f.when?.(then, limited) ?? true) && JSON.stringify(now[f.key]) !== JSON.stringify(then[f.key]),
    )
    .map((f) => {
      const value = then[f.key];
      const text =
        f.kind === 'text'
          ? f.summary(value, telling) === f.summary(now[f.key], telling)
            ? f.write(value, telling)
            : f.summary(value, telling)
          : f.kind === 'percent'
            ? percentText(Number(value))
            : f.kind === 'choice'
              ? (f.options.find((o) => o.value === value)?.label ?? String(value))
              : isPlace(value)
                ? placeText(value, telling)
                : `${String(value)}${inFrames(f) ? ' f' : ''}`;
      return f.kind === 'text' ? text : `${f.label.toLowerCase()} ${text}`;
    })
    .join(', ');
}
