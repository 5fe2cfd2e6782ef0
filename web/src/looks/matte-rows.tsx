import { useFirst } from '../state/counting';
import { useTip } from '../commands/use-commands';
import { parseAmount } from '@skipback/core/time/amount';
import { Box, Button, Switch } from '@mui/material';
import type { Look } from '@skipback/core/looks/look';
import { type LookPlace, setLookMatte } from '@skipback/core/project/look-actions';
import type { CompiledPiece } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { type Matte, MatteSchema } from '@skipback/core/regions/matte';
import { useState } from 'react';
import { Line } from '../parts/line';
import { ChoiceField } from '../parts/choice-field';
import { ValueField } from '../parts/value-field';
import { setOpen, useOpen } from '../state/open';
import { act } from '../state/project-store';
import { ClipField } from './clip-field';

type NumberKey = 'frame' | 'threshold' | 'softness' | 'clean' | 'feather' | 'grow';

const FIELDS: readonly {
  readonly key: NumberKey;
  readonly label: string;
  readonly hint: string;
  readonly unit: string;
  readonly min: number;
  readonly max: number;
}[] = [
  { key: 'frame', label: 'Its frame', hint: 'Which frame is the clean plate', unit: ' f', min: 0, max: 1e7 },
  {
    ...{ key: 'threshold', label: 'Threshold', unit: ' %', min: 0, max: 100 },
    hint: 'Up to this nothing differs: above the noise of the picture',
  },
  {
    ...{ key: 'softness', label: 'Softness', unit: ' %', min: 0, max: 100 },
    hint: 'How softly what differs more comes in',
  },
  {
    ...{ key: 'clean', label: 'Despeckle', unit: ' px', min: 0, max: 60 },
    hint: 'Specks and holes up to about this size go',
  },
  { key: 'feather', label: 'Matte feather', hint: 'How softly it ends', unit: ' px', min: 0, max: 400 },
  { key: 'grow', label: 'Matte grow', hint: 'Its edge moved out, or in', unit: ' px', min: -60, max: 60 },
];

interface Props {
  readonly name: string;
  readonly where: LookPlace;
  readonly look: Look;
  readonly piece: CompiledPiece | undefined;
}

/** On which points of the picture a look is drawn, by what they show. */
export function MatteRows({ name, where, look, piece }: Props) {
  const { matte } = look;
  const first = useFirst();
  /** What the first frame is called, for the value that is one. */
  const called = (key: NumberKey) => (key === 'frame' ? first : 0);
  // Asked for here: then its plate is made at once.
  const [asked, setAsked] = useState(false);
  const seeGrey = useTip('grey', 'Show the matte');
  const grey = useOpen((s) => s.greyLook === look.id);
  const put = (project: Project, next: Matte | null) => setLookMatte(project, where, look.id, next);
  const set = (next: Matte | null, words: string) => act(words, (p) => put(p, next));
  return (
    <>
      <Line label="Matte">
        <ChoiceField
          label={`${name}: matte`}
          value={matte ? 'differs' : 'all'}
          options={[
            { value: 'all', label: 'off' },
            { value: 'differs', label: 'difference from a clean plate' },
          ]}
          hint="All that is there, or only what differs from a clean plate: the place without what moves through it."
          onChange={(chosen) => {
            setAsked(chosen !== 'all');
            return chosen === 'all'
              ? set(null, `${name} on all points`)
              : set(MatteSchema.parse({}), `${name} on what differs`);
          }}
        />
      </Line>
      {matte && (
        <Box sx={{ pl: 1 }}>
          <Line label="Clean plate">
            <ClipField
              label={`${name}: clean plate`}
              value={matte.clip ?? ''}
              own
              makesPlate={asked}
              of={piece?.clip.id}
              hint="A clip or a picture of the place without what moves through it, or a frame of this clip."
              onChange={(clip) => set({ ...matte, clip: clip || null }, `${name}, clean plate`)}
              put={(p, clip) => put(p, { ...matte, clip, frame: 0 })}
            />
          </Line>
          {FIELDS.map(({ key, label, hint, unit, min, max }) => (
            <Line key={key} label={label}>
              <ValueField
                label={`${name}: ${label}`}
                text={`${Number((matte[key] + called(key)).toFixed(1))}${unit}`}
                hint={hint}
                width={74}
                onEnter={(typed) => {
                  const n = parseAmount(typed, {
                    unit: unit.trim(),
                    least: min + called(key),
                    most: max + called(key),
                    whole: key === 'frame',
                  });
                  if (typeof n === 'string') return n;
                  set({ ...matte, [key]: n - called(key) }, `${name}, ${label.toLowerCase()}`);
                  return true;
                }}
                fine
                onStep={(by) =>
                  set(
                    { ...matte, [key]: Math.min(max, Math.max(min, matte[key] + by)) },
                    `${name}, ${label.toLowerCase()}`,
                  )
                }
              />
            </Line>
          ))}
          <Line label="Invert the matte">
            <Switch
              size="small"
              checked={matte.inverted}
              slotProps={{ input: { 'aria-label': `${name}: invert the matte` } }}
              onChange={(_, inverted) =>
                set({ ...matte, inverted }, `${name}, on ${inverted ? 'all else' : 'what differs'}`)
              }
            />
          </Line>
          <Line label="">
            <Button
              size="small"
              color="inherit"
              aria-pressed={grey}
              onClick={() => setOpen({ greyLook: grey ? null : look.id })}
            >
              {grey ? 'Hide the matte' : seeGrey}
            </Button>
          </Line>
        </Box>
      )}
    </>
  );
}
