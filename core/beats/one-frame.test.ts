import fc from 'fast-check';
import type { FrameTable } from '../clip/frame-table';
import { chosenOf } from '../looks/scope';
import { ONE_FRAME } from '../looks/facts';
import { bounce } from '../moves/bounce';
import { land } from '../moves/land';
import { frame } from '../time/units';
import { sampleFrames, spanPath } from '../path/path';
import { STANDARD_RATES, rational, toNumber } from '../time/rational';
import { DEFAULT_ENVELOPES } from './envelope';
import { frameOn, musicOf } from './music';

const song = (bpm: number, firstS: number) => ({
  grid: {
    beats: Array.from({ length: 40 }, (_, i) => firstS + (i * 60) / bpm),
    ...{ firstBar: 0, beatsPerBar: 4, held: [] },
  },
  accents: [],
  envelopes: DEFAULT_ENVELOPES,
});
const place = { startFrame: 0, fromS: 0 };

describe('one beat is one frame', () => {
  it('for landings, turns and looks alike, the nearest', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...STANDARD_RATES.filter((r) => toNumber(r) < 51)),
        fc.double({ min: 60, max: 180, noNaN: true }),
        fc.double({ min: 0.2, max: 0.9, noNaN: true }),
        fc.integer({ min: 1, max: 8 }),
        (rate, bpm, firstS, beat) => {
          const table: FrameTable = { kind: 'constant', rate, count: 900 };
          const music = musicOf(song(bpm, firstS), place, rate);
          const wanted = frameOn(music.beats[beat]!, music);
          expect(wanted).toBe(Math.round(music.beats[beat]!));
          expect(chosenOf({ ...ONE_FRAME, music }, { of: 'beats', every: 1, from: 1 })[beat]).toBe(wanted);
          const path = spanPath(table, frame(0), frame(900), rate);
          const landed = land.apply(path, { ...land.defaults, mark: 600, beat }, { table, music });
          expect(sampleFrames(landed.path, table)[wanted]).toBe(600);
          const values = { ...bounce.defaults, on: 'every' as const, instants: [100, 160, 120, 170, 130] };
          const turned = bounce.apply(path, values, { table, music }).path;
          // Each frame it goes to is shown on a beat.
          const shown = sampleFrames(turned, table);
          const on = music.beats.map((b) => frameOn(b, music));
          for (const to of values.instants.slice(1, 4)) expect(on.some((at) => shown[at] === to)).toBe(true);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('not before it is heard, where beats were found up to 10 ms early, at any rate', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(24, 25, 30, 50, 60, 120),
        fc.double({ min: 0, max: 60, noNaN: true }),
        fc.double({ min: 0, max: 0.01, noNaN: true }),
        (hz, heardS, earlyS) => {
          const music = musicOf(song(120, 0), place, rational(hz));
          const on = frameOn((heardS - earlyS) * hz, music);
          // The frame on which it happens is still seen, or yet to be seen, when the beat sounds.
          expect((on + 1) / hz).toBeGreaterThan(heardS - 1e-9);
        },
      ),
    );
  });
});
