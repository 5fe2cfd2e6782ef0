import type { ChainStep } from '@skipback/core/moves/registry';
import { copyStep, setZone, shiftStep } from '@skipback/core/project/actions';
import { MoreMenu } from '../parts/more-menu';
import { freshId } from '../state/ids';
import { act } from '../state/project-store';

interface Props {
  readonly pieceId: string;
  readonly step: ChainStep;
  readonly name: string;
  readonly incoming: number;
  readonly otherPieces: readonly { readonly id: string; readonly words: string }[];
}

/** What else can be done with a move: its place, copies of it, and the stretch it works on. */
export function StepMenu({ pieceId, step, name, incoming, otherPieces }: Props) {
  const third = {
    from: Math.floor(incoming / 3),
    to: Math.max(Math.floor(incoming / 3) + 1, Math.floor((2 * incoming) / 3)),
  };
  return (
    <MoreMenu
      name={name}
      items={[
        step.zone
          ? [
              'Work on everything',
              () => act(`${name} on everything`, (p) => setZone(p, pieceId, step.id, null)),
            ]
          : ['Limit to a part', () => act(`limit ${name}`, (p) => setZone(p, pieceId, step.id, third))],
        ['Duplicate', () => act(`duplicate ${name}`, (p) => copyStep(p, pieceId, step.id, freshId()))],
        [
          'Earlier in the chain',
          () => act(`move ${name} earlier`, (p) => shiftStep(p, pieceId, step.id, -1)),
        ],
        ['Later in the chain', () => act(`move ${name} later`, (p) => shiftStep(p, pieceId, step.id, 1))],
        ...otherPieces.map(
          (other) =>
            [
              `Copy to ${other.words}`,
              () => act(`copy ${name}`, (p) => copyStep(p, pieceId, step.id, freshId(), other.id)),
            ] as const,
        ),
      ]}
    />
  );
}
