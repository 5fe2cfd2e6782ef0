import { timeAt } from '../../state/time-at';
import { parseAmount } from '@skipback/core/time/amount';
import { Box, Button } from '@mui/material';
import type { Mark } from '@skipback/core/project/schema';
import { FieldEditor } from '../../bench/field-editor';
import { isInBeats } from '@skipback/core/places/place';
import type { Field } from '@skipback/core/moves/move';
import { MOST_STEPS, type Cell, type PatternValues, type Way, pattern } from '@skipback/core/moves/pattern';
import {
  lengthened,
  mirrored,
  mixed,
  painted,
  repeated,
  shifted,
  thinned,
} from '@skipback/core/moves/pattern-edits';
import { addStep, setStepValues } from '@skipback/core/project/actions';
import { frameAt } from '@skipback/core/clip/frame-table';
import { applyChain } from '@skipback/core/moves/chain';
import { valuesOf } from '@skipback/core/moves/registry';
import { instantAt, pathLength } from '@skipback/core/path/path';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { seconds, frame } from '@skipback/core/time/units';
import { useState } from 'react';
import { ChoiceRow } from '../../parts/choice-row';
import { ValueField } from '../../parts/value-field';
import { freshId } from '../../state/ids';
import { usePlaying } from '../../state/playing';
import { select, useSelection } from '../../state/selection';
import { act } from '../../state/project-store';
import { transport } from '../../state/transport';
import { colors } from '../../theme';
import { BRUSHES, type Row, StepGrid } from './step-grid';
import { BarHint, WeaveBar } from '../weave-bar';
import type { WeaveModel } from '../weave-model';

/** Steps across, slices and marks down: paint which part plays when, and which way. */
export function PatternGrid({ model }: { readonly model: WeaveModel }) {
  const { piece, clip, pieceStart } = model;
  const chosenStep = useSelection((s) => s.stepId);
  const [brush, setBrush] = useState<Way>('forward');
  const [seed, setSeed] = useState(1);
  const chain = piece?.piece.chain ?? [];
  const step =
    chain.find((s) => s.id === chosenStep && s.move === 'pattern') ??
    chain.findLast((s) => s.move === 'pattern');
  if (!piece || !step)
    return (
      <>
        <WeaveBar model={model}>
          <BarHint text="The steps are those of a Pattern." />
        </WeaveBar>
        <Box sx={{ flex: 1, display: 'grid', placeItems: 'center', color: colors.quiet, minHeight: 200 }}>
          <Box sx={{ textAlign: 'center' }}>
            <Box sx={{ mb: 1.5 }}>
              {piece
                ? 'A Pattern cuts what comes in into slices and plays them in any order, forward, back or held.'
                : 'There is no piece yet: import a clip first.'}
            </Box>
            {piece && (
              <Button
                variant="contained"
                onClick={() => {
                  const id = freshId();
                  act('add Pattern', (p) => addStep(p, piece.piece.id, { id, move: 'pattern' }));
                  select({ stepId: id });
                }}
              >
                Add a Pattern
              </Button>
            )}
          </Box>
        </Box>
      </>
    );

  const values = valuesOf(step) as PatternValues;
  const set = (words: string, change: Partial<PatternValues>) => {
    act(words, (p) => setStepValues(p, piece.piece.id, step.id, change));
    if (usePlaying.getState().step === 0) {
      transport.seekResult(frame(pieceStart));
      transport.play(1);
    }
  };
  const setSteps = (words: string, steps: readonly Cell[]) => set(words, { steps: [...steps] });
  const marks = clip?.clip.id === piece.clip.id ? clip.clip.marks : piece.clip.marks;
  const rows = rowsOf(piece, step.id, values.slices, marks);
  const whole = (most: number, take: (n: number) => void) => (typed: string) => {
    const n = parseAmount(typed, { unit: 'f', least: 1, most, whole: true, at: timeAt() });
    if (typeof n === 'string') return n;
    take(n);
    return true;
  };
  const { steps } = values;
  return (
    <>
      <WeaveBar model={model} ownRow>
        <ChoiceRow<Way>
          label="Brush"
          value={brush}
          options={BRUSHES.map(({ way, label, sign, color }) => ({
            value: way,
            label: `${sign} ${label}`,
            color,
          }))}
          onChange={setBrush}
        />
        <Tool
          label="Repeat"
          onPress={() => setSteps('repeat the pattern', repeated(steps))}
          disabled={steps.length >= MOST_STEPS}
        />
        <Tool label="← Shift" onPress={() => setSteps('shift the pattern', shifted(steps, -1))} />
        <Tool label="Shift →" onPress={() => setSteps('shift the pattern', shifted(steps, 1))} />
        <Tool label="Mirror" onPress={() => setSteps('mirror the pattern', mirrored(steps))} />
        <Tool label="Thin out" onPress={() => setSteps('thin the pattern out', thinned(steps))} />
        <Tool
          label={`Shuffle ${seed}`}
          onPress={() => {
            setSteps('shuffle the pattern', mixed(steps, seed));
            setSeed(seed + 1);
          }}
        />
      </WeaveBar>
      <Box sx={{ flex: 1, minHeight: 200, display: 'flex', px: 2, pb: 1.5, gap: 2 }}>
        <Box sx={{ width: 128, flex: 'none', color: colors.quiet, pt: 0.5 }}>
          {(
            [
              ['Slices', values.slices, 64, (n: number) => set('change the slices', { slices: n })],
              [
                'Steps',
                steps.length,
                MOST_STEPS,
                (n: number) => setSteps('change the number of steps', lengthened(steps, n)),
              ],
            ] as const
          ).map(([label, value, most, take]) => (
            <Box
              key={label}
              sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'center', height: 30 }}
            >
              {label}
              <ValueField
                label={`Grid: ${label}`}
                text={String(value)}
                width={44}
                onEnter={whole(most, take)}
                onStep={(by) => take(Math.min(most, Math.max(1, value + by)))}
              />
            </Box>
          ))}
          {pattern.fields
            .filter((f) => f.key === 'length' || f.key === 'swing')
            .map((field) => (
              <Box key={field.key} sx={{ mt: 0.75 }}>
                <Box>{field.label}</Box>
                <FieldEditor
                  pieceId={piece.piece.id}
                  step={step}
                  name="Grid"
                  field={field as unknown as Field<Record<string, unknown>>}
                  rate={model.project.rate}
                />
              </Box>
            ))}
        </Box>
        <StepGrid
          rows={rows}
          thumbnails={clip?.clip.id === piece.clip.id ? model.thumbnails : undefined}
          steps={steps}
          brush={brush}
          stepFrames={isInBeats(values.length) ? piece.shown.length / steps.length : values.length}
          pieceStart={pieceStart}
          last={step.id === chain.findLast((s) => s.on)?.id}
          onPaint={(at, cell) => setSteps('paint the pattern', painted(steps, at, cell))}
          onBrush={setBrush}
        />
      </Box>
    </>
  );
}

/** A row for each slice of what comes in, and one for each mark of the clip. */
function rowsOf(piece: CompiledPiece, stepId: string, slices: number, marks: readonly Mark[]): Row[] {
  const { chain } = piece.piece;
  const before = chain.slice(
    0,
    chain.findIndex((s) => s.id === stepId),
  );
  const incoming = applyChain(piece.base, before, {
    table: piece.table,
    music: piece.music,
    marks: piece.clip.marks,
  }).path;
  const total = pathLength(incoming);
  const frameOf = (slice: number) =>
    frameAt(
      piece.table,
      seconds(
        instantAt(incoming, Math.min((slice * total) / slices + 0.5, ((slice + 0.5) * total) / slices)),
      ),
    );
  return [
    ...Array.from({ length: slices }, (_, i) => ({
      label: String(i + 1),
      cell: { slice: i + 1 },
      frame: frameOf(i),
    })),
    ...marks.map((m) => ({ label: m.name, cell: { slice: 1, from: { mark: m.id } }, frame: m.frame })),
  ];
}

function Tool({
  label,
  onPress,
  disabled = false,
}: {
  label: string;
  onPress: () => void;
  disabled?: boolean;
}) {
  return (
    <Button
      size="small"
      color="inherit"
      disabled={disabled}
      sx={{ minWidth: 0, px: 0.75, py: 0, flex: 'none' }}
      onClick={onPress}
    >
      {label}
    </Button>
  );
}
