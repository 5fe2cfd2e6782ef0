import type { Stereo } from './stereo';

/** A sound as a WAV file, 16 bit, with its length exact to the sample. */
export function wavOf({ left, right, rateHz }: Stereo): Uint8Array<ArrayBuffer> {
  const bytes = new ArrayBuffer(44 + left.length * 4);
  const view = new DataView(bytes);
  const text = (at: number, words: string) =>
    [...words].forEach((c, i) => view.setUint8(at + i, c.charCodeAt(0)));
  text(0, 'RIFF');
  view.setUint32(4, 36 + left.length * 4, true);
  text(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 2, true);
  view.setUint32(24, rateHz, true);
  view.setUint32(28, rateHz * 4, true);
  view.setUint16(32, 4, true);
  view.setUint16(34, 16, true);
  text(36, 'data');
  view.setUint32(40, left.length * 4, true);
  const whole = (v: number) => Math.round(Math.max(-1, Math.min(1, v)) * 32767);
  for (let i = 0; i < left.length; i++) {
    view.setInt16(44 + i * 4, whole(left[i]!), true);
    view.setInt16(46 + i * 4, whole(right[i]!), true);
  }
  return new Uint8Array(bytes);
}
