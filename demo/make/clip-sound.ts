/** The clips' own sound: sea and market murmur under what happens in the picture. */
import { STRIKES_S } from './scenes/drummer';
import { CATCH_S, THROW_S } from './scenes/lantern';
import { Tape, bigDrum, noise, sine, snare, softNoise } from './synth';

const EVENTS: Record<string, (tape: Tape) => void> = {
  drummer: (tape) => {
    for (const s of STRIKES_S) {
      tape.play(s, 1.6, 0.9, 0, bigDrum);
      tape.play(s, 0.2, 0.25, 0.1, snare(5));
    }
  },
  pinwheels: (tape) => {
    for (let i = 0; i < 13; i++) tape.play(0.1 + i * 0.37, 0.12, 0.35, i % 2 ? 0.3 : -0.3, snare(i));
    const rush = softNoise(3, (t) => 300 + 5000 * Math.exp(-(((t - 0.45) / 0.22) ** 2)));
    tape.play(1.8, 1, 1.6, 0, (t) => rush(t) * Math.exp(-(((t - 0.45) / 0.25) ** 2)));
  },
  tea: (tape) => {
    const pour = softNoise(4, (t) => 1400 + 900 * t);
    tape.play(1.4, 1.6, 0.9, 0.1, (t) => pour(t) * Math.min(1, t * 5));
    for (let i = 0; i < 26; i++) {
      const hz = 500 + ((i * 373) % 700);
      tape.play(1.45 + i * 0.055, 0.06, 0.16, 0.2, (t) => sine(hz + 2400 * t, t) * Math.exp(-t * 50));
    }
  },
  lantern: (tape) => {
    const whoosh = softNoise(6, (t) => 400 + 1600 * Math.exp(-t * 3));
    tape.play(THROW_S, 0.7, 1.1, 0, (t) => whoosh(t) * Math.exp(-t * 5));
    tape.play(CATCH_S, 0.15, 0.6, 0, snare(8));
    for (let i = 0; i < 4; i++)
      tape.play(
        THROW_S + 0.35 * i,
        0.9,
        0.1,
        i / 2 - 0.7,
        (t) => sine(880 * 1.26 ** i, t) * Math.exp(-t * 5),
      );
  },
  runner: (tape) => {
    for (let i = 0; i < 16; i++)
      tape.play(0.1 + i * 0.185, 0.1, 0.3 + 0.02 * (i % 3), i / 8 - 0.9, snare(40 + i));
  },
  tram: (tape) => {
    const rumble = softNoise(7, () => 160);
    tape.play(1.6, 4, 3.2, 0, (t) => rumble(t) * Math.exp(-(((t - 1.7) / 1.1) ** 2)));
    for (const at of [1.9, 2.3])
      tape.play(at, 1.2, 0.3, -0.4, (t) => (sine(1046, t) + 0.5 * sine(2637, t)) * Math.exp(-t * 5));
    for (let i = 0; i < 10; i++) tape.play(2 + i * 0.31, 0.1, 0.3, i / 5 - 1, snare(20 + i));
  },
};

/** Sound of one clip, as long as the clip. */
export function clipSound(name: string, durationS: number): Tape {
  const tape = new Tape(durationS);
  const sea = softNoise(1, (t) => 420 + 180 * Math.sin(t * 0.9));
  tape.play(0, durationS, 0.5, -0.2, (t) => sea(t) * (0.7 + 0.3 * Math.sin(t * 1.4)));
  const hiss = noise(2);
  tape.play(0, durationS, 0.006, 0.2, hiss);
  EVENTS[name]!(tape);
  tape.master(0.8);
  return tape;
}
