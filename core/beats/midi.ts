import { parseMidi } from 'midi-file';
import type { Accent, BeatGrid } from './grid';

/** What a Standard MIDI File says of the time of a song. */
export interface MidiTime {
  readonly grid: BeatGrid;
  /** Its notes as accents, by what they are likely to be. */
  readonly accents: readonly Accent[];
}

/** Drums of General MIDI that belong to a band. */
const LOW_DRUMS = new Set([35, 36, 41, 43, 45]);
const HIGH_DRUMS = new Set([42, 44, 46, 49, 51, 52, 53, 55, 57, 59]);

const bandOf = (channel: number, note: number): Accent['band'] => {
  if (channel === 9) return LOW_DRUMS.has(note) ? 'low' : HIGH_DRUMS.has(note) ? 'high' : 'mid';
  return note < 48 ? 'low' : note < 84 ? 'mid' : 'high';
};

/**
 * Beats of a MIDI file's tempo map up to `lengthS`, bars by its first time signature, notes as accents. Gives a
 * sentence where it cannot be read or counts in film frames.
 */
export function readMidi(
  bytes: Uint8Array,
  lengthS: number,
): { ok: true; time: MidiTime } | { ok: false; sentence: string } {
  let midi: ReturnType<typeof parseMidi>;
  try {
    midi = parseMidi(bytes);
  } catch {
    return { ok: false, sentence: 'This is not a Standard MIDI File, or it is damaged.' };
  }
  const perBeat = midi.header.ticksPerBeat;
  if (!perBeat)
    return {
      ok: false,
      sentence: 'This MIDI file counts in film frames, not in beats: export it with beats.',
    };
  const events = midi.tracks.flatMap((track) => {
    let tick = 0;
    return track.map((event) => ({ tick: (tick += event.deltaTime), event }));
  });
  const tempi = [
    { tick: 0, microseconds: 500_000 },
    ...events
      .flatMap(({ tick, event }) =>
        event.type === 'setTempo' ? [{ tick, microseconds: event.microsecondsPerBeat }] : [],
      )
      .sort((a, b) => a.tick - b.tick),
  ];
  const instantOf = (tick: number): number => {
    let seconds = 0;
    for (const [i, tempo] of tempi.entries()) {
      const end = Math.min(tick, tempi[i + 1]?.tick ?? Infinity);
      if (end > tempo.tick) seconds += ((end - tempo.tick) / perBeat) * (tempo.microseconds / 1e6);
    }
    return seconds;
  };
  const signature = events.find(({ event }) => event.type === 'timeSignature')?.event;
  const beatsPerBar =
    signature?.type === 'timeSignature' ? Math.min(16, Math.max(1, signature.numerator)) : 4;
  const beats: number[] = [];
  for (let n = 0; n < 20_000; n++) {
    const at = instantOf(n * perBeat);
    if (at > lengthS) break;
    beats.push(Number(at.toFixed(5)));
  }
  const accents = events
    .flatMap(({ tick, event }): Accent[] =>
      event.type === 'noteOn' && event.velocity > 0
        ? [
            {
              at: Number(instantOf(tick).toFixed(4)),
              band: bandOf(event.channel, event.noteNumber),
              strength: Number((event.velocity / 100).toFixed(3)),
            },
          ]
        : [],
    )
    .filter((a) => a.at <= lengthS)
    .sort((a, b) => a.at - b.at);
  return { ok: true, time: { grid: { beats, firstBar: 0, beatsPerBar }, accents } };
}
