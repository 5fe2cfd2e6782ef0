/** Data files that are broken by chance: each is read as far as it goes or refused with a sentence, soon, and nothing impossible comes of it. */
import fc from 'fast-check';
import { type MidiEvent, writeMidi } from 'midi-file';
import { AccentSchema, BeatGridSchema, NO_GRID, evenGrid } from './beats/grid';
import { readMarkers, writeMarkers } from './beats/markers';
import { readMidi } from './beats/midi';
import { readEdl } from './cutlist/read-edl';
import { readOtio } from './cutlist/read-otio';
import { piecesFrom } from './cutlist/to-pieces';
import { ColourTableSchema, readCube } from './looks/cube';
import { ClipSchema, PieceSchema } from './project/schema';
import { rational } from './time/rational';

/** What is done to a file, one after the other, at places given as parts of its length. */
const damage = fc.array(
  fc.record({
    way: fc.constantFrom('cut', 'behead', 'turn', 'hole', 'twice', 'number'),
    from: fc.double({ min: 0, max: 1, noNaN: true }),
    length: fc.integer({ min: 1, max: 40 }),
    bit: fc.nat(7),
    number: fc.constantFrom('0', '-1', '1e99', '99999999999', 'NaN', '00:00:00:00', '', '1:2:3', '"', '{'),
  }),
  { minLength: 1, maxLength: 4 },
);
type Damage = typeof damage extends fc.Arbitrary<infer T> ? T : never;

function broken(whole: Uint8Array, done: Damage): Uint8Array {
  let bytes = Buffer.from(whole);
  for (const { way, from, length, bit, number } of done) {
    const at = Math.floor(from * bytes.length);
    const end = Math.min(bytes.length, at + length);
    if (way === 'cut') bytes = bytes.subarray(0, at);
    else if (way === 'behead') bytes = bytes.subarray(at);
    else if (way === 'twice') bytes = Buffer.concat([bytes.subarray(0, end), bytes.subarray(at)]);
    else if (way === 'hole') bytes.fill(0, at, end);
    else if (way === 'turn') for (let i = at; i < end; i += 3) bytes[i]! ^= 1 << bit;
    else {
      // Some number of the text becomes another.
      const text = bytes.toString('latin1');
      const found = /-?\d+(\.\d+)?/.exec(text.slice(at));
      if (!found) continue;
      const place = at + found.index;
      bytes = Buffer.from(text.slice(0, place) + number + text.slice(place + found[0].length), 'latin1');
    }
  }
  return Uint8Array.from(bytes);
}

const RATE = rational(30);
const grid = evenGrid(108, 0.4, 60, { ...NO_GRID, beatsPerBar: 3, firstBar: 1 });
const track: MidiEvent[] = [
  {
    ...({ deltaTime: 0, meta: true, type: 'timeSignature', numerator: 6, denominator: 8 } as const),
    ...{ metronome: 24, thirtyseconds: 8 },
  },
  { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat: 480_000 },
  ...Array.from(
    { length: 40 },
    (_, n) =>
      ({ deltaTime: 120, type: 'noteOn', channel: 9, noteNumber: 36 + (n % 7), velocity: 90 }) as const,
  ),
  { deltaTime: 0, meta: true, type: 'endOfTrack' },
];
const header = { format: 0, numTracks: 1, ticksPerBeat: 480 } as const;
const midi = Uint8Array.from(writeMidi({ header, tracks: [track] }));
const cube = `TITLE "Tin"\nLUT_3D_SIZE 3\nDOMAIN_MIN 0 0 0\n${Array.from(
  { length: 27 },
  (_, i) => `${(i % 3) / 2} ${(Math.floor(i / 3) % 3) / 2} ${Math.floor(i / 9) / 2}`,
).join('\n')}\n`;
const edl = `TITLE: QUAY\nFCM: NON-DROP FRAME\n\n${Array.from({ length: 6 }, (_, n) => {
  const s = String(n).padStart(2, '0');
  return `0${s}  PIER     V     C        00:00:0${n}:00 00:00:0${n + 1}:00 00:00:${s}:00 00:00:${s}:29\nM2   PIER       060.0                00:00:0${n}:00\n* FROM CLIP NAME: pier.mp4\n`;
}).join('\n')}`;
const time = (value: number) => ({ OTIO_SCHEMA: 'RationalTime.1', rate: 30, value });
const otio = JSON.stringify({
  OTIO_SCHEMA: 'Timeline.1',
  name: 'quay',
  tracks: {
    OTIO_SCHEMA: 'Stack.1',
    children: [
      {
        OTIO_SCHEMA: 'Track.1',
        kind: 'Video',
        children: Array.from({ length: 5 }, (_, n) => ({
          OTIO_SCHEMA: 'Clip.2',
          name: 'pier.mp4',
          source_range: { OTIO_SCHEMA: 'TimeRange.1', start_time: time(n * 20), duration: time(30) },
          effects: [{ OTIO_SCHEMA: 'LinearTimeWarp.1', time_scalar: n - 2 }],
        })),
      },
    ],
  },
});

const clip = ClipSchema.parse({ id: 'c', name: 'pier.mp4', mediaId: 'm', marks: [], readAt: null });
const table = { kind: 'constant', rate: RATE, count: 300 } as const;

/** Seconds that reading one may take: on a slow machine under load. */
const PATIENCE_MS = 2000;

function each(whole: Uint8Array, read: (bytes: Uint8Array, text: string) => string | undefined): void {
  fc.assert(
    fc.property(damage, (done) => {
      const bytes = broken(whole, done);
      const begun = performance.now();
      const sentence = read(bytes, new TextDecoder().decode(bytes));
      expect(performance.now() - begun).toBeLessThan(PATIENCE_MS);
      if (sentence !== undefined) expect(sentence).toMatch(/^\S.{15,}[.:!?”"')]$/s);
    }),
    { numRuns: 300 },
  );
}
const bytesOf = (text: string) => new TextEncoder().encode(text);

it('MIDI files', () =>
  each(midi, (bytes) => {
    const read = readMidi(bytes, 60);
    if (!read.ok) return read.sentence;
    BeatGridSchema.parse(read.time.grid);
    read.time.accents.forEach((a) => AccentSchema.parse(a));
    return undefined;
  }));

it('markers', () =>
  each(bytesOf(writeMarkers(grid)), (_, text) => {
    const read = readMarkers(text, grid);
    if (!read.ok) return read.sentence;
    BeatGridSchema.parse(read.grid);
    expect(read.grid.beats).toEqual(read.grid.beats.toSorted((a, b) => a - b));
    return undefined;
  }));

it('colour tables', () =>
  each(bytesOf(cube), (_, text) => {
    const read = readCube(text, 'tin.cube');
    if (!read.ok) return read.sentence;
    ColourTableSchema.parse(read.table);
    return undefined;
  }));

it.each([
  ['EDL', edl, readEdl],
  ['OTIO', otio, readOtio],
])('cut lists: %s', (_, whole, readList) =>
  each(bytesOf(whole), (_bytes, text) => {
    const read = readList(text, RATE);
    if (!read.ok) return read.sentence;
    let next = 0;
    const { pieces } = piecesFrom(read.events, [{ clip, table }], () => `p${next++}`, RATE);
    pieces.forEach((p) => PieceSchema.parse(p));
    return undefined;
  }),
);

it('a MIDI file of very many tempi and notes is read in time', () => {
  const many: MidiEvent[] = Array.from({ length: 40_000 }, (_, n) =>
    n % 2
      ? { deltaTime: 5, meta: true, type: 'setTempo', microsecondsPerBeat: 400_000 + n }
      : { deltaTime: 5, type: 'noteOn', channel: 9, noteNumber: 36, velocity: 90 },
  );
  const bytes = Uint8Array.from(writeMidi({ header, tracks: [many] }));
  const begun = performance.now();
  expect(readMidi(bytes, 600).ok).toBe(true);
  expect(performance.now() - begun).toBeLessThan(PATIENCE_MS);
});
