/**
 * Synthesises *Lamplighter* by The Paper Tides: 108 BPM, 34 bars of four, D minor. Bars 1-4 intro,
 * 5-12 verse, 13-16 chorus, 17 quiet, 18-21 glitchy break, 22-29 chorus, 30-34 ending.
 * `npm run demo:song`; needs Debian's ffmpeg.
 */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { seededRandom, smoothstep } from './scenes/market';
import { Tape, hat, kick, saw, sine, snare, softNoise } from './synth';
import { wavBytes } from './wav';

const BPM = 108;
const BEAT_S = 60 / BPM;
const BAR_S = 4 * BEAT_S;
const BARS = 34;

const midi = (note: number) => 440 * 2 ** ((note - 69) / 12);
/** Root notes of the four-bar round: D, B flat, F, C. */
const ROOTS = [38, 34, 41, 36];
const CHORDS = [
  [62, 65, 69],
  [58, 62, 65],
  [60, 65, 69],
  [60, 64, 67],
];
/** The lead's line over four bars: beat, length in beats, note. */
const LEAD: readonly (readonly [number, number, number])[] = [
  [0, 1.5, 74],
  [1.5, 0.5, 72],
  [2, 1, 69],
  [3, 1, 65],
  [4, 2, 70],
  [6, 0.5, 69],
  [6.5, 0.5, 65],
  [7, 1, 62],
  [8, 1.5, 72],
  [9.5, 0.5, 74],
  [10, 1, 77],
  [11, 1, 72],
  [12, 2.5, 76],
  [14.5, 0.5, 74],
  [15, 1, 72],
];

type Part = 'intro' | 'verse' | 'chorus' | 'quiet' | 'break' | 'ending';
function partOf(bar: number): Part {
  if (bar < 4) return 'intro';
  if (bar < 12) return 'verse';
  if (bar < 16) return 'chorus';
  if (bar === 16) return 'quiet';
  if (bar < 21) return 'break';
  return bar < 29 ? 'chorus' : 'ending';
}

const tape = new Tape(BARS * BAR_S + 2);
const random = seededRandom(108);

function drums(bar: number, part: Part): void {
  const at = bar * BAR_S;
  if (part === 'quiet') return tape.play(at, 0.6, 0.5, 0, kick);
  const thinning = part === 'ending' && bar >= 32;
  for (const beat of part === 'intro' ? [0, 2] : thinning ? [0] : [0, 1.5, 2, 3.5])
    tape.play(at + beat * BEAT_S, 0.5, beat % 2 ? 0.65 : 0.95, 0, kick);
  if (part !== 'intro' && !thinning)
    for (const beat of [1, 3]) tape.play(at + beat * BEAT_S, 0.3, 0.6, 0.05, snare(bar * 8 + beat));
  const steps = part === 'chorus' || part === 'break' ? 16 : 8;
  for (let i = 0; i < steps && !thinning; i++) {
    const open = i % (steps / 2) === steps / 2 - 1;
    tape.play(
      at + (i * BAR_S) / steps,
      open ? 0.22 : 0.06,
      (i % 2 ? 0.16 : 0.26) * (0.85 + 0.3 * random()),
      0.25,
      hat(bar * 40 + i, open ? 14 : 55),
    );
  }
}

function bass(bar: number, part: Part): void {
  if (part === 'intro' && bar < 2) return;
  const hz = midi(ROOTS[bar % 4]!);
  const hits =
    part === 'quiet' || part === 'ending'
      ? [[0, 3.5]]
      : [
          [0, 1],
          [1.5, 0.5],
          [2, 0.75],
          [3, 0.5],
          [3.5, 0.5],
        ];
  for (const [beat, length] of hits as [number, number][]) {
    const f = beat === 3.5 ? hz * 1.5 : hz;
    tape.play(
      bar * BAR_S + beat * BEAT_S,
      length * BEAT_S,
      0.42,
      0,
      (t) => Math.tanh(1.6 * (sine(f, t) + 0.35 * saw(f, t))) * Math.min(1, t * 90) * Math.exp(-t * 1.1),
    );
  }
}

function pad(bar: number, part: Part): void {
  const gain = part === 'quiet' ? 0.11 : 0.07;
  for (const [i, note] of CHORDS[bar % 4]!.entries()) {
    const hz = midi(note);
    tape.play(
      bar * BAR_S,
      BAR_S * 1.04,
      gain,
      i - 1,
      (t) =>
        (saw(hz * 1.003, t) + saw(hz * 0.997, t)) *
        0.5 *
        smoothstep(0, 0.25, t) *
        (1 - 0.4 * smoothstep(BAR_S * 0.7, BAR_S, t)),
    );
  }
}

function lead(fromBar: number, gain: number): void {
  for (const [beat, length, note] of LEAD) {
    const hz = midi(note);
    tape.play(fromBar * BAR_S + beat * BEAT_S, length * BEAT_S * 1.3, gain, -0.15, (t) => {
      const bend = hz * (1 + 0.004 * Math.sin(t * 34) * smoothstep(0.15, 0.5, t));
      return (
        (sine(bend, t) + 0.4 * sine(bend * 2, t) + 0.18 * sine(bend * 3, t)) *
        Math.min(1, t * 40) *
        Math.exp(-t * 2.2)
      );
    });
  }
}

for (let bar = 0; bar < BARS; bar++) {
  const part = partOf(bar);
  drums(bar, part);
  bass(bar, part);
  pad(bar, part);
}
for (const bar of [4, 8, 12, 21, 25]) lead(bar, bar >= 12 ? 0.26 : 0.18);
const rise = softNoise(9, (t) => 300 + 5200 * (t / BAR_S) ** 2);
for (const bar of [11, 20]) tape.play(bar * BAR_S, BAR_S, 0.5, 0, (t) => rise(t) * (t / BAR_S) ** 2);

// The glitchy break: slices of its own beats stuttered, shorter and shorter, and dropped.
for (let bar = 17; bar < 21; bar++)
  for (const [beat, slice] of [
    [1, 1 / 4],
    [2, 1 / 8],
    [2.5, 1 / 8],
    [3, 1 / 16],
    [3.5, 1 / 32],
  ] as const) {
    const from = bar * BAR_S + Math.floor(random() * 2) * 0.5 * BEAT_S;
    const room = beat >= 2 ? 0.5 : 1;
    for (let k = 0; k < room / (slice * 4); k++)
      tape.copy(from, bar * BAR_S + (beat + k * slice * 4) * BEAT_S, slice * 4 * BEAT_S);
  }
const last = (BARS - 1) * BAR_S;
tape.play(last, 4, 0.5, 0, (t) => sine(midi(38), t) * Math.exp(-t * 0.9));
tape.master(0.9);

const work = mkdtempSync(join(tmpdir(), 'skip-back-song-'));
const wav = join(work, 'lamplighter.wav');
writeFileSync(wav, wavBytes(tape, 48000));
const out = fileURLToPath(new URL('../media/lamplighter.ogg', import.meta.url));
execFileSync('ffmpeg', [
  '-y',
  '-loglevel',
  'error',
  '-i',
  wav,
  '-c:a',
  'libopus',
  '-b:a',
  '112k',
  '-metadata',
  'title=Lamplighter',
  '-metadata',
  'artist=The Paper Tides',
  out,
]);
rmSync(work, { recursive: true });
console.log(`${out}: ${(BARS * BAR_S).toFixed(1)} s and a tail`);
