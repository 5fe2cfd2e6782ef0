import { Box } from '@mui/material';
import { type Between, WIDEST_SHUTTER } from '@skipback/core/gather/gather';
import { factsOfPiece } from '@skipback/core/looks/facts';
import type { LookField } from '@skipback/core/looks/treatment';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { setBetween, setShutter } from '@skipback/core/project/gather-actions';
import { useMemo } from 'react';
import { Motion } from './motion';
import { DrivenNumber } from '../looks/look-fields';
import { ChoiceField } from '../parts/choice-field';
import { act } from '../state/project-store';
import { mono } from '../theme';

export const BETWEEN: readonly { value: Between; label: string }[] = [
  { value: 'repeat', label: 'repeat' },
  { value: 'mix', label: 'mix' },
  { value: 'flow', label: 'flow' },
];

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
  startFrame,
  loops,
}: {
  readonly compiled: CompiledPiece;
  /** The result frame at which the piece begins. */
  readonly startFrame: number;
  readonly loops: boolean;
}) {
  const { piece } = compiled;
  const ground = useMemo(() => {
    const facts = factsOfPiece(compiled, loops);
    return { facts, stretches: [{ first: 0, end: facts.frames }], where: piece.id };
  }, [compiled, loops, piece.id]);
  return (
    <>
      <Box
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 0.75,
          mt: 0.5,
          fontFamily: mono,
          '& > *': { flexShrink: 0 },
        }}
      >
        between
        <ChoiceField
          label="Between frames"
          value={piece.between}
          options={BETWEEN}
          hint="Where a picture lies between two source frames: repeat shows the one it is in, mix shows both, flow moves both along the motion."
          onChange={(value) =>
            act(`${value} between frames`, (p) => setBetween(p, piece.id, value as Between))
          }
        />
        <Box sx={{ flex: 1 }} />
        shutter
        <DrivenNumber
          label="Shutter"
          field={SHUTTER}
          width={52}
          value={piece.shutter}
          ground={ground}
          onChange={(value) => act('change the shutter', (p) => setShutter(p, piece.id, value))}
        />
      </Box>
      {piece.between === 'flow' && <Motion compiled={compiled} startFrame={startFrame} loops={loops} />}
    </>
  );
}
