import type { DenseBar } from '@skipback/core/beats/accents';
import { placeOf } from '@skipback/core/beats/grid';
import { frameOfSong, songAtFrame } from '@skipback/core/beats/music';
import type { Song } from '@skipback/core/project/schema';
import type { Rational } from '@skipback/core/time/rational';
import { MIX_RATE_HZ } from '@skipback/core/sound/stereo';
import { PEAK_SAMPLES, type SoundFacts } from '@skipback/media/sound/messages';
import { colors, mono } from '../../theme';
import type { Scale } from '../scales';

/** The lane of the song under the result. */
export interface SongLane {
  readonly song: Song;
  readonly facts: SoundFacts | null | undefined;
  readonly rate: Rational;
  readonly resultX: Scale;
  readonly width: number;
  readonly top: number;
  readonly bottom: number;
  /** Bars proposed for frantic patterns. */
  readonly dense: readonly DenseBar[];
}

/** Seconds that one value of the peaks stands for. */
const PEAK_S = PEAK_SAMPLES / MIX_RATE_HZ;

/** Waveform, beats and bars of the song where they sound in the result. */
export function drawSong(c: CanvasRenderingContext2D, lane: SongLane): void {
  const { top, bottom, width } = lane;
  c.fillStyle = '#161616';
  c.fillRect(0, top, width, bottom - top);
  drawDense(c, lane);
  drawWave(c, lane);
  drawBeats(c, lane);
}

function drawWave(
  c: CanvasRenderingContext2D,
  { facts, song, rate, resultX, width, top, bottom }: SongLane,
): void {
  const middle = (top + bottom) / 2;
  if (!facts) {
    c.fillStyle = colors.faint;
    c.font = '400 12.5px "Instrument Sans Variable", sans-serif';
    c.textBaseline = 'middle';
    const words =
      facts === null
        ? `${song.name} is not in this browser any more: import it again.`
        : `Reading ${song.name}`;
    return c.fillText(words, 16, middle);
  }
  c.fillStyle = '#57534d';
  const half = (bottom - top) / 2 - 3;
  for (let x = 0; x < width; x += 2) {
    const from = songAtFrame(song, resultX.invert(x), rate);
    const to = songAtFrame(song, resultX.invert(x + 2), rate);
    if (to < song.fromS || from > song.lengthS) continue;
    let peak = 0;
    const end = Math.min(facts.peaks.length, Math.ceil(to / PEAK_S));
    for (let p = Math.max(0, Math.floor(from / PEAK_S)); p < end; p++) peak = Math.max(peak, facts.peaks[p]!);
    const h = Math.max(0.5, Math.min(1, peak) * half);
    c.fillRect(x, middle - h, 1.4, 2 * h);
  }
}

function drawBeats(c: CanvasRenderingContext2D, { song, rate, resultX, width, top, bottom }: SongLane): void {
  const { grid } = song;
  const perBeat =
    grid.beats.length > 1
      ? resultX(frameOfSong(song, grid.beats[1]!, rate)) - resultX(frameOfSong(song, grid.beats[0]!, rate))
      : 0;
  c.font = `400 11px ${mono}`;
  c.textBaseline = 'bottom';
  grid.beats.forEach((beat, i) => {
    if (beat < song.fromS - 1e-6) return;
    const x = resultX(frameOfSong(song, beat, rate));
    if (x < -60 || x > width) return;
    const place = placeOf(grid, i);
    const isBar = place.beat === 0;
    if (!isBar && perBeat < 7) return;
    c.fillStyle = isBar ? colors.ink : colors.faint;
    c.globalAlpha = isBar ? 0.9 : 0.6;
    c.fillRect(Math.round(x), isBar ? top : top + 7, 1, bottom - top - (isBar ? 0 : 14));
    c.globalAlpha = 1;
    if (!isBar || perBeat * grid.beatsPerBar < 26) return;
    c.fillStyle = colors.quiet;
    c.fillText(String(place.bar + 1), Math.round(x) + 4, bottom - 1);
  });
}

function drawDense(c: CanvasRenderingContext2D, { dense, song, rate, resultX, top, bottom }: SongLane): void {
  for (const bar of dense) {
    const x = resultX(frameOfSong(song, bar.fromS, rate));
    const end = resultX(frameOfSong(song, bar.toS, rate));
    c.fillStyle = colors.attention;
    c.globalAlpha = 0.13;
    c.fillRect(x, top, end - x, bottom - top);
    c.globalAlpha = 1;
  }
}
