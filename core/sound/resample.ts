/**
 * Reading a sound at any place and speed without aliasing: a windowed sinc whose cut-off falls with the
 * speed (Smith and Gossett 1984), so a fast pass loses what it could not carry instead of folding it back.
 */

/** Zero crossings of the kernel on either side at normal speed. */
const CROSSINGS = 10;
/** Kernel values between two crossings. */
const FINE = 256;
/** Most samples read on either side, however fast. */
const MOST_REACH = 400;

/** Half of the kernel: a sinc under a Blackman window. */
const KERNEL = Float32Array.from({ length: CROSSINGS * FINE + 2 }, (_, i) => {
  const x = i / FINE;
  if (x >= CROSSINGS) return 0;
  const window =
    0.42 + 0.5 * Math.cos((Math.PI * x) / CROSSINGS) + 0.08 * Math.cos((2 * Math.PI * x) / CROSSINGS);
  return (x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x)) * window;
});

/** The value of a channel at `place` samples, fractions fine, when read `speed` samples a sample. Silence beyond its ends. */
export function readAtPlace(channel: Float32Array, place: number, speed: number): number {
  const pace = Math.max(1, Math.abs(speed));
  const reach = Math.min(MOST_REACH, CROSSINGS * pace);
  const narrow = CROSSINGS / reach;
  const scale = narrow * FINE;
  const middle = Math.min(channel.length - 1, Math.floor(place));
  const last = Math.min(channel.length - 1, Math.floor(place + reach));
  let sum = 0;
  for (let i = Math.max(0, Math.ceil(place - reach)); i <= middle; i++) {
    const x = (place - i) * scale;
    const k = x | 0;
    sum += channel[i]! * (KERNEL[k]! + (KERNEL[k + 1]! - KERNEL[k]!) * (x - k));
  }
  for (let i = Math.max(0, middle + 1); i <= last; i++) {
    const x = (i - place) * scale;
    const k = x | 0;
    sum += channel[i]! * (KERNEL[k]! + (KERNEL[k + 1]! - KERNEL[k]!) * (x - k));
  }
  return sum * narrow;
}

/** A channel at another rate, as long in seconds. */
export function atRate(channel: Float32Array, fromHz: number, toHz: number): Float32Array {
  if (fromHz === toHz) return channel;
  const step = fromHz / toHz;
  const out = new Float32Array(Math.round(channel.length / step));
  for (let i = 0; i < out.length; i++) out[i] = readAtPlace(channel, i * step, step);
  return out;
}
