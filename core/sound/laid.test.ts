/** Sounds that looks bring in: at their place, at their speed, around and around. */
import { rational } from '../time/rational';
import { addAlong, addLaid } from './laid';
import { silence } from './stereo';

const RATE = 48_000;
const fps = rational(25);
const instants = (fromS: number, stepS: number, frames: number) =>
  Float64Array.from({ length: frames + 1 }, (_, i) => fromS + i * stepS);
const ramp = (seconds: number) => {
  const sound = silence(seconds * RATE);
  sound.left.forEach((_, i) => (sound.left[i] = Math.sin((2 * Math.PI * 500 * i) / RATE)));
  sound.right.set(sound.left);
  return sound;
};
const loud = (channel: Float32Array, from: number, to: number) =>
  Math.sqrt(channel.slice(from, to).reduce((s, v) => s + v * v, 0) / (to - from));

it('at its own speed it is the sound itself, sample for sample, but for its faded ends', () => {
  const [out, sound] = [silence(2 * RATE), ramp(1)];
  const laid = { clip: 'c', atFrame: 10, repeatsS: undefined, gains: new Float32Array(10).fill(0.5) };
  addLaid(out, { ...laid, instants: instants(0.2, 0.04, 10) }, sound, fps);
  const start = (10 * RATE) / 25;
  for (const i of [500, 5000, 18_000])
    expect(out.left[start + i]).toBeCloseTo(0.5 * sound.left[0.2 * RATE + i]!, 6);
  expect(loud(out.left, 0, start)).toBe(0);
  expect(Math.abs(out.left[start]!)).toBeLessThan(1e-6);
  expect(loud(out.left, start + 0.4 * RATE, 2 * RATE)).toBe(0);
});

it('twice as fast it is an octave higher, and repeats as long as it is wanted', () => {
  const [out, sound] = [silence(2 * RATE), ramp(0.5)];
  const laid = { clip: 'c', atFrame: 0, repeatsS: 0.5, gains: new Float32Array(50).fill(1) };
  addLaid(out, { ...laid, instants: instants(0, 0.08, 50) }, sound, fps);
  const crossings = (from: number, to: number) =>
    out.left.slice(from, to).reduce((n, v, i, all) => n + Number(i > 0 && v >= 0 && all[i - 1]! < 0), 0);
  expect(crossings(0.02 * RATE, 0.22 * RATE)).toBeCloseTo(200, -1);
  expect(crossings(1.77 * RATE, 1.97 * RATE)).toBeCloseTo(200, -1);
  expect(loud(out.left, 1.9 * RATE, 1.98 * RATE)).toBeCloseTo(Math.SQRT1_2, 1);
});

it('backward it is the sound reversed; without repeating it ends where the sound does', () => {
  const [out, sound] = [silence(RATE), ramp(0.4)];
  const laid = { clip: 'c', atFrame: 0, repeatsS: undefined, gains: new Float32Array(25).fill(1) };
  addLaid(out, { ...laid, instants: instants(0.4, -0.04, 25) }, sound, fps);
  expect(out.left[4800]).toBeCloseTo(sound.left[0.4 * RATE - 1 - 4800]!, 2);
  expect(loud(out.left, 0.42 * RATE, RATE)).toBeLessThan(1e-3);
});

it('a made sound goes along with the speed, as loud as it is told, and is the same each time', () => {
  const once = () => {
    const out = silence(2 * RATE);
    const speeds = new Float32Array(25).fill(6);
    const gains = Float32Array.from({ length: 25 }, (_, i) => (i < 12 ? 0 : 1));
    addAlong(out, { kind: 'spool', atFrame: 10, speeds, gains }, fps, 5);
    return out.left;
  };
  const left = once();
  expect(loud(left, 0, 0.4 * RATE)).toBe(0);
  expect(loud(left, 0.4 * RATE, 0.8 * RATE)).toBeLessThan(0.01);
  expect(loud(left, 0.95 * RATE, 1.35 * RATE)).toBeGreaterThan(0.02);
  expect(loud(left, 1.41 * RATE, 2 * RATE)).toBe(0);
  expect(once()).toEqual(left);
});
