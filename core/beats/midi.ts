import { parseMidi } from 'midi-file';
import { lastAtOrBefore } from '../search';
import { type Accent, type BeatGrid, MOST_BEATS } from './grid';

/** What a Standard MIDI File says of the time of a song. */
export interface MidiTime {
  readonly grid: BeatGrid;
  /** Its notes as accents, by what they are likely to be. */
  readonly accents: readonly Accent[];
  /** Bars are not the same all along: the grid keeps those of the time signature that holds longest. */
  readonly barsChange: boolean;
}

/** Drums of General MIDI that belong to a band. */
const LOW_DRUMS = new Set([35, 36, 41, 43, 45]);
const HIGH_DRUMS = new Set([42, 44, 46, 49, 51, 52, 53, 55, 57, 59]);

const bandOf = (channel: number, note: number): Accent['band'] => {
  if (channel === 9) return LOW_DRUMS.has(note) ? 'low' : HIGH_DRUMS.has(note) ? 'high' : 'mid';
  return note < 48 ? 'low' : note < 84 ? 'mid' : 'high';
};

/** What is counted in a time signature: how many to a bar, and how many quarter notes each lasts. */
interface Counted {
  readonly tick: number;
  readonly perBar: number;
  readonly quarters: number;
}

/**
 * Compound time (6/8, 9/8, 12/8) is counted in threes of its notes, every other in its notes (2/2 in halves). A note
 * shorter than a thirty-second is no signature of music: it is taken for 4/4.
 */
function countedIn(tick: number, numerator: number, denominator: number): Counted {
  if (denominator > 32) return countedIn(tick, 4, 4);
  const threes = denominator >= 8 && numerator > 3 && numerator % 3 === 0;
  return {
    tick,
    perBar: Math.min(16, Math.max(1, threes ? numerator / 3 : numerator)),
    quarters: (threes ? 12 : 4) / denominator,
  };
}

/**
 * Beats of a MIDI file's tempo map up to `lengthS`, counted as its time signatures say, bars by the one that
 * holds longest, notes as accents. Gives a sentence where it cannot be read or counts in film frames.
 */
export function readMidi(
  bytes: Uint8Array,
  lengthS: number,
): { ok: true; time: MidiTime } | { ok: false; sentence: string } {
  const notMidi = { ok: false, sentence: 'This is not a Standard MIDI File, or it is damaged.' } as const;
  // The header says how long it is: always six bytes.
  if (String.fromCharCode(...bytes.subarray(0, 8)) !== 'MThd\0\0\0\u0006') return notMidi;
  let midi: ReturnType<typeof parseMidi>;
  try {
    midi = parseMidi(bytes);
  } catch {
    return notMidi;
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
        event.type === 'setTempo' && event.microsecondsPerBeat > 0
          ? [{ tick, microseconds: event.microsecondsPerBeat }]
          : [],
      )
      .sort((a, b) => a.tick - b.tick),
  ];
  // When each tempo begins: tempo maps drawn by hand have tens of thousands.
  const secondsATick = (i: number) => tempi[i]!.microseconds / 1e6 / perBeat;
  const begins = [0];
  for (let i = 1; i < tempi.length; i++)
    begins.push(begins[i - 1]! + (tempi[i]!.tick - tempi[i - 1]!.tick) * secondsATick(i - 1));
  const ticks = tempi.map((t) => t.tick);
  const instantOf = (tick: number): number => {
    const i = lastAtOrBefore(ticks, tick);
    return begins[i]! + (tick - ticks[i]!) * secondsATick(i);
  };
  const signatures = events
    .flatMap(({ tick, event }) =>
      event.type === 'timeSignature' ? [countedIn(tick, event.numerator, event.denominator)] : [],
    )
    .sort((a, b) => a.tick - b.tick);
  if (signatures[0]?.tick !== 0) signatures.unshift(countedIn(0, 4, 4));
  const beats: number[] = [];
  const runs = signatures.map(({ tick, perBar, quarters }, i) => {
    const from = beats.length;
    const end = signatures[i + 1]?.tick ?? Infinity;
    for (let at = tick; at < end && beats.length < MOST_BEATS; at += quarters * perBeat) {
      const instant = instantOf(at);
      if (instant > lengthS) break;
      beats.push(Number(instant.toFixed(5)));
    }
    return { from, perBar, count: beats.length - from };
  });
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
  const { from, perBar } = runs.reduce((longest, run) => (run.count > longest.count ? run : longest));
  // A short bar before the others is a pickup, no change.
  const pickup = (run: (typeof runs)[number]) => run.from < from && run.count < perBar;
  const barsChange = runs.some(
    (run) => run.count > 0 && !pickup(run) && (run.perBar !== perBar || (run.from - from) % perBar !== 0),
  );
  return {
    ok: true,
    time: { grid: { beats, firstBar: from % perBar, beatsPerBar: perBar }, accents, barsChange },
  };
}
