import { stepGround } from '@skipback/core/moves/chain';
import type { ChainStep, Zone } from '@skipback/core/moves/registry';
import { pathLength } from '@skipback/core/path/path';
import { resolvePlace } from '@skipback/core/places/resolve';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { heldSegment } from '@skipback/core/project/stretch';
import { copyStep, setZone, shiftStep } from '@skipback/core/project/actions';
import { useTip } from '../commands/use-commands';
import { useState } from 'react';
import { CopyTo, copyEntries } from '../parts/copy-to';
import { MoreMenu } from '../parts/more-menu';
import { freshId } from '../state/ids';
import { act } from '../state/project-store';
import { setOpen } from '../state/open';
import { select, useSelection } from '../state/selection';
import { beginsAt } from '../state/begins';

interface Props {
  readonly piece: CompiledPiece;
  /** Result frame at which the piece begins. */
  readonly startFrame: number;
  readonly step: ChainStep;
  readonly name: string;
  readonly otherPieces: readonly { readonly id: string; readonly words: string }[];
  remove(): void;
}

/**
 * The part a move is limited to at first: a third of what comes in, from where one looks; the middle one where the eye
 * is elsewhere, or too near the end.
 */
function partAt(piece: CompiledPiece, startFrame: number, step: ChainStep): Zone {
  const begins = beginsAt(piece, startFrame);
  const { base, table, music, clip } = piece;
  const ground = stepGround(base, piece.piece.chain, step.id, { table, music, marks: clip.marks })?.incoming;
  const at = begins && ground ? resolvePlace(begins, ground) : undefined;
  const total = ground ? pathLength(ground.path) : 0;
  const third = Math.max(1, Math.round(total / 3));
  if (!begins || at?.at[0] === undefined || at.said || at.at[0] > total - third / 2)
    return { from: { share: 1 / 3 }, to: { share: 2 / 3 } };
  return { from: begins, to: { ...begins, plus: third } };
}

/** The selected segment as a part, without what this move and later ones made of it; undefined where none is. */
function segmentPart(piece: CompiledPiece, step: ChainStep, index: number | null): Zone | undefined {
  if (index === null || !piece.path.segments[index]) return undefined;
  const { chain } = piece.piece;
  const earlier = chain.slice(0, chain.indexOf(step)).map((s) => s.id);
  const held = heldSegment(piece.path, index);
  const makers = held.makers.filter((m) => earlier.includes(m.step)).map((m) => ({ ...m }));
  if (makers.length === 0) return undefined;
  return { segment: { makers, nth: held.nth }, was: { from: held.from, to: held.to } };
}

/** What else can be done with a move: its place, copies of it, and the stretch it works on. */
export function StepMenu({ piece, startFrame, step, name, otherPieces, remove }: Props) {
  const variations = useTip('variations', 'Variations');
  const pieceId = piece.piece.id;
  const segment = useSelection((s) => s.segment);
  const selected = segmentPart(piece, step, segment);
  const limit = (zone: Zone) => () => act(`limit ${name}`, (p) => setZone(p, pieceId, step.id, zone));
  const copy = (to: string) => act(`copy ${name}`, (p) => copyStep(p, pieceId, step.id, freshId(), to));
  const [asks, setAsks] = useState(false);
  return (
    <>
      <MoreMenu
        name={name}
        items={[
          [
            variations,
            () => (select({ stepId: step.id, selectedLast: 'move' }), setOpen({ varies: 'move' })),
          ],
          step.zone
            ? [
                'Apply to the whole piece',
                () => act(`${name} on everything`, (p) => setZone(p, pieceId, step.id, null)),
              ]
            : ['Apply to a part', () => limit(partAt(piece, startFrame, step))()],
          ...(selected ? [['Apply to the selected segment', limit(selected)] as const] : []),
          ['Duplicate', () => act(`duplicate ${name}`, (p) => copyStep(p, pieceId, step.id, freshId()))],
          [
            'Earlier in the chain',
            () => act(`move ${name} earlier`, (p) => shiftStep(p, pieceId, step.id, -1)),
          ],
          ['Later in the chain', () => act(`move ${name} later`, (p) => shiftStep(p, pieceId, step.id, 1))],
          ['Remove', remove],
          ...copyEntries(otherPieces, copy, () => setAsks(true)),
        ]}
      />
      <CopyTo name={name} open={asks} targets={otherPieces} onCopy={copy} onClose={() => setAsks(false)} />
    </>
  );
}
