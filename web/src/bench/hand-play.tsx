import { Box, Button, Switch } from '@mui/material';
import { frameAndFraction, frameCount, meanRateHz } from '@skipback/core/clip/frame-table';
import { chosenBeats } from '@skipback/core/beats/music';
import { type HandSample, pointsOfHand, tidied, withGesture } from '@skipback/core/edit/hand';
import { pointsOfPath } from '@skipback/core/path/drawn';
import { instantAt, pathFrames } from '@skipback/core/path/path';
import { addStep } from '@skipback/core/project/actions';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { toNumber } from '@skipback/core/time/rational';
import { seconds } from '@skipback/core/time/units';
import { useSnackbar } from 'notistack';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { freshId } from '../state/ids';
import { setPlayback, usePlayback } from '../state/playback';
import { act } from '../state/project-store';
import { transport } from '../state/transport';
import { colors } from '../theme';

interface Props {
  readonly piece: CompiledPiece;
  readonly pieceStart: number;
  onClose(): void;
}

/** Pixels of a drag, and degrees of the wheel, for one frame of the clip. */
const PIXELS_A_FRAME = 5;
const DEGREES_A_FRAME = 6;
/** Frames a second that a held arrow turns the wheel by. */
const KEY_SPEED = 45;
/** How far from a half beat a turn is still meant for it, as a share of the beat. */
const TIDY_REACH = 0.24;

/** A gesture under way. */
interface Recording {
  readonly beganMs: number;
  readonly at: number;
  readonly samples: HandSample[];
  source: number;
}

/**
 * The source under the hand: drag on the wheel, or turn it with the arrows, while the song runs. When the hand
 * lets go, what it did is in the piece's curve at the playhead, raw or tidied to the beat.
 */
export function HandPlay({ piece, pieceStart, onClose }: Props) {
  const { enqueueSnackbar } = useSnackbar();
  const recording = useRef<Recording | null>(null);
  const [tidy, setTidy] = useState(true);
  const [angle, setAngle] = useState(0);
  const [live, setLive] = useState(false);
  const keys = useRef({ way: 0, last: 0 });
  const count = frameCount(piece.table);
  const rateHz = toNumber(piece.path.rate);

  const begin = () => {
    const { position } = usePlayback.getState();
    const at = Math.min(pathFrames(piece.path), Math.max(0, position - pieceStart));
    const source = frameAndFraction(piece.table, seconds(instantAt(piece.path, at)));
    recording.current = { beganMs: performance.now(), at, samples: [{ atS: 0, source }], source };
    setLive(true);
    transport.seekSource(piece.clip.id, Math.min(count - 1, Math.floor(source)));
    transport.soundAlone(pieceStart + at);
  };
  const turn = (byFrames: number) => {
    const r = recording.current;
    if (!r) return;
    r.source = Math.min(count - 0.01, Math.max(0, r.source + byFrames));
    r.samples.push({ atS: (performance.now() - r.beganMs) / 1000, source: r.source });
    setAngle((a) => a + byFrames * DEGREES_A_FRAME);
    transport.seekSource(piece.clip.id, Math.floor(r.source), true);
  };
  const finish = () => {
    const r = recording.current;
    recording.current = null;
    setLive(false);
    transport.stopSound();
    if (!r) return;
    r.samples.push({ atS: (performance.now() - r.beganMs) / 1000, source: r.source });
    if (r.samples.length < 4) {
      transport.seekResult(pieceStart + r.at);
      return;
    }
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
    setPlayback({ stepId: id, mode: 'curve' });
    transport.seekResult(pieceStart + r.at);
    enqueueSnackbar(
      `${gesture[gesture.length - 1]!.at} frames by hand, ${gesture.length} points in the curve`,
    );
  };

  const hands = useRef({ begin, turn, finish, onClose });
  useEffect(() => void (hands.current = { begin, turn, finish, onClose }));
  // Arrows turn the wheel while they are held; the gesture begins with the first and ends a moment after the last.
  useEffect(() => {
    let request = 0;
    let idle = 0;
    const step = (now: number) => {
      const k = keys.current;
      if (k.way !== 0) {
        hands.current.turn((k.way * KEY_SPEED * (now - k.last)) / 1000);
        idle = now;
      } else if (recording.current && now - idle > 700) return hands.current.finish();
      k.last = now;
      if (recording.current) request = requestAnimationFrame(step);
    };
    const onKey = (event: KeyboardEvent) => {
      const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
      if (event.key === 'Escape' && event.type === 'keydown') {
        recording.current = null;
        transport.stopSound();
        event.stopPropagation();
        return hands.current.onClose();
      }
      if (way === undefined) return;
      event.preventDefault();
      event.stopPropagation();
      if (event.type === 'keyup') {
        if (keys.current.way === way) keys.current.way = 0;
        return;
      }
      if (event.repeat) return;
      keys.current = { way, last: performance.now() };
      idle = performance.now();
      if (!recording.current) {
        hands.current.begin();
        request = requestAnimationFrame(step);
      }
    };
    window.addEventListener('keydown', onKey, true);
    window.addEventListener('keyup', onKey, true);
    return () => {
      cancelAnimationFrame(request);
      window.removeEventListener('keydown', onKey, true);
      window.removeEventListener('keyup', onKey, true);
    };
  }, []);

  const pointer = useRef<{ x: number; y: number } | null>(null);
  const onDown = (event: PointerEvent) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    pointer.current = { x: event.clientX, y: event.clientY };
    begin();
  };
  const onMove = (event: PointerEvent) => {
    const from = pointer.current;
    if (!from || !recording.current) return;
    turn((event.clientX - from.x) / PIXELS_A_FRAME);
    pointer.current = { x: event.clientX, y: event.clientY };
  };
  const onUp = () => {
    if (pointer.current) finish();
    pointer.current = null;
  };
  const slow = meanRateHz(piece.table) / PIXELS_A_FRAME;
  return (
    <Box
      role="group"
      aria-label="Play by hand"
      sx={{
        position: 'absolute',
        left: '50%',
        bottom: 12,
        transform: 'translateX(-50%)',
        display: 'flex',
        alignItems: 'center',
        gap: 2,
        px: 2,
        py: 1.25,
        borderRadius: 3,
        bgcolor: 'rgba(18,18,18,0.9)',
        boxShadow: live ? `0 0 0 2px ${colors.attention}` : 'none',
      }}
    >
      <Box
        role="slider"
        tabIndex={0}
        aria-label="Wheel: drag sideways, or hold the arrows"
        aria-valuenow={Math.round(angle / DEGREES_A_FRAME)}
        onPointerDown={onDown}
        onPointerMove={onMove}
        onPointerUp={onUp}
        onPointerCancel={onUp}
        title={`Drag sideways: ${Math.round(PIXELS_A_FRAME)} pixels a frame, ${Math.round(slow)} a second`}
        sx={{
          width: 76,
          height: 76,
          borderRadius: '50%',
          bgcolor: colors.raised,
          cursor: 'grab',
          touchAction: 'none',
          position: 'relative',
          flex: 'none',
          '&:active': { cursor: 'grabbing' },
        }}
      >
        <svg
          width="76"
          height="76"
          viewBox="-38 -38 76 76"
          aria-hidden="true"
          style={{ transform: `rotate(${angle}deg)` }}
        >
          <circle r="35" fill="none" stroke={colors.line} strokeWidth="2" />
          <circle r="10" fill={colors.ground} />
          {[0, 60, 120, 180, 240, 300].map((a) => (
            <line
              key={a}
              x1="0"
              y1="-14"
              x2="0"
              y2="-33"
              stroke={a === 0 ? colors.ink : colors.faint}
              strokeWidth={a === 0 ? 4 : 1.5}
              transform={`rotate(${a})`}
            />
          ))}
        </svg>
      </Box>
      <Box sx={{ width: 345, fontSize: 13, lineHeight: 1.45 }}>
        <Box sx={{ fontWeight: 600 }}>
          {live ? 'Recording: let go to keep it' : 'Drag the wheel sideways, or hold ← and →'}
        </Box>
        <Box sx={{ color: colors.quiet }}>It goes into the curve at the playhead while the song runs.</Box>
        <Box component="label" sx={{ display: 'flex', alignItems: 'center', gap: 0.5, color: colors.quiet }}>
          <Switch
            size="small"
            checked={tidy}
            slotProps={{ input: { 'aria-label': 'Tidy to the beat' } }}
            onChange={(_, on) => setTidy(on)}
          />
          Turns go to the nearest half beat
        </Box>
      </Box>
      <Button size="small" color="inherit" onClick={onClose}>
        Done
      </Button>
    </Box>
  );
}
