import { timeAt } from '../../state/time-at';
import { parseLength, parseShare } from '@skipback/core/time/amount';
import { Box } from '@mui/material';
import { hintsFor } from '@skipback/core/checks/hints';
import { behindSegment, heldSegment, stretchSegment } from '@skipback/core/project/stretch';
import { setStepValue } from '@skipback/core/project/actions';
import { setBetween } from '@skipback/core/project/gather-actions';
import { percentText } from '@skipback/core/time/entry';
import { roundHalfUp, frame } from '@skipback/core/time/units';
import { useMemo } from 'react';
import { BETWEEN_WORDS } from '../../bench/reading-words';
import { Mending } from '../../parts/small-button';
import { ValueField } from '../../parts/value-field';
import { useFirst } from '../../state/counting';
import { freshId } from '../../state/ids';
import { act } from '../../state/project-store';
import { transport } from '../../state/transport';
import { colors, mono } from '../../theme';
import type { Ribbon } from './ribbons';
import { BarHint, WeaveBar } from '../weave-bar';
import type { WeaveModel } from '../weave-model';

/** The selected segment as numbers to be typed, or else a hint that says what could be done. */
export function ThreadsBar({ model }: { readonly model: WeaveModel }) {
  return (
    <WeaveBar model={model}>
      {model.selected ? <SegmentFacts model={model} segment={model.selected} /> : <Hints model={model} />}
    </WeaveBar>
  );
}

const WORDS = { forward: 'forward', backward: 'backward', hold: 'hold', ramp: 'ramp' } as const;

function SegmentFacts({ model, segment }: { model: WeaveModel; segment: Ribbon }) {
  const { piece } = model;
  const held = piece && heldSegment(piece.path, segment.index);
  const frames = held ? Number((held.to - held.from).toFixed(2)) : 0;
  const behind = piece && behindSegment(piece, segment.index);
  const first = useFirst();
  const of = model.piece?.path.segments.length ?? 0;
  const own = held && piece ? piece.path.segments.slice(held.first, held.end) : [];
  const way = own.length > 0 ? Math.abs(own.at(-1)!.to - own[0]!.from) : 0;
  const mean = frames > 0 ? (way / (frames / model.rateHz)) * 100 : 0;
  const ends = model.ribbons.filter((r) => r.pieceId === segment.pieceId);
  const [begins, stops] = [ends[held?.first ?? 0] ?? segment, ends[(held?.end ?? 1) - 1] ?? segment];
  const stretch = (length: number) => {
    if (length < 1 || length > 1_000_000) return false;
    if (piece) act('stretch a segment', (p) => stretchSegment(p, piece, segment.index, length, freshId));
    return true;
  };
  const bySpeed = (percent: number | undefined) =>
    percent !== undefined && percent > 0 && stretch(roundHalfUp((frames * mean) / percent));
  return (
    <Box
      role="group"
      aria-label="Selected segment"
      sx={{ display: 'flex', alignItems: 'center', gap: 0.75, color: colors.quiet }}
    >
      <Box sx={{ color: colors.ink, fontWeight: 600 }}>
        segment {segment.index + 1} of {of}, {WORDS[segment.kind]}
      </Box>
      {segment.kind !== 'hold' && (
        <ValueField
          label="Segment: speed"
          text={percentText(mean)}
          width={76}
          hint="Percent or a factor: 50, 50 % or 0.5x. Its length follows"
          onEnter={(typed) => {
            const percent = parseShare(typed, 0.01, 1_000_000);
            return typeof percent === 'string' ? percent : bySpeed(percent);
          }}
          onStep={(by) => bySpeed(mean + 5 * by)}
        />
      )}
      <ValueField
        label="Segment: length"
        text={`${frames} f`}
        width={64}
        hint="Frames, seconds or h:m:s:f. Its speed follows"
        onEnter={(typed) => {
          const n = parseLength(typed, model.project.rate, {
            least: 1,
            most: 1_000_000,
            beat: timeAt().beat,
          });
          return typeof n === 'string' ? n : stretch(n);
        }}
        onStep={(by) => stretch(frames + by)}
      />
      {behind && (
        <Box sx={{ whiteSpace: 'nowrap' }} data-testid="behind">
          by {behind.words}
          {behind.copies > 1 && `: ${behind.copies} follow`}
        </Box>
      )}
      <Box sx={{ fontFamily: mono }}>
        source {Math.round(begins.sourceFrom) + first} to {Math.round(stops.sourceTo) + first}
      </Box>
    </Box>
  );
}

function Hints({ model }: { model: WeaveModel }) {
  const { piece, pieceStart } = model;
  const hint = useMemo(() => (piece ? hintsFor(piece)[0] : undefined), [piece]);
  if (!piece || !hint)
    return <BarHint alone text={piece ? 'Click a thread or a segment to see and type its numbers.' : ''} />;
  const { cure } = hint;
  return (
    <>
      <BarHint text={hint.text} />
      {hint.code === 'repeats' && (
        <Mending onPress={() => transport.seekResult(frame(pieceStart + hint.atFrame))}>Show</Mending>
      )}
      {cure && (
        <Mending
          onPress={() =>
            act('take the cleanest slow speed', (p) =>
              setStepValue(p, piece.piece.id, cure.stepId, 'percent', cure.percent),
            )
          }
        >
          Use {percentText(cure.percent)}
        </Mending>
      )}
      {hint.code === 'repeats' &&
        WAYS.map(({ between, words, title }) => (
          <Mending
            key={between}
            title={title}
            onPress={() =>
              act(`${BETWEEN_WORDS[between]} between frames`, (p) => setBetween(p, piece.piece.id, between))
            }
          >
            {words}
          </Mending>
        ))}
    </>
  );
}

/** What can be done about frames that repeat. */
const WAYS = [
  { between: 'mix', words: 'Blend', title: 'Pictures between two frames are made of both.' },
  {
    between: 'flow',
    words: 'Motion flow',
    title: 'Pictures between two frames are made of both, moved along the motion.',
  },
] as const;
