import { type MidiEvent, writeMidi } from 'midi-file';
import { readMarkers, writeMarkers } from './markers';
import { readMidi } from './midi';

const grid = { beats: [0.5, 1, 1.5, 2, 2.5, 3], firstBar: 1, beatsPerBar: 3 };

describe('markers', () => {
  it('come back as they were written', () => {
    expect(readMarkers(writeMarkers(grid), { ...grid, beatsPerBar: 4 })).toEqual({ ok: true, grid });
  });

  it('are read from plain lists of instants too, and refused with a sentence', () => {
    expect(readMarkers('0:01.5\n0:02\n1:00', grid)).toMatchObject({
      ok: true,
      grid: { beats: [1.5, 2, 60] },
    });
    expect(readMarkers('hello', grid)).toMatchObject({ ok: false });
  });
});

/** What is read of three seconds at 120 quarter notes a minute with these time signatures: tick, number, note. */
function gridOf(...signatures: [number, number, number][]) {
  const track: MidiEvent[] = signatures.map(([tick, numerator, denominator], i) => ({
    deltaTime: tick - (signatures[i - 1]?.[0] ?? 0),
    meta: true,
    type: 'timeSignature',
    numerator,
    denominator,
    metronome: 24,
    thirtyseconds: 8,
  }));
  const header = { format: 0, numTracks: 1, ticksPerBeat: 480 } as const;
  const read = readMidi(Uint8Array.from(writeMidi({ header, tracks: [track] })), 3);
  return read.ok ? { ...read.time.grid, barsChange: read.time.barsChange } : read.sentence;
}

describe('a MIDI file', () => {
  const bytes = Uint8Array.from(
    writeMidi({
      header: { format: 1, numTracks: 2, ticksPerBeat: 480 },
      tracks: [
        [
          {
            deltaTime: 0,
            meta: true,
            type: 'timeSignature',
            numerator: 3,
            denominator: 4,
            metronome: 24,
            thirtyseconds: 8,
          },
          { deltaTime: 0, meta: true, type: 'setTempo', microsecondsPerBeat: 500_000 },
          { deltaTime: 960, meta: true, type: 'setTempo', microsecondsPerBeat: 1_000_000 },
          { deltaTime: 0, meta: true, type: 'endOfTrack' },
        ],
        [
          { deltaTime: 240, type: 'noteOn', channel: 9, noteNumber: 36, velocity: 100 },
          { deltaTime: 240, type: 'noteOn', channel: 9, noteNumber: 42, velocity: 50 },
          { deltaTime: 0, meta: true, type: 'endOfTrack' },
        ],
      ],
    }),
  );

  it('gives beats by its tempo map, bars by its signature, notes as accents', () => {
    const read = readMidi(bytes, 4.5);
    expect(read).toEqual({
      ok: true,
      time: {
        grid: { beats: [0, 0.5, 1, 2, 3, 4], firstBar: 0, beatsPerBar: 3 },
        accents: [
          { at: 0.25, band: 'low', strength: 1 },
          { at: 0.5, band: 'high', strength: 0.5 },
        ],
        barsChange: false,
      },
    });
  });

  it('is counted in threes of 6/8, in halves of 2/2, with a short bar before the others begin', () => {
    expect(gridOf([0, 6, 8])).toMatchObject({ beats: [0, 0.75, 1.5, 2.25, 3], beatsPerBar: 2 });
    expect(gridOf([0, 2, 2])).toMatchObject({ beats: [0, 1, 2, 3], beatsPerBar: 2 });
    expect(gridOf([0, 1, 4], [480, 3, 4])).toMatchObject({
      beats: [0, 0.5, 1, 1.5, 2, 2.5, 3],
      firstBar: 1,
      beatsPerBar: 3,
      barsChange: false,
    });
  });

  it('with a signature or a tempo that no music has gives beats all the same, one after the other', () => {
    expect(gridOf([0, 4, 2 ** 30])).toMatchObject({ beats: [0, 0.5, 1, 1.5, 2, 2.5, 3], beatsPerBar: 4 });
    const track: MidiEvent[] = [{ deltaTime: 480, meta: true, type: 'setTempo', microsecondsPerBeat: 0 }];
    const header = { format: 0, numTracks: 1, ticksPerBeat: 480 } as const;
    const read = readMidi(Uint8Array.from(writeMidi({ header, tracks: [track] })), 1);
    expect(read.ok && read.time.grid.beats).toEqual([0, 0.5, 1]);
  });

  it('says where its bars change, which one grid cannot follow', () => {
    expect(gridOf([0, 4, 4], [1920, 3, 4])).toMatchObject({ beatsPerBar: 4, barsChange: true });
    expect(gridOf([0, 2, 4], [960, 3, 4])).toMatchObject({ beatsPerBar: 3, firstBar: 2, barsChange: false });
    expect(gridOf([0, 4, 4], [1440, 3, 4])).toMatchObject({ beatsPerBar: 3, firstBar: 0, barsChange: true });
    expect(gridOf([0, 3, 4], [1440, 3, 4])).toMatchObject({ beatsPerBar: 3, barsChange: false });
  });

  it('that is none gets a sentence', () => {
    expect(readMidi(Uint8Array.of(1, 2, 3), 4)).toEqual({
      ok: false,
      sentence: 'This is not a Standard MIDI File, or it is damaged.',
    });
  });
});
