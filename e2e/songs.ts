/** A click track made for the journeys, and the reading of clicks from any file's sound. */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { wavOf } from '@skipback/core/sound/wav';
import { WORK } from './coded-clips';

const RATE_HZ = 48_000;

/** A WAV of short clicks at instants, over a quiet hum. */
export async function clickTrack(name: string, clicks: readonly number[], lengthS: number): Promise<string> {
  const left = Float32Array.from(
    { length: lengthS * RATE_HZ },
    (_, i) => 0.004 * Math.sin((2 * Math.PI * 220 * i) / RATE_HZ),
  );
  for (const at of clicks)
    for (let i = 0; i < 1400; i++) {
      const n = Math.round(at * RATE_HZ) + i;
      if (n < left.length)
        left[n]! += 0.7 * Math.exp(-i / 260) * Math.sin((2 * Math.PI * 1500 * i) / RATE_HZ + 0.6);
    }
  return writeSound(name, left);
}

/** Writes a sound of one channel as a WAV. */
async function writeSound(name: string, left: Float32Array): Promise<string> {
  const path = join(WORK, name);
  await writeFile(path, wavOf({ left, right: left, rateHz: RATE_HZ }));
  return path;
}

/** A WAV of a steady tone. */
export const toneTrack = (name: string, hz: number, lengthS: number): Promise<string> =>
  writeSound(
    name,
    Float32Array.from(
      { length: lengthS * RATE_HZ },
      (_, i) => 0.4 * Math.sin((2 * Math.PI * hz * i) / RATE_HZ),
    ),
  );

/** The sound of a file as one channel of samples, 48,000 a second. */
export async function readSound(path: string): Promise<Float32Array> {
  const child = spawn(
    'ffmpeg',
    [
      '-loglevel',
      'error',
      '-i',
      path,
      '-map',
      '0:a:0',
      '-ac',
      '1',
      '-ar',
      String(RATE_HZ),
      '-f',
      'f32le',
      '-',
    ],
    { stdio: ['ignore', 'pipe', 'inherit'] },
  );
  const parts: Buffer[] = [];
  child.stdout.on('data', (part: Buffer) => parts.push(part));
  await once(child, 'close');
  const bytes = Buffer.concat(parts);
  const samples = new Float32Array(
    bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length - (bytes.length % 4)),
  );
  return samples;
}

/** A stretch of sound, seconds. */
export const stretch = (sound: Float32Array, fromS: number, toS: number): Float32Array =>
  sound.slice(Math.round(fromS * RATE_HZ), Math.round(toS * RATE_HZ));

/** Root mean square of a sound. */
export const loudness = (sound: Float32Array): number =>
  Math.sqrt(sound.reduce((sum, v) => sum + v * v, 0) / Math.max(1, sound.length));

/** Cycles a second of a tone, by its crossings of zero. */
export function pitchOf(sound: Float32Array): number {
  let ups = 0;
  for (let i = 1; i < sound.length; i++) if (sound[i - 1]! < 0 && sound[i]! >= 0) ups++;
  return (ups * RATE_HZ) / sound.length;
}

/** The instants at which clicks begin in a file's sound, seconds, and how long the sound is. */
export async function readClicks(path: string): Promise<{ clicks: number[]; lengthS: number }> {
  const samples = await readSound(path);
  const clicks: number[] = [];
  for (let i = 0; i < samples.length; i++)
    if (Math.abs(samples[i]!) > 0.25 && i / RATE_HZ - (clicks[clicks.length - 1] ?? -1) > 0.12)
      clicks.push(i / RATE_HZ);
  return { clicks, lengthS: samples.length / RATE_HZ };
}
