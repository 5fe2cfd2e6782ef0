import { later } from '@skipback/core/places/moved';
import { readPlace } from '@skipback/core/places/read';
import { placeText } from '@skipback/core/places/words';
import { usePlaceWords } from '../state/place-words';
import { timeAt } from '../state/time-at';
import { Box } from '@mui/material';
import { type Dissolve, dissolveFrames, dissolvesOf } from '@skipback/core/gather/dissolve';
import { beatsText, parseBeats } from '@skipback/core/places/beats-text';
import { isInBeats } from '@skipback/core/places/place';
import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import { setDissolve } from '@skipback/core/project/gather-actions';
import { LONGEST_DISSOLVE, type Piece } from '@skipback/core/project/schema';
import { parseLength } from '@skipback/core/time/amount';
import type { Rational } from '@skipback/core/time/rational';
import { useMemo } from 'react';
import { Line } from '../parts/line';
import { ValueField } from '../parts/value-field';
import { act } from '../state/project-store';
import { colors } from '../theme';

/** How a piece begins after the one before: with a cut, or a dissolve of so many frames or beats. */
export function ComesIn({ compiled, rate }: { readonly compiled: CompiledPiece; readonly rate: Rational }) {
  const { piece, music } = compiled;
  const { telling, reading } = usePlaceWords(piece.id);
  const set = (dissolve: Piece['dissolve']) =>
    act('dissolve at a join', (p) => setDissolve(p, piece.id, dissolve));
  const { dissolve } = piece;
  return (
    <Line label="Dissolve in">
      <ValueField
        label="Dissolve in"
        text={
          typeof dissolve === 'object' && 'until' in dissolve
            ? `until ${placeText(dissolve.until, telling)}`
            : isInBeats(dissolve)
              ? beatsText(dissolve)
              : dissolve === 0
                ? 'cut'
                : `${Math.round(dissolve)} f`
        }
        width={typeof dissolve === 'object' && 'until' in dissolve ? 150 : 84}
        hint="Frames, seconds, or beats of the song (2 b); until mark catch, until beat 5; 0 is a cut"
        onEnter={(typed) => {
          if (/^cut$/i.test(typed.trim())) return (set(0), true);
          const until = /^until\s+(.+)$/i.exec(typed.trim());
          if (until) {
            const place = readPlace(until[1]!, reading(), { least: 0, most: LONGEST_DISSOLVE });
            if (typeof place === 'string') return place;
            set({ until: place });
            return true;
          }
          const length =
            parseBeats(typed, music?.beatsPerBar ?? 4) ??
            parseLength(typed, rate, { least: 0, most: LONGEST_DISSOLVE, beat: timeAt().beat });
          if (typeof length === 'string') return `${length} Or cut.`;
          if (isInBeats(length) && length.beats > LONGEST_DISSOLVE)
            return `At most ${LONGEST_DISSOLVE} frames.`;
          set(length);
          return true;
        }}
        onStep={(by) =>
          set(
            isInBeats(dissolve)
              ? { beats: Math.max(0, dissolve.beats + by * 0.5) }
              : typeof dissolve === 'number'
                ? Math.max(0, Math.round(dissolve) + by)
                : { until: later(dissolve.until, by) },
          )
        }
      />
    </Line>
  );
}

/** What of a dissolve is not as it was asked for. */
export function ComesInSaid({
  project,
  compiled,
}: {
  readonly project: CompiledProject;
  readonly compiled: CompiledPiece;
}) {
  const made = useMemo(
    () => dissolvesOf(project.pieces).find((d) => d.after === compiled),
    [project, compiled],
  );
  return whatIsSaid(compiled, made).map((words) => (
    <Box key={words} role="status" sx={{ color: colors.attention, fontSize: 13 }}>
      {words}
    </Box>
  ));
}

/** What is not as it was asked for, in sentences. */
function whatIsSaid(compiled: CompiledPiece, made: Dissolve | undefined): string[] {
  if (isInBeats(compiled.piece.dissolve) && !compiled.music && compiled.piece.dissolve.beats > 0)
    return ['There is no song to count beats of: it is a cut.'];
  if (!made) return dissolveFrames(compiled) > 0 ? ['The piece before has no room: it is a cut.'] : [];
  const frames = made.end - made.first;
  const held = (clip: string, n: number, which: string) =>
    n > 0 ? [`${clip} has ${n} ${n === 1 ? 'picture' : 'pictures'} too few here: its ${which} is held.`] : [];
  return [
    ...(frames < made.wanted
      ? [`Only ${frames} of ${made.wanted} frames: the pieces are too short for more.`]
      : []),
    ...held(made.before.clip.name, made.heldBefore, 'end'),
    ...held(made.after.clip.name, made.heldAfter, 'beginning'),
  ];
}
