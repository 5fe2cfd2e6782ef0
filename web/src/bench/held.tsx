import { parseAmount } from '@skipback/core/time/amount';
import { Box } from '@mui/material';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { setSteady } from '@skipback/core/project/steady-actions';
import { MOST_SMOOTH, MOST_ZOOM, type Steady } from '@skipback/core/steady/steady';
import { ChoiceField } from '../parts/choice-field';
import { Line } from '../parts/line';
import { NoticeLine } from '../parts/notice-line';
import { ValueField } from '../parts/value-field';
import { act } from '../state/project-store';

const HOWS: readonly { value: Steady['how']; label: string }[] = [
  { value: 'stays', label: 'lock in place' },
  { value: 'centre', label: 'lock in the middle' },
  { value: 'frame', label: 'follow with the frame' },
];

const EDGES: readonly { value: Steady['edges']; label: string }[] = [
  { value: 'zoom', label: 'zoom to fill' },
  { value: 'mirrored', label: 'mirrored' },
  { value: 'black', label: 'black' },
];

/** By which track a piece's picture is stabilised, and how. */
export function Held({ compiled }: { readonly compiled: CompiledPiece }) {
  const { piece, clip, placing } = compiled;
  const { steady } = piece;
  const set = (change: Partial<Steady> | null, words: string) =>
    act(words, (p) => setSteady(p, piece.id, change));
  const track = clip.tracks.find((t) => t.id === steady?.track);
  const number = (
    label: string,
    key: 'amount' | 'smooth' | 'closer',
    unit: string,
    [min, max]: readonly [number, number],
    hint: string,
  ) => (
    <Line label={label}>
      <ValueField
        label={`Stabilise: ${label}`}
        text={`${Number(steady![key].toFixed(1))}${unit}`}
        width={64}
        hint={hint}
        onEnter={(typed) => {
          const n = parseAmount(typed, { unit: unit.trim(), least: min, most: max });
          if (typeof n === 'string') return n;
          set({ [key]: n }, `stabilise: ${label.toLowerCase()}`);
          return true;
        }}
        fine
        onStep={(by) =>
          set({ [key]: Math.min(max, Math.max(min, steady![key] + by)) }, `stabilise: ${label.toLowerCase()}`)
        }
      />
    </Line>
  );
  return (
    <>
      <Line label="Stabilise">
        <ChoiceField
          label="Stabilise"
          value={steady?.track ?? ''}
          options={[
            { value: '', label: 'off' },
            ...clip.tracks.map((t) => ({ value: t.id, label: t.name })),
            ...(steady && !track ? [{ value: steady.track, label: 'a track that is gone' }] : []),
          ]}
          hint={
            clip.tracks.length === 0
              ? 'Track something first: T, and click it on the picture.'
              : 'The picture is placed so that this track stays where it is, through every trip and backward part.'
          }
          onChange={(track) =>
            set(track === '' ? null : { track }, track === '' ? 'stabilise nothing' : 'stabilise by a track')
          }
        />
      </Line>
      {steady && (
        <Box sx={{ pl: 1 }}>
          <Line label="How">
            <ChoiceField
              label="Stabilise: how"
              value={steady.how}
              options={HOWS}
              hint="Locked where it is at first, locked in the middle, or the frame going along with it as far as the picture goes."
              onChange={(how) => set({ how: how as Steady['how'] }, 'how it is stabilised')}
            />
          </Line>
          {number('Amount', 'amount', ' %', [0, 100], 'How much of it: 0 is as it was')}
          {number(
            'Smoothing',
            'smooth',
            ' f',
            [0, MOST_SMOOTH],
            'Frames each way over which its way is evened out; 0 locks it',
          )}
          {steady.how !== 'frame' && track && track.kind !== 'point' && (
            <Line label="Corrects">
              <ChoiceField
                label="Stabilise: corrects"
                value={steady.turns ? 'turns' : 'moves'}
                options={[
                  { value: 'turns', label: 'turn and size too' },
                  { value: 'moves', label: 'the place only' },
                ]}
                onChange={(value) => set({ turns: value === 'turns' }, 'what is stabilised')}
              />
            </Line>
          )}
          {number('Zoom', 'closer', ' %', [100, MOST_ZOOM], 'Zoomed in further')}
          {steady.how !== 'frame' && (
            <Line label="Edges">
              <ChoiceField
                label="Stabilise: edges"
                value={steady.edges}
                options={EDGES.map((e) =>
                  e.value === 'zoom' && placing && placing.zoomPercent > 100
                    ? { ...e, label: `zoom to fill, ${Math.ceil(placing.zoomPercent)} %` }
                    : e,
                )}
                hint="What hides where the picture ends: zoomed in just as far as needed, or mirrored."
                onChange={(edges) => set({ edges: edges as Steady['edges'] }, 'edges')}
              />
            </Line>
          )}
        </Box>
      )}
    </>
  );
}

/** What has to be said of a picture that is stabilised. */
export function HeldSaid({ compiled }: { readonly compiled: CompiledPiece }) {
  const { piece, clip, placing } = compiled;
  if (!piece.steady) return null;
  const gone = !clip.tracks.some((t) => t.id === piece.steady?.track);
  return (
    <>
      {gone && (
        <NoticeLine
          notice={{
            code: 'steady-no-track',
            level: 'warning',
            text: 'The track that the picture is stabilised by is gone.',
            wayOut: 'Choose another, or off.',
          }}
        />
      )}
      {placing?.notices.map((n) => (
        <NoticeLine key={n.code} notice={n} />
      ))}
    </>
  );
}
