import { writeMidi } from 'midi-file';
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
      },
    });
  });

  it('that is none gets a sentence', () => {
    expect(readMidi(Uint8Array.of(1, 2, 3), 4)).toEqual({
      ok: false,
      sentence: 'This is not a Standard MIDI File, or it is damaged.',
    });
  });
});
