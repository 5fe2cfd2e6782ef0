import { type Between, WIDEST_SHUTTER } from '@skipback/core/gather/gather';
import { factsOfPiece } from '@skipback/core/looks/facts';
import type { LookField } from '@skipback/core/looks/treatment';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { setBetween, setShutter } from '@skipback/core/project/gather-actions';
import { useMemo } from 'react';
import { DriverPanel } from '../looks/driver-panel';
import { DrivenNumber } from '../looks/look-fields';
import { ChoiceField } from '../parts/choice-field';
import { Line } from '../parts/line';
import { useInside } from '../state/inside';
import { act } from '../state/project-store';
import { BETWEEN_WORDS } from './reading-words';

export const BETWEEN: readonly { value: Between; label: string }[] = (
  Object.keys(BETWEEN_WORDS) as Between[]
).map((value) => ({ value, label: BETWEEN_WORDS[value] }));

const SHUTTER: Extract<LookField, { kind: 'number' }> = {
  key: 'shutter',
  kind: 'number',
  label: 'Shutter',
  help: 'How long each picture gathers: 360° from one to the next. Where it runs fast, frames are averaged over that.',
  min: 0,
  max: WIDEST_SHUTTER,
  unit: '°',
};

/** How a piece's pictures are made of source frames: between them, and over how long. */
export function InBetween({
  compiled,
  loops,
}: {
  readonly compiled: CompiledPiece;
  readonly loops: boolean;
}) {
  const { piece } = compiled;
  const ground = useMemo(() => {
    const facts = factsOfPiece(compiled, loops);
    return { facts, stretches: [{ first: 0, end: facts.frames }], where: piece.id, card: piece.id };
  }, [compiled, loops, piece.id]);
  const inside = useInside(piece.id);
  const shutter = (value: Parameters<typeof setShutter>[2]) =>
    act('change the shutter', (p) => setShutter(p, piece.id, value));
  return (
    <>
      <Line label="In-between frames">
        <ChoiceField
          label="In-between frames"
          value={piece.between}
          options={BETWEEN}
          hint="Where a picture lies between two source frames: repeat shows the one it lies in, blend shows both, motion flow moves both along the motion."
          onChange={(value) =>
            act(`${BETWEEN_WORDS[value as Between]} between frames`, (p) =>
              setBetween(p, piece.id, value as Between),
            )
          }
        />
      </Line>
      <Line label="Shutter">
        <DrivenNumber
          label="Shutter"
          field={SHUTTER}
          width={52}
          value={piece.shutter}
          ground={ground}
          onChange={shutter}
        />
      </Line>
      {inside === 'shutter' && (
        <DriverPanel
          what="shutter"
          label="Shutter"
          value={piece.shutter}
          limits={SHUTTER}
          ground={ground}
          onChange={shutter}
        />
      )}
    </>
  );
}
