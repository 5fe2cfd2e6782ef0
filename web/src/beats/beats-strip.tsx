import { Box } from '@mui/material';
import { addedAccent } from '@skipback/core/beats/accent-edits';
import { denseBars } from '@skipback/core/beats/accents';
import { addedBeat, movedBeat, placeOf, removedBeat } from '@skipback/core/beats/grid';
import { type View, shiftedView, zoomedView } from '@skipback/core/edit/view';
import type { Song } from '@skipback/core/project/schema';
import { changeAccents, setGrid } from '@skipback/core/project/song-actions';
import type { SoundFacts } from '@skipback/media/sound/messages';
import { useDrag, useGesture } from '@use-gesture/react';
import { type KeyboardEvent, type MouseEvent, useCallback, useEffect, useMemo, useRef } from 'react';
import { seenOf, setBeatsView, useBeatsView } from '../state/beats-view';
import { act } from '../state/project-store';
import { colors } from '../theme';
import { linearScale } from '../weave/scales';
import { useCanvas } from '../weave/use-canvas';
import { useEditDrag } from '../weave/use-edit-drag';
import { layer, surface } from '../weave/use-plot';
import { fitCanvas, useSize } from '../weave/use-size';
import { AccentHandles } from './accent-handles';
import { beatsLayout, drawBeatsView } from './draw-beats';
import type { SongPlaying } from './use-song-player';

interface Props {
  readonly song: Song;
  readonly facts: SoundFacts | null | undefined;
  readonly playing: SongPlaying;
  readonly chosen: number | null;
  onChoose(place: number | null): void;
}

const PADDING = 16;
/** Pixels that beats must be apart for their flags to be taken hold of. */
const APART = 9;

/**
 * Which of the beats at `places`, pixels from the left, have a flag in a strip of `width` pixels: the chosen one always,
 * which may be held.
 */
function flagged(places: readonly number[], width: number, chosen: number | null): number[] {
  const flags: number[] = [];
  const kept = chosen === null ? undefined : places[chosen];
  let last = -Infinity;
  places.forEach((px, i) => {
    if (i !== chosen) {
      if (px < -8 || px > width + 8 || px - last < APART) return;
      if (kept !== undefined && Math.abs(px - kept) < APART) return;
    }
    flags.push(i);
    last = px;
  });
  return flags;
}

/** The song large: waveform, accents in three bands, and every beat to be taken hold of. */
export function BeatsStrip({ song, facts, playing, chosen, onChoose }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const still = useRef<HTMLCanvasElement>(null);
  const moving = useRef<HTMLCanvasElement>(null);
  const size = useSize(frame);
  const { width, height } = size;
  const kept = useBeatsView((s) => s.view);
  const accent = useBeatsView((s) => s.accent);
  const view = useMemo(() => seenOf(kept, song.lengthS), [kept, song.lengthS]);
  const setView = (next: View) => setBeatsView({ view: next });
  const layout = useMemo(() => beatsLayout(width, height), [width, height]);
  const x = useMemo(() => linearScale(view.from, view.to, PADDING, width - PADDING), [view, width]);
  const dense = useMemo(() => denseBars(song.grid, song.accents, 12), [song]);
  const draw = useCallback(
    (c: CanvasRenderingContext2D) => drawBeatsView(c, layout, x, song, facts, dense),
    [layout, x, song, facts, dense],
  );
  useCanvas(still, size, draw);

  const player = useRef(playing);
  useEffect(() => void (player.current = playing));
  useEffect(() => {
    let request = 0;
    const tick = () => {
      const at = player.current.now();
      if (moving.current && width > 0) {
        const c = fitCanvas(moving.current, width, height);
        c.clearRect(0, 0, width, height);
        c.fillStyle = '#ffffff';
        c.fillRect(x(at) - 0.75, layout.flags - 8, 1.5, height - layout.flags - 12);
      }
      if (player.current.playing) {
        if (at > view.to || at < view.from) {
          const length = view.to - view.from;
          const from = Math.max(0, Math.min(song.lengthS - length, at - length * 0.08));
          setView({ from, to: from + length });
        }
        request = requestAnimationFrame(tick);
      }
    };
    tick();
    return () => cancelAnimationFrame(request);
  }, [x, layout, width, height, playing.playing, playing.atS, view, song.lengthS]);

  const local = (event: { clientX: number; clientY: number }) => {
    const box = frame.current!.getBoundingClientRect();
    return { x: event.clientX - box.left, y: event.clientY - box.top };
  };
  const bindDrag = useDrag(
    ({ xy: [clientX, clientY], event, first }) => {
      if (first) (event.currentTarget as HTMLElement | null)?.focus?.({ preventScroll: true });
      playing.seek(x.invert(local({ clientX, clientY }).x));
    },
    { pointer: { keys: false } },
  );
  useGesture(
    {
      onWheel: ({ event, delta: [dx, dy] }) => {
        event.preventDefault();
        const at = x.invert(local(event).x);
        const perPixel = (view.to - view.from) / (width - 2 * PADDING);
        const sideways = Math.abs(dx) > Math.abs(dy) || event.shiftKey;
        // The view's arithmetic counts in hundredths of a second, so that its closest zoom is an eighth of one.
        const hundred = { from: view.from * 100, to: view.to * 100 };
        const next = sideways
          ? shiftedView(hundred, (dx || dy) * perPixel * 100, song.lengthS * 100)
          : zoomedView(hundred, Math.exp(dy * 0.0022), at * 100, song.lengthS * 100);
        setView({ from: next.from / 100, to: next.to / 100 });
      },
    },
    { target: frame, eventOptions: { passive: false } },
  );
  const change = (words: string, grid: Song['grid']) => act(words, (p) => setGrid(p, grid));
  const drag = useEditDrag<number, { place: number; was: number; grid: Song['grid']; perSecond: number }>({
    begin: (place) => {
      onChoose(place);
      return { place, was: song.grid.beats[place]!, grid: song.grid, perSecond: x(1) - x(0) };
    },
    move: ({ place, was, grid, perSecond }, { dx }) =>
      change('move a beat', movedBeat(grid, place, was + dx / perSecond)),
  });
  const onKey = (place: number) => (event: KeyboardEvent) => {
    const by = { ArrowLeft: -0.005, ArrowRight: 0.005 }[event.key];
    if (by !== undefined)
      change(
        'move a beat',
        movedBeat(song.grid, place, song.grid.beats[place]! + by * (event.shiftKey ? 4 : 1)),
      );
    else if (event.key === 'Delete' || event.key === 'Backspace') {
      change('remove a beat', removedBeat(song.grid, place));
      onChoose(song.grid.beats.length > 1 ? Math.min(place, song.grid.beats.length - 2) : null);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const onDouble = (event: MouseEvent) => {
    const at = local(event);
    if (at.y <= layout.flags) return change('add a beat', addedBeat(song.grid, x.invert(at.x)));
    const row = layout.bands.find(([, top, bottom]) => at.y >= top && at.y <= bottom);
    if (!row) return;
    const [band, top, bottom] = row;
    const strength = Number(Math.min(1, Math.max(0.05, (bottom - at.y) / (bottom - top))).toFixed(2));
    const accent = { at: Number(x.invert(at.x).toFixed(4)), band, strength };
    if (accent.at < 0 || accent.at > song.lengthS) return;
    act('add an accent', (p) => changeAccents(p, (s) => addedAccent(s, accent)));
    setBeatsView({ accent: { at: accent.at, band }, chosen: null });
  };

  const flags = width > 0 ? flagged(song.grid.beats.map(x), width, chosen) : [];
  const tabbed = chosen !== null && flags.includes(chosen) ? chosen : flags[0];
  // The focus goes along where the choice goes by keys.
  useEffect(() => {
    if (document.activeElement?.hasAttribute('data-beat'))
      frame.current?.querySelector<HTMLElement>(`[data-beat="${chosen}"]`)?.focus({ preventScroll: true });
  }, [chosen]);

  return (
    <Box
      ref={frame}
      {...bindDrag()}
      tabIndex={-1}
      role="group"
      aria-label="The song: waveform, beats and accents"
      onDoubleClick={onDouble}
      sx={surface}
    >
      <canvas ref={still} style={layer} />
      <canvas ref={moving} style={{ ...layer, pointerEvents: 'none' }} />
      {width > 0 && <AccentHandles song={song} layout={layout} x={x} chosen={accent} />}
      {flags.map((i) => {
        const beat = song.grid.beats[i]!;
        const px = x(beat);
        const place = placeOf(song.grid, i);
        return (
          <Box
            key={i}
            {...drag(i)}
            role="slider"
            data-beat={i}
            tabIndex={i === tabbed ? 0 : -1}
            aria-label={`Bar ${place.bar + 1}, beat ${place.beat + 1}`}
            aria-valuenow={Number(beat.toFixed(3))}
            aria-valuemin={0}
            aria-valuemax={song.lengthS}
            onFocus={() => onChoose(i)}
            onKeyDown={onKey(i)}
            title="Drag to move this beat; Delete removes it"
            style={{ touchAction: 'none', left: px - 6, top: layout.flags - 22 }}
            sx={{
              position: 'absolute',
              width: 12,
              height: 20,
              cursor: 'ew-resize',
              '&::after': {
                content: '""',
                position: 'absolute',
                left: 2,
                bottom: 0,
                border: '4px solid transparent',
                borderTop: `${place.beat === 0 ? 12 : 8}px solid ${chosen === i ? colors.forward : place.beat === 0 ? colors.ink : colors.quiet}`,
                borderBottom: 0,
              },
            }}
          />
        );
      })}
    </Box>
  );
}
