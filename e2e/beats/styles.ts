import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { unscattered } from '@skipback/core/moves/random';
import { WORK } from '../coded-clips';
import type { KnownSong } from './heard';

/**
 * Songs that others' styles make: Debian's `mma` plays accompaniments in some 270 of them, `fluidsynth` with two of Debian's sound
 * fonts makes sound of them. Nothing of it is in the repository; where the packages are missing there are none.
 */
const STYLES = '/usr/share/mma/lib';
const FONTS = ['FluidR3_GM.sf2', 'TimGM6mb.sf2'].map((f) => `/usr/share/sounds/sf2/${f}`);
export const RATE_HZ = 22_050;
const LENGTH_S = 50;

export const hasStyles = (): boolean => [STYLES, ...FONTS].every((path) => existsSync(path));

const NOTES = ['C', 'Db', 'D', 'Eb', 'E', 'F', 'Gb', 'G', 'Ab', 'A', 'Bb', 'B'];
const SUNG = ['c', 'c#', 'd', 'd#', 'e', 'f', 'f#', 'g', 'g#', 'a', 'a#', 'b'];
/** Rows of chords: steps above the key, and what they are. */
const ROWS: readonly (readonly (readonly [number, string])[])[] = [
  [
    [0, ''],
    [9, 'm'],
    [5, ''],
    [7, '7'],
  ],
  [
    [0, ''],
    [7, '7'],
    [9, 'm'],
    [5, ''],
  ],
  [
    [2, 'm7'],
    [7, '7'],
    [0, ''],
    [0, ''],
  ],
  [
    [0, 'm'],
    [10, ''],
    [8, ''],
    [7, '7'],
  ],
  [
    [0, 'm'],
    [5, 'm'],
    [0, 'm'],
    [7, '7'],
  ],
  [
    [0, ''],
    [0, ''],
    [5, ''],
    [7, '7'],
  ],
];

/** Tempi that go with the names of styles, beats a minute. */
function temposOf(name: string): readonly [number, number] {
  if (/ballad|slow|lullaby|hymn|spiritual/i.test(name)) return [62, 92];
  if (/fast|quick|polka|bebop|vienn?ese|samba|merengue|charleston|dixie|bigband|foxtrot|gypsy/i.test(name))
    return [125, 172];
  if (/march|swing|jazz|jive|ragtime|rock|dance|house|techno|trance|disco|salsa|mambo/i.test(name))
    return [96, 150];
  return [76, 138];
}

/** The files of the styles, in a settled order. */
export const styleFiles = (): string[] =>
  readdirSync(STYLES, { recursive: true, encoding: 'utf8' })
    .filter((f) => f.endsWith('.mma'))
    .sort();

/** What lasts so many eighths, as the program writes it. */
const DURATIONS: Readonly<Record<number, string>> = { 1: '8', 2: '4', 3: '4.', 4: '2' };

/** A song in a style of a file, another one for each seed; nothing where the style cannot be played. */
export function styleSong(file: string, seed: number): KnownSong | undefined {
  const source = readFileSync(join(STYLES, file), 'latin1');
  const time = Number(/^\s*Time\s+(\d+)/im.exec(source)?.[1] ?? 4);
  const grooves = [...source.matchAll(/^\s*DefGroove\s+(\S+)/gim)].map((m) => m[1]!);
  const main = grooves.filter((g) => !/intro|end|fill|sus/i.test(g));
  if (main.length === 0) return undefined;
  const random = unscattered(
    seed * 4096 + [...file].reduce((sum, c) => (sum * 31 + c.charCodeAt(0)) % 4093, 7),
  );
  for (let i = 0; i < 30; i++) random();
  const one = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
  const [slow, fast] = time === 6 ? [144, 252] : temposOf(file);
  // The program keeps whole tempi only.
  const tempo = Math.floor(slow + (fast - slow) * random());
  const bars = Math.ceil((LENGTH_S * tempo) / 60 / time) + 1;
  const key = Math.floor(random() * 12);
  const row = one(ROWS);
  const sings = time === 4 && random() < 0.6;
  const scale = row[0]![1] === 'm' ? [0, 2, 3, 5, 7, 8, 10] : [0, 2, 4, 5, 7, 9, 11];
  const intros = grooves.filter((g) => /intro/i.test(g));
  const begins = intros.length > 0 && random() < 0.4 ? one([2, 4]) : 0;
  const lines = [`Tempo ${tempo}`];
  if (sings)
    lines.push(
      `Solo Voice ${one(['AltoSax', 'Flute', 'Trumpet', 'ChoirAahs', 'Piano1', 'Violin'])}`,
      `Solo Volume ${one(['m', 'mf', 'f'])}`,
      'Solo Octave 5',
    );
  lines.push(`Groove ${begins > 0 ? one(intros) : one(main.slice(0, 3))}`);
  for (let bar = 0; bar < bars; bar++) {
    if (bar === begins && begins > 0) lines.push(`Groove ${one(main.slice(0, 3))}`);
    else if (bar > begins && (bar - begins) % 8 === 0 && random() < 0.6) lines.push(`Groove ${one(main)}`);
    const [step, kind] = row[bar % row.length]!;
    let melody = '';
    if (sings && bar >= begins && Math.floor(bar / 8) % 4 !== 3) {
      for (let left = 8; left > 0;) {
        const lasts = Math.min(left, one([1, 1, 2, 2, 3, 4]));
        melody += `${DURATIONS[lasts]!}${random() < 0.3 ? 'r' : SUNG[(key + one(scale)) % 12]!};`;
        left -= lasts;
      }
      melody = ` {${melody}}`;
    }
    lines.push(`${bar + 1} ${NOTES[(key + step) % 12]!}${kind}${melody}`);
  }
  const mono = played(lines.join('\n'), one(FONTS), random() < 0.6);
  if (!mono) return undefined;
  // Six eight is tapped in threes of what the program counts.
  const step = time === 6 ? 3 : 1;
  const lengthS = mono.length / RATE_HZ;
  const beats = Array.from({ length: bars * time }, (_, i) => (i * 60) / tempo)
    .filter((_, i) => i % step === 0)
    .filter((b) => b < lengthS);
  const beatsPerBar = time / step;
  const downbeats = beats.filter((_, i) => i % beatsPerBar === 0);
  return { set: 'styles of others', name: file, mono, rateHz: RATE_HZ, beats, downbeats, beatsPerBar };
}

/** What a text of chords sounds like. */
function played(text: string, font: string, inRoom: boolean): Float32Array | undefined {
  const folder = join(WORK, `styles-${process.pid}`);
  mkdirSync(folder, { recursive: true });
  const at = (end: string) => join(folder, `song.${end}`);
  for (const end of ['mid', 'wav', 'f32']) rmSync(at(end), { force: true });
  writeFileSync(at('mma'), `${text}\n`);
  const run = (command: string, ...args: string[]) =>
    execFileSync(command, args, { stdio: 'ignore', timeout: 120_000 });
  try {
    run('mma', at('mma'));
    run(
      'fluidsynth',
      '-ni',
      '-q',
      '-F',
      at('wav'),
      '-r',
      `${RATE_HZ}`,
      '-R',
      inRoom ? '1' : '0',
      '-C',
      '0',
      '-g',
      '0.5',
      font,
      at('mid'),
    );
    run(
      'ffmpeg',
      '-v',
      'error',
      '-y',
      '-t',
      `${LENGTH_S}`,
      '-i',
      at('wav'),
      '-ac',
      '1',
      '-f',
      'f32le',
      at('f32'),
    );
  } catch {
    return undefined;
  }
  const mono = new Float32Array(new Uint8Array(readFileSync(at('f32'))).buffer);
  rmSync(folder, { recursive: true });
  return mono;
}
