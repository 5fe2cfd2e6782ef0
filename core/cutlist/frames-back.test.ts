import fc from 'fast-check';
import type { FrameTable } from '../clip/frame-table';
import { type CompiledProject, compilePiece, compileProject } from '../project/compile';
import { newProject } from '../project/new-project';
import { type Clip, type Project, pieceOf } from '../project/schema';
import { type Rational, rational, toNumber } from '../time/rational';
import { writeEdl } from './edl';
import { cutEvents, framesOff } from './events';
import { writeOtio } from './otio';
import { readEdl } from './read-edl';
import { readOtio } from './read-otio';
import { piecesFrom } from './to-pieces';

const even = (rate: Rational, count = 300): FrameTable => ({ kind: 'constant', rate, count });
const CLIPS: Readonly<Record<string, FrameTable>> = {
  'film.mov': even(rational(24_000, 1001)),
  'ntsc.mp4': even(rational(30_000, 1001)),
  'pal.mp4': even(rational(25)),
  'thirty.mp4': even(rational(30)),
  'fast.mp4': even(rational(60)),
  'uneven.mp4': {
    kind: 'variable',
    starts: Array.from({ length: 300 }, (_, n) => (n + Math.floor(n / 3)) / 30),
    endS: 399 / 30,
  },
};
const clipOf = (name: string, readAt: Rational | null = null): Clip => ({
  ...{ id: name, mediaId: name, name, marks: [], readAt, tracks: [], framing: 'fit' },
});

function compiled(project: Project): CompiledProject {
  return compileProject(project, (piece, clip) => compilePiece(piece, clip, CLIPS[clip.name]!, project.rate));
}

let count = 0;
const newId = () => `n${count++}`;

const step = (move: string, values: Record<string, unknown>) => ({ id: newId(), move, on: true, values });
const CHAINS: Readonly<Record<string, () => ReturnType<typeof step>[]>> = {
  hold: () => [step('hold', { at: 20, length: 12 })],
  'there and back, once': () => [step('boomerang', { trips: 2, turn: 'once' })],
  'there and back, twice': () => [step('boomerang', { trips: 1, turn: 'twice', backPercent: 150 })],
  step: () => [step('step', {})],
  slow: () => [step('speed', { percent: 37 })],
  backward: () => [step('speed', { direction: 'backward', percent: 80 }), step('hold', { at: 9, length: 5 })],
};

const project = (name: string, rate: Rational, chain: string, readAt: Rational | null = null): Project => ({
  ...newProject('p', 'p', 0),
  rate,
  clips: [clipOf(name, readAt)],
  pieces: [pieceOf({ id: 'a', clipId: name, span: { in: 17, out: 77 }, chain: CHAINS[chain]!() })],
});

const shownIn = (p: CompiledProject) => p.pieces.flatMap((x) => [...x.compiled.shown]);

const startIn = (table: FrameTable, n: number): number =>
  table.kind === 'constant' ? (n * table.rate.den) / table.rate.num : (table.starts[n] ?? table.endS);

/** A reader that knows nothing of ours: OpenTimelineIO's ranges, warps and freezes, by its documentation. */
function readPlainly(text: string, table: FrameTable): number[] {
  const startS = (n: number) => startIn(table, n);
  const frameAt = (s: number) => {
    let n = 0;
    while (n < 299 && startS(n + 1) <= s + 1e-7) n++;
    return n;
  };
  const timeline = JSON.parse(text) as {
    tracks: {
      children: {
        children: {
          source_range: {
            start_time: { value: number; rate: number };
            duration: { value: number; rate: number };
          };
          effects: { OTIO_SCHEMA: string; time_scalar: number }[];
        }[];
      }[];
    };
  };
  return timeline.tracks.children[0]!.children.flatMap(({ source_range: range, effects }) => {
    const start = range.start_time.value / range.start_time.rate;
    const scalar = effects[0]?.time_scalar ?? 1;
    const hz = range.duration.rate;
    // The media is played from the start on, faster or slower, backward where the scalar is negative.
    const from = scalar < 0 ? start - scalar / hz : start;
    return Array.from({ length: range.duration.value }, (_, i) =>
      effects[0]?.OTIO_SCHEMA === 'FreezeFrame.1'
        ? frameAt(start)
        : frameAt(from + ((i + 0.5) * scalar) / hz),
    );
  });
}

const RATES = [rational(30), rational(30_000, 1001), rational(25), rational(24), rational(60)];

describe.each(Object.keys(CLIPS))('the frames of %s', (name) => {
  it.each(Object.keys(CHAINS))('come back from OpenTimelineIO, in a project of any rate: %s', (chain) => {
    for (const rate of RATES) {
      const made = compiled(project(name, rate, chain));
      const { text, limits } = writeOtio(cutEvents(made), 'x', rate);
      const read = readOtio(text, rate);
      if (!read.ok) throw new Error(read.sentence);
      const back = piecesFrom(read.events, [{ clip: clipOf(name), table: CLIPS[name]! }], newId, rate);
      const again = compiled({ ...project(name, rate, chain), pieces: [...back.pieces] });
      const off = limits.some((l) => /beside/.test(l)) || back.said.some((s) => /beside/.test(s));
      if (!off) expect(shownIn(again)).toEqual(shownIn(made));
      expect([rate, off]).toEqual([rate, false]);
      expect(readPlainly(text, CLIPS[name]!)).toEqual(shownIn(made));
    }
  });

  it.each(Object.keys(CHAINS))('come back from an EDL, but for those it says: %s', (chain) => {
    for (const rate of RATES) {
      const made = compiled(project(name, rate, chain));
      const { text, limits } = writeEdl(cutEvents(made), 'x', rate);
      const read = readEdl(text, rate);
      if (!read.ok) throw new Error(read.sentence);
      const back = piecesFrom(read.events, [{ clip: clipOf(name), table: CLIPS[name]! }], newId, rate);
      const again = shownIn(compiled({ ...project(name, rate, chain), pieces: [...back.pieces] }));
      const before = shownIn(made);
      const wrong = before.filter((n, i) => again[i] !== n).length;
      const said = Number(/(\d+) result frames? shows? the frame beside/.exec(limits.join(' '))?.[1] ?? 0);
      const guessed = Number(/(\d+) frames? shows? the one beside/.exec(back.said.join(' '))?.[1] ?? 0);
      expect(again.length).toBe(before.length);
      expect([toNumber(rate), wrong <= said + guessed]).toEqual([toNumber(rate), true]);
    }
  });
});

it('a clip that is read at another rate is named by its file’s own times', () => {
  const slow = project('fast.mp4', rational(30), 'hold', rational(30));
  const flat = {
    ...slow,
    pieces: slow.pieces.map((p) => ({ ...p, span: { in: 150, out: 180 }, chain: [] })),
  };
  const [event] = cutEvents(compiled(flat));
  // Frame 150 of a file of 60 a second is at 2.5 s, and plays at half its speed.
  expect([event!.fromS, event!.toS, event!.speed]).toEqual([2.5, 3, 0.5]);
  const { text } = writeEdl([event!], 'x', rational(30));
  expect(text).toMatch(/00:00:02:15 00:00:03:00 00:00:00:00 00:00:01:00\nM2 +FAST +015\.0/);
  expect(framesOff(event!, 2.5, 3)).toEqual([]);
  const read = readEdl(text, rational(30));
  if (!read.ok) throw new Error(read.sentence);
  const back = piecesFrom(
    read.events,
    [{ clip: clipOf('fast.mp4'), table: CLIPS['fast.mp4']! }],
    newId,
    rational(30),
  );
  const again = compiled({ ...flat, clips: [clipOf('fast.mp4')], pieces: [...back.pieces] });
  expect(shownIn(again)).toEqual(Array.from({ length: 30 }, (_, i) => 150 + i));
});

it('any span and speed of any clip comes back from OpenTimelineIO frame for frame, or it says which not', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...Object.keys(CLIPS)),
      fc.constantFrom(...RATES),
      fc.integer({ min: 0, max: 200 }),
      fc.integer({ min: 2, max: 90 }),
      fc.integer({ min: 10, max: 400 }),
      fc.boolean(),
      (name, rate, first, length, percent, backward) => {
        const own = project(name, rate, 'hold');
        const chain = [step('speed', { percent, direction: backward ? 'backward' : 'forward' })];
        const pieces = [pieceOf({ id: 'a', clipId: name, span: { in: first, out: first + length }, chain })];
        const made = compiled({ ...own, pieces });
        const { text, limits } = writeOtio(cutEvents(made), 'x', rate);
        const read = readOtio(text, rate);
        if (!read.ok) throw new Error(read.sentence);
        const back = piecesFrom(read.events, [{ clip: clipOf(name), table: CLIPS[name]! }], newId, rate);
        const before = shownIn(made);
        const again = shownIn(compiled({ ...own, pieces: [...back.pieces] }));
        const said = Number(/(\d+) result frames? shows? the frame beside/.exec(limits.join(' '))?.[1] ?? 0);
        expect(again.length).toBe(before.length);
        expect(before.filter((n, i) => again[i] !== n).length).toBeLessThanOrEqual(said);
        // A last frame that begins in the clip and ends beyond it is cut short in a list, so that all of it runs slower by a hair.
        const playedS = (before.length * percent) / 100 / toNumber(rate);
        const table = CLIPS[name]!;
        const beyond = backward
          ? startIn(table, first + length) < playedS
          : startIn(table, first) + playedS > startIn(table, 300);
        if (!beyond) expect(said).toBe(0);
      },
    ),
    { numRuns: 150 },
  );
});
