import { MIX_RATE_HZ, type Stereo } from './stereo';
import { SoundUnderHand } from './under-hand';

const tone: Stereo = (() => {
  const left = Float32Array.from(
    { length: 4 * MIX_RATE_HZ },
    (_, i) => 0.5 * Math.sin((2 * Math.PI * 400 * i) / MIX_RATE_HZ),
  );
  return { left, right: left, rateHz: MIX_RATE_HZ };
})();
const power = (s: Float32Array) => Math.sqrt(s.reduce((a, v) => a + v * v, 0) / s.length);
const pitch = (s: Float32Array) => {
  let ups = 0;
  for (let i = 1; i < s.length; i++) if (s[i - 1]! < 0 && s[i]! >= 0) ups++;
  return (ups * MIX_RATE_HZ) / s.length;
};

/** What is heard while a hand tells its place sixty times a second, over a number of seconds. */
function played(at: (s: number) => number, lengthS: number): Float32Array {
  const hand = new SoundUnderHand(tone, MIX_RATE_HZ);
  hand.putDown(at(0));
  const step = MIX_RATE_HZ / 60;
  const out = new Float32Array(lengthS * MIX_RATE_HZ);
  for (let i = 0; i + step <= out.length; i += step) {
    hand.moveTo(at((i + step) / MIX_RATE_HZ));
    hand.read(out.subarray(i, i + step), new Float32Array(step));
  }
  return out;
}

describe('a sound under the hand', () => {
  it.each([1, 2, -1.5])('turned at %d times the speed sounds as high as that makes it', (speed) => {
    const heard = played((s) => 2 + speed * s, 0.6).slice(6000);
    expect(Math.abs(pitch(heard) - 400 * Math.abs(speed))).toBeLessThan(24);
    expect(power(heard)).toBeGreaterThan(0.25);
  });

  it('is silent while the hand rests, and again when it stops', () => {
    expect(power(played(() => 1, 0.2))).toBe(0);
    const stopped = played((s) => 1 + Math.min(0.2, s), 0.6);
    expect(power(stopped.slice(0, 8000))).toBeGreaterThan(0.2);
    expect(power(stopped.slice(16_000))).toBeLessThan(0.001);
  });

  it('does not click when the hand turns sharply', () => {
    const heard = played((s) => 2 + 0.1 * Math.abs(((s * 8) % 2) - 1), 1);
    let step = 0;
    for (let i = 1; i < heard.length; i++) step = Math.max(step, Math.abs(heard[i]! - heard[i - 1]!));
    // The tone itself moves by 0.026 a sample at its own speed.
    expect(step).toBeLessThan(0.12);
  });

  it('stays where the hand is over a long gesture', () => {
    const at = (s: number) => 2 + 0.4 * Math.sin(2 * Math.PI * s);
    const heard = played(at, 3);
    // Turned round at the same instants in every second: as loud in each.
    const seconds = [0, 1, 2].map((n) => power(heard.slice(n * MIX_RATE_HZ + 2000, (n + 1) * MIX_RATE_HZ)));
    for (const p of seconds) expect(Math.abs(p - seconds[0]!)).toBeLessThan(0.02);
  });
});
