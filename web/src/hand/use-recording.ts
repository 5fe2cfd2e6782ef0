import { frameAndFraction, frameCount, instantOf } from '@skipback/core/clip/frame-table';
import { chosenBeats } from '@skipback/core/beats/music';
import { type HandSample, pointsOfHand, tidied, withGesture } from '@skipback/core/edit/hand';
import { pointsOfPath } from '@skipback/core/path/drawn';
import { instantAt, pathLength } from '@skipback/core/path/path';
import { addStep } from '@skipback/core/project/actions';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { toNumber } from '@skipback/core/time/rational';
import { seconds, frame, frameWithin } from '@skipback/core/time/units';
import { useSnackbar } from 'notistack';
import { useEffect, useRef, useState } from 'react';
import { freshId } from '../state/ids';
import type { LoadedClip } from '../state/library';
import { setOpen } from '../state/open';
import { usePlaying } from '../state/playing';
import { select } from '../state/selection';
import { act } from '../state/project-store';
import { transport } from '../state/transport';
import { HandSound } from './hand-sound';

/** How far from a half beat a turn is still meant for it, as a share of the beat. */
const TIDY_REACH = 0.24;

/** What turned less than this, in source frames, was a click and no gesture. */
const LEAST_TURN = 1;

/** A gesture under way. */
interface Recording {
  readonly beganMs: number;
  readonly at: number;
  readonly samples: HandSample[];
  source: number;
}

export interface HandRecording {
  readonly live: boolean;
  /** Frames turned since the page opened, for the wheel's angle. */
  readonly turned: number;
  /** Whose sound is under the hand; undefined while it is being made ready, or where there is no sound. */
  readonly sound: 'clip' | 'record' | undefined;
  /** Gestures kept so far. */
  readonly kept: number;
  begin(): void;
  /** `atMs` is when the hand did it, by the page's clock: where the machine stalls, later than that is told. */
  turn(byFrames: number, atMs: number): void;
  /** Keeps the gesture; `rested` leaves out the time since it last turned. */
  finish(rested?: boolean): void;
  /** Forgets the gesture under way. */
  forget(): void;
}

/**
 * The source under the hand while the song runs. When the hand lets go, what it did is put into the piece's curve
 * at the playhead, raw or with its turns on half beats.
 */
export function useRecording(
  piece: CompiledPiece,
  pieceStart: number,
  clip: LoadedClip | undefined,
  { tidy, heard, gainDb }: { tidy: boolean; heard: boolean; gainDb: number },
): HandRecording {
  const { enqueueSnackbar } = useSnackbar();
  const recording = useRef<Recording | null>(null);
  const [live, setLive] = useState(false);
  const [turned, setTurned] = useState(0);
  const [kept, setKept] = useState(0);
  const [sound, setSound] = useState<HandRecording['sound']>();
  const hand = useRef<HandSound>(undefined);
  const count = frameCount(piece.table);
  const rateHz = toNumber(piece.path.rate);

  useEffect(() => {
    if (!clip) return;
    const opened = (hand.current = new HandSound());
    let closed = false;
    opened
      .open(clip, 0)
      .then((own) => !closed && setSound(own ? 'clip' : 'record'))
      .catch(() => undefined);
    return () => {
      closed = true;
      opened.close();
      setSound(undefined);
    };
  }, [clip]);
  useEffect(() => hand.current?.setHeard(heard, gainDb), [heard, gainDb, sound]);

  const tellHand = (kind: 'down' | 'move', source: number) => {
    if (clip) hand.current?.tellHand(kind, instantOf(clip.record.facts.table, source));
  };
  const begin = () => {
    const { position } = usePlaying.getState();
    const at = Math.min(pathLength(piece.path), Math.max(0, position - pieceStart));
    const source = frameAndFraction(piece.table, seconds(instantAt(piece.path, at)));
    recording.current = { beganMs: performance.now(), at, samples: [{ atS: 0, source }], source };
    setLive(true);
    tellHand('down', source);
    transport.seekSource(piece.clip.id, frameWithin(source, count));
    transport.soundAlone(frame(pieceStart + Math.floor(at)));
  };
  const turn = (byFrames: number, atMs: number) => {
    const r = recording.current;
    if (!r) return;
    r.source = Math.min(count - 0.01, Math.max(0, r.source + byFrames));
    const before = r.samples[r.samples.length - 1]!.atS;
    r.samples.push({ atS: Math.max(before, (atMs - r.beganMs) / 1000), source: r.source });
    setTurned((t) => t + byFrames);
    tellHand('move', r.source);
    transport.seekSource(piece.clip.id, frameWithin(r.source, count), true);
  };
  const forget = () => {
    recording.current = null;
    setLive(false);
    transport.stopSound();
  };
  const finish = (rested = false) => {
    const r = recording.current;
    forget();
    if (!r) return;
    if (!rested) r.samples.push({ atS: (performance.now() - r.beganMs) / 1000, source: r.source });
    const { source: first } = r.samples[0]!;
    if (r.samples.every((s) => Math.abs(s.source - first) < LEAST_TURN))
      return transport.seekResult(frame(pieceStart + Math.floor(r.at)));
    const { points, origin } = pointsOfPath(piece.path, piece.table);
    const raw = pointsOfHand(r.samples, rateHz, origin);
    const { music } = piece;
    const beat = music && music.beats.length > 1 ? music.beats[1]! - music.beats[0]! : 0;
    const moments = music ? chosenBeats(music, 'half', r.at, Infinity).map((b) => b - r.at) : [];
    const gesture = tidy && beat > 0 ? tidied(raw, moments, beat * TIDY_REACH) : raw;
    const sourceAt = frameAndFraction(piece.table, seconds(instantAt(piece.path, r.at))) - origin;
    const id = freshId();
    act('play it by hand', (p) =>
      addStep(p, piece.piece.id, {
        id,
        move: 'curve',
        values: { points: withGesture(points, gesture, r.at, sourceAt) },
      }),
    );
    setKept((n) => n + 1);
    select({ stepId: id });
    setOpen({ mode: 'curve' });
    transport.seekResult(frame(pieceStart + Math.floor(r.at)));
    enqueueSnackbar(
      `${gesture[gesture.length - 1]!.at} frames by hand, ${gesture.length} points in the curve`,
    );
  };
  return { live, turned, sound, kept, begin, turn, finish, forget };
}
