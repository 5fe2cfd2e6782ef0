import { parseAmount } from '@skipback/core/time/amount';
import { Box } from '@mui/material';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { setSteady } from '@skipback/core/project/steady-actions';
import { MOST_SMOOTH, MOST_ZOOM, type Steady } from '@skipback/core/steady/steady';
import { ChoiceField } from '../parts/choice-field';
import { NoticeLine } from '../parts/notice-line';
import { ValueField } from '../parts/value-field';
import { act } from '../state/project-store';
import { mono } from '../theme';

const HOWS: readonly { value: Steady['how']; label: string }[] = [
  { value: 'stays', label: 'stands still' },
  { value: 'centre', label: 'in the middle' },
  { value: 'frame', label: 'frame follows' },
];

const EDGES: readonly { value: Steady['edges']; label: string }[] = [
  { value: 'zoom', label: 'brought in' },
  { value: 'mirrored', label: 'mirrored' },
  { value: 'black', label: 'black' },
];

/** By which track a piece's picture is held, and how. */
export function Held({ compiled }: { readonly compiled: CompiledPiece }) {
  const { piece, clip, placing } = compiled;
  const { steady } = piece;
  const set = (change: Partial<Steady> | null, words: string) =>
    act(words, (p) => setSteady(p, piece.id, change));
  const track = clip.tracks.find((t) => t.id === steady?.track);
  const gone = steady !== null && !track;
  const line = {
    display: 'flex',
    alignItems: 'center',
    gap: 0.75,
    mt: 0.5,
    fontFamily: mono,
    whiteSpace: 'nowrap',
    '& > *': { flexShrink: 0 },
    // A long name gives way.
    '& > .shrinks': { flexShrink: 1, minWidth: 0, '& select': { textOverflow: 'ellipsis' } },
  } as const;
  const number = (
    label: string,
    key: 'amount' | 'smooth' | 'closer',
    unit: string,
    [min, max]: readonly [number, number],
    hint: string,
  ) => (
    <ValueField
      label={label}
      text={`${Number(steady![key].toFixed(1))}${unit}`}
      width={52}
      hint={hint}
      onEnter={(typed) => {
        const n = parseAmount(typed, { unit: unit.trim(), least: min, most: max });
        if (typeof n === 'string') return n;
        set({ [key]: n }, `hold: ${label.toLowerCase()}`);
        return true;
      }}
      fine
      onStep={(by) =>
        set({ [key]: Math.min(max, Math.max(min, steady![key] + by)) }, `hold: ${label.toLowerCase()}`)
      }
    />
  );
  return (
    <>
      <Box sx={line}>
        held by
        <ChoiceField
          shrinks
          label="Held by"
          value={steady?.track ?? ''}
          options={[
            { value: '', label: 'nothing' },
            ...clip.tracks.map((t) => ({ value: t.id, label: t.name })),
            ...(gone ? [{ value: steady.track, label: 'a track that is gone' }] : []),
          ]}
          hint={
            clip.tracks.length === 0
              ? 'Follow something first: T, and press it on the picture.'
              : 'The picture is placed so that this track stands still, through every trip and backward part.'
          }
          onChange={(track) =>
            set(track === '' ? null : { track }, track === '' ? 'let go of the picture' : 'hold by a track')
          }
        />
        <Box sx={{ flex: 1 }} />
        {steady && (
          <ChoiceField
            label="How it is held"
            value={steady.how}
            options={HOWS}
            hint="Standing still where it is at first, brought to the middle, or the frame going along with it as far as the picture goes."
            onChange={(how) => set({ how: how as Steady['how'] }, 'how it is held')}
          />
        )}
      </Box>
      {steady && (
        <>
          <Box sx={line}>
            by
            {number('Amount', 'amount', ' %', [0, 100], 'How much of it: 0 is as it was')}
            soft
            {number(
              'Softness',
              'smooth',
              ' f',
              [0, MOST_SMOOTH],
              'Frames each way over which its way is evened out; 0 locks it',
            )}
            <Box sx={{ flex: 1 }} />
            {steady.how !== 'frame' && track && track.kind !== 'point' && (
              <ChoiceField
                label="Turn and size"
                value={steady.turns ? 'turns' : 'moves'}
                options={[
                  { value: 'turns', label: 'turn too' },
                  { value: 'moves', label: 'place only' },
                ]}
                onChange={(value) => set({ turns: value === 'turns' }, 'what is held')}
              />
            )}
          </Box>
          <Box sx={line}>
            closer
            {number('Closer', 'closer', ' %', [100, MOST_ZOOM], 'Brought in further')}
            <Box sx={{ flex: 1 }} />
            {steady.how !== 'frame' && (
              <ChoiceField
                label="Edges"
                value={steady.edges}
                options={EDGES.map((e) =>
                  e.value === 'zoom' && placing && placing.zoomPercent > 100
                    ? { ...e, label: `edges: in to ${Math.ceil(placing.zoomPercent)} %` }
                    : { ...e, label: `edges: ${e.label}` },
                )}
                hint="What hides where the picture ends: it is brought in just as far as needed, or mirrored."
                onChange={(edges) => set({ edges: edges as Steady['edges'] }, 'edges')}
              />
            )}
          </Box>
          {gone && (
            <NoticeLine
              notice={{
                code: 'steady-no-track',
                level: 'warning',
                text: 'The track that held it is gone.',
                wayOut: 'Choose another, or nothing.',
              }}
            />
          )}
          {placing?.notices.map((n) => (
            <NoticeLine key={n.code} notice={n} />
          ))}
        </>
      )}
    </>
  );
}
