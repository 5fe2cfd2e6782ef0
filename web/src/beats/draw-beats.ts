import type { DenseBar } from '@skipback/core/beats/accents';
import { envelopeCurve } from '@skipback/core/beats/envelope';
import { type Band, placeOf } from '@skipback/core/beats/grid';
import type { Song } from '@skipback/core/project/schema';
import { MIX_RATE_HZ } from '@skipback/core/sound/stereo';
import { PEAK_SAMPLES, type SoundFacts } from '@skipback/media/sound/messages';
import { colors, mono } from '../theme';
import type { Scale } from '../weave/scales';

/** The rows of the view, CSS pixels from its top. */
export interface BeatsLayout {
  readonly width: number;
  readonly height: number;
  readonly flags: number;
  readonly wave: readonly [number, number];
  readonly bands: readonly (readonly [band: 'high' | 'mid' | 'low', top: number, bottom: number])[];
}

export function beatsLayout(width: number, height: number): BeatsLayout {
  const flags = 34;
  const bandHeight = Math.min(70, Math.max(34, height * 0.14));
  const waveBottom = height - 3 * (bandHeight + 8) - 28;
  const bands = (['high', 'mid', 'low'] as const).map(
    (band, i) =>
      [
        band,
        waveBottom + 8 + i * (bandHeight + 8),
        waveBottom + 8 + i * (bandHeight + 8) + bandHeight,
      ] as const,
  );
  return { width, height, flags, wave: [flags, waveBottom], bands };
}

const BAND_COLOR = { low: colors.forward, mid: colors.hold, high: colors.backward } as const;
const BAND_WORDS = { low: 'low: kicks', mid: 'mid: snares', high: 'high: hats' } as const;
const PEAK_S = PEAK_SAMPLES / MIX_RATE_HZ;

/** Everything of the view that stands still: waveform, beats, bars, accents in their bands, crowded bars. */
export function drawBeatsView(
  c: CanvasRenderingContext2D,
  layout: BeatsLayout,
  x: Scale,
  song: Song,
  facts: SoundFacts | null | undefined,
  dense: readonly DenseBar[],
): void {
  const [top, bottom] = layout.wave;
  c.fillStyle = colors.panel;
  c.fillRect(0, top, layout.width, bottom - top);
  for (const [, t, b] of layout.bands) c.fillRect(0, t, layout.width, b - t);
  for (const bar of dense) {
    c.fillStyle = colors.attention;
    c.globalAlpha = 0.12;
    c.fillRect(x(bar.fromS), top, x(bar.toS) - x(bar.fromS), bottom - top);
    c.globalAlpha = 1;
    if (x(bar.toS) - x(bar.fromS) > 96) {
      c.fillStyle = colors.attention;
      c.font = '400 11.5px "Instrument Sans Variable", sans-serif';
      c.textBaseline = 'bottom';
      c.fillText('suits a Pattern', x(bar.fromS) + 6, bottom - 4);
    }
  }
  if (facts) {
    const [top, bottom] = layout.wave;
    c.fillStyle = '#8b857c';
    drawPeaks(c, layout, x, song, facts.peaks, (top + bottom) / 2, (bottom - top) / 2 - 4, 'both');
    for (const [band, t, b] of layout.bands) {
      c.fillStyle = '#4a4640';
      drawPeaks(c, layout, x, song, facts.bands[band], b - 1, b - t - 4, 'up');
    }
  }
  for (const [band, t, b] of layout.bands) drawEnvelope(c, layout, x, song, band, t, b);
  drawGrid(c, layout, x, song);
  drawAccents(c, layout, x, song);
}

/** Peaks of a sound as bars: from a middle line both ways, or from a base line up, `height` pixels at most. */
function drawPeaks(
  c: CanvasRenderingContext2D,
  layout: BeatsLayout,
  x: Scale,
  song: Song,
  peaks: Float32Array,
  base: number,
  height: number,
  ways: 'both' | 'up',
): void {
  for (let px = 0; px < layout.width; px += 2) {
    const from = x.invert(px);
    const to = x.invert(px + 2);
    if (to < 0 || from > song.lengthS) continue;
    let peak = 0;
    const end = Math.min(peaks.length, Math.max(Math.ceil(to / PEAK_S), Math.floor(from / PEAK_S) + 1));
    for (let p = Math.max(0, Math.floor(from / PEAK_S)); p < end; p++) peak = Math.max(peak, peaks[p]!);
    const h = Math.max(0.5, Math.min(1, peak) * height);
    c.globalAlpha = from < song.fromS ? 0.35 : 1;
    c.fillRect(px, base - h, 1.4, ways === 'both' ? 2 * h : h);
  }
  c.globalAlpha = 1;
}

/** The envelope that the accents of a band make, as a line over a light filling. */
function drawEnvelope(
  c: CanvasRenderingContext2D,
  layout: BeatsLayout,
  x: Scale,
  song: Song,
  band: Band,
  top: number,
  bottom: number,
): void {
  const count = Math.max(1, Math.floor(layout.width));
  const curve = envelopeCurve(song.accents, band, song.envelopes[band], x.invert(0), x.invert(count), count);
  c.beginPath();
  c.moveTo(0, bottom - 1);
  curve.forEach((level, px) => c.lineTo(px, bottom - 1 - level * (bottom - top - 6)));
  c.lineTo(count, bottom - 1);
  c.fillStyle = BAND_COLOR[band];
  c.globalAlpha = 0.14;
  c.fill();
  c.globalAlpha = 0.7;
  c.strokeStyle = BAND_COLOR[band];
  c.lineWidth = 1;
  c.stroke();
  c.globalAlpha = 1;
}

function drawGrid(c: CanvasRenderingContext2D, layout: BeatsLayout, x: Scale, { grid }: Song): void {
  const perBeat = grid.beats.length > 1 ? x(grid.beats[1]!) - x(grid.beats[0]!) : 0;
  grid.beats.forEach((beat, i) => {
    const px = x(beat);
    if (px < -80 || px > layout.width) return;
    const place = placeOf(grid, i);
    const bar = place.beat === 0;
    if (!bar && perBeat < 6) return;
    c.fillStyle = bar ? colors.ink : colors.quiet;
    c.globalAlpha = bar ? 0.9 : 0.45;
    c.fillRect(Math.round(px), layout.flags - (bar ? 8 : 0), 1, layout.height - layout.flags - 20);
    c.globalAlpha = 1;
    if (!bar || perBeat * grid.beatsPerBar < 30) return;
    c.font = `500 12px ${mono}`;
    c.textBaseline = 'bottom';
    c.fillText(String(place.bar + 1), Math.round(px) + 4, layout.height - 4);
  });
}

/** Pixels that an accent is high in a row of a height. */
export const accentHeight = (strength: number, row: number): number =>
  Math.max(3, Math.min(1, strength) * (row - 4));

function drawAccents(c: CanvasRenderingContext2D, layout: BeatsLayout, x: Scale, { accents }: Song): void {
  for (const [band, top, bottom] of layout.bands) {
    c.fillStyle = BAND_COLOR[band];
    for (const a of accents) {
      if (a.band !== band) continue;
      const px = x(a.at);
      if (px < -4 || px > layout.width + 4) continue;
      const h = accentHeight(a.strength, bottom - top);
      c.globalAlpha = 0.35 + 0.65 * Math.min(1, a.strength);
      c.fillRect(px - 1, bottom - 2 - h, 2.5, h);
    }
    c.globalAlpha = 1;
    c.font = '400 12px "Instrument Sans Variable", sans-serif';
    c.textBaseline = 'top';
    const words = BAND_WORDS[band];
    c.fillStyle = `${colors.ground}d0`;
    c.fillRect(6, top + 3, c.measureText(words).width + 10, 18);
    c.fillStyle = colors.quiet;
    c.fillText(words, 11, top + 5);
  }
}
