import { seeded } from '../../moves/random';
import { readAtPlace } from '../resample';
import type { MadeKind } from './kinds';
import { WHOOSH_FROM, WHOOSH_FULL } from './spans';
import { Filter, Glide, type Synth, edges } from './voice';

const noise = (random: () => number): number => random() * 2 - 1;

/** Air: filtered noise that swells and brightens with the speed, a little different on each side. */
const whoosh: Synth = ({ samples, rateHz, speed, random }, left, right) => {
  const level = Glide.over(0.012, rateHz);
  const sides = [new Filter(rateHz), new Filter(rateHz)];
  const low = new Filter(rateHz);
  for (let i = 0; i < samples; i++) {
    const pace = Math.abs(speed(i));
    const swell = Math.min(1, Math.max(0, (pace - WHOOSH_FROM) / (WHOOSH_FULL - WHOOSH_FROM)));
    const loud = level.to(0.25 + 0.75 * swell) * edges(i, samples, 0.03 * rateHz, 0.05 * rateHz);
    const hz = 260 + 620 * pace;
    const body = low.put(noise(random), 140 + 60 * pace, 0.7);
    left[i]! += loud * (0.42 * sides[0]!.put(noise(random), hz, 0.75) + 0.3 * body);
    right[i]! += loud * (0.42 * sides[1]!.put(noise(random), hz * 1.12, 0.75) + 0.3 * body);
  }
};

/** Seconds of the record that a scratch goes over; the same groove each time. */
const GROOVE_S = 2;
const grooves = new Map<number, Float32Array>();

/** What lies in the record's groove, one channel: syllables of buzz and breath, made once for a rate. */
export function recordGroove(rateHz: number): Float32Array {
  const known = grooves.get(rateHz);
  if (known) return known;
  const random = seeded(77);
  const vowel = [new Filter(rateHz), new Filter(rateHz)];
  const out = new Float32Array(GROOVE_S * rateHz);
  for (let i = 0; i < out.length; i++) {
    const t = i / rateHz;
    const syllable = 0.35 + 0.65 * Math.max(0, Math.sin(2 * Math.PI * 2.5 * t)) ** 0.5;
    const buzz = 2 * ((t * (150 + 25 * Math.sin(2 * Math.PI * 0.7 * t))) % 1) - 1;
    const source = 0.75 * buzz + 0.5 * noise(random);
    const [a, b] = [
      500 + 300 * Math.sin(2 * Math.PI * 1.1 * t),
      1500 + 500 * Math.sin(2 * Math.PI * 0.8 * t),
    ];
    out[i] = syllable * (0.6 * vowel[0]!.put(source, a, 0.3) + 0.5 * vowel[1]!.put(source, b, 0.25));
  }
  grooves.set(rateHz, out);
  return out;
}

/** A record under the hand: the groove is read where the gesture takes it, so back is the way there reversed. */
const scratch: Synth = ({ samples, rateHz, speed, random }, left, right) => {
  const record = recordGroove(rateHz);
  let place = record.length / 2;
  const level = Glide.over(0.002, rateHz);
  const hiss = new Filter(rateHz);
  for (let i = 0; i < samples; i++) {
    const v = speed(i);
    place += v;
    const wrapped = ((place % record.length) + record.length) % record.length;
    const loud = level.to(Math.min(1, Math.abs(v))) * edges(i, samples, 0.004 * rateHz, 0.03 * rateHz);
    const value =
      0.5 * readAtPlace(record, wrapped, v) + 0.012 * hiss.put(noise(random), 2500 + 1500 * Math.abs(v), 0.8);
    left[i]! += loud * value;
    right[i]! += loud * value;
  }
};

/** Tape on its reels: chatter whose pitch and pace go with the speed, over the whirr of the motor. */
const spool: Synth = ({ samples, rateHz, speed, random }, left, right) => {
  const tones = [1, 1.48, 2.31].map((ratio) => ({ ratio, filter: new Filter(rateHz) }));
  const level = Glide.over(0.03, rateHz);
  const gate = Glide.over(0.006, rateHz);
  let beat = 0;
  let target = 1;
  let turn = 0;
  for (let i = 0; i < samples; i++) {
    const pace = Math.abs(speed(i));
    // Fragments of what is on the tape fly by, more of them the faster it runs.
    beat += (6 + 4 * pace) / rateHz;
    if (beat >= 1) {
      beat -= 1;
      target = random() < 0.7 ? 0.35 + 0.65 * random() : 0.08;
    }
    turn += (0.9 + 0.5 * pace) / rateHz;
    const loud =
      level.to(Math.min(1, pace / 4)) *
      (0.75 + 0.25 * Math.sin(2 * Math.PI * turn)) *
      edges(i, samples, 0.02 * rateHz, 0.04 * rateHz);
    const source = noise(random);
    let chatter = 0;
    for (const { ratio, filter } of tones) chatter += filter.put(source, ratio * 170 * (1 + pace), 0.1);
    const value = loud * (0.17 * gate.to(target) * chatter + 0.03 * Math.sin(2 * Math.PI * 8 * turn));
    left[i]! += value;
    right[i]! += value;
  }
};

/** A blow: a tone that falls from 150 to 42 hertz under a short slap. */
const thump: Synth = ({ samples, rateHz, random }, left, right) => {
  let phase = 0;
  const slap = new Filter(rateHz);
  for (let i = 0; i < samples; i++) {
    const t = i / rateHz;
    phase += (42 + 108 * Math.exp(-t * 28)) / rateHz;
    const value =
      0.75 * Math.sin(2 * Math.PI * phase) * Math.exp(-t * 9) +
      0.35 * slap.put(noise(random), 900, 0.9) * Math.exp(-t * 70);
    const at = value * edges(i, samples, 0.0015 * rateHz, 0.06 * rateHz);
    left[i]! += at;
    right[i]! += at;
  }
};

/** A climb: noise and a chord of saws that rise two octaves and grow to the end. */
const riser: Synth = ({ samples, rateHz, random }, left, right) => {
  const sides = [new Filter(rateHz), new Filter(rateHz)];
  const tone = [new Filter(rateHz), new Filter(rateHz)];
  const phases = [0, 0.3, 0.6, 0.9];
  for (let i = 0; i < samples; i++) {
    const share = i / samples;
    const hz = 110 * 4 ** share;
    let [saws, other] = [0, 0];
    for (let k = 0; k < phases.length; k++) {
      phases[k] = (phases[k]! + (hz * [1, 1.006, 1.5, 1.509][k]!) / rateHz) % 1;
      if (k % 2 === 0) saws += 2 * phases[k]! - 1;
      else other += 2 * phases[k]! - 1;
    }
    const loud = share ** 1.8 * edges(i, samples, 0.05 * rateHz, 0.012 * rateHz);
    const cut = 500 * 12 ** share;
    left[i]! +=
      loud * (0.2 * tone[0]!.put(saws, cut, 1) + 0.45 * sides[0]!.put(noise(random), cut * 1.3, 0.6));
    right[i]! +=
      loud * (0.2 * tone[1]!.put(other, cut, 1) + 0.45 * sides[1]!.put(noise(random), cut * 1.3, 0.6));
  }
};

/** A cymbal backward: bright, many-toned metal that grows out of nothing and is cut off at the end. */
const swell: Synth = ({ samples, rateHz, random }, left, right) => {
  const partials = Array.from({ length: 14 }, () => ({ hz: 1800 + 7000 * random(), phase: random() }));
  const sides = [new Filter(rateHz), new Filter(rateHz)];
  for (let i = 0; i < samples; i++) {
    const share = i / samples;
    let [a, b] = [0, 0];
    for (let k = 0; k < partials.length; k++) {
      const p = partials[k]!;
      p.phase = (p.phase + p.hz / rateHz) % 1;
      const value = Math.sin(2 * Math.PI * p.phase);
      if (k % 2) a += value;
      else b += value;
    }
    const loud =
      ((Math.exp(4.2 * share) - 1) / (Math.exp(4.2) - 1)) * edges(i, samples, 0.02 * rateHz, 0.008 * rateHz);
    left[i]! += loud * (0.07 * a + 0.42 * sides[0]!.put(noise(random), 4800, 1.1));
    right[i]! += loud * (0.07 * b + 0.42 * sides[1]!.put(noise(random), 5200, 1.1));
  }
};

export const SYNTHS: Record<MadeKind, Synth> = { whoosh, scratch, spool, thump, riser, swell };
