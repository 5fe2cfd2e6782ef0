/** 16-bit PCM WAV bytes from stereo samples in [-1, 1] (clipped), `left` and `right` of one length. */
export function wavBytes(sound: { left: Float32Array; right: Float32Array }, rateHz: number): Buffer {
  const frames = sound.left.length;
  const out = Buffer.alloc(44 + frames * 4);
  out.write('RIFF', 0);
  out.writeUInt32LE(36 + frames * 4, 4);
  out.write('WAVEfmt ', 8);
  out.writeUInt32LE(16, 16);
  out.writeUInt16LE(1, 20);
  out.writeUInt16LE(2, 22);
  out.writeUInt32LE(rateHz, 24);
  out.writeUInt32LE(rateHz * 4, 28);
  out.writeUInt16LE(4, 32);
  out.writeUInt16LE(16, 34);
  out.write('data', 36);
  out.writeUInt32LE(frames * 4, 40);
  for (let i = 0; i < frames; i++) {
    out.writeInt16LE(Math.round(Math.max(-1, Math.min(1, sound.left[i]!)) * 32767), 44 + i * 4);
    out.writeInt16LE(Math.round(Math.max(-1, Math.min(1, sound.right[i]!)) * 32767), 46 + i * 4);
  }
  return out;
}
