import { z } from 'zod';
import type { FrameTable } from '../clip/frame-table';
import { holdSegment } from '../path/segment';
import { type TimePath, instantAt, pathFrames, sampleInstants, spanPath, staysInside } from '../path/path';
import { DEFAULT_ENVELOPES } from '../beats/envelope';
import type { Music } from '../beats/music';
import { rational } from '../time/rational';
import { seeded } from './random';
import type { AnyMove, Move, MoveContext } from './move';
import { withoutPlaces, workOut } from './place-values';
import { MOVES } from './registry';

const table: FrameTable = { kind: 'constant', rate: rational(30), count: 300 };
/** Frames of uneven length: the last one lasts as long as all others. */
const uneven: FrameTable = {
  kind: 'variable',
  starts: Array.from({ length: 200 }, (_, n) => n / 24 + (n % 3) * 0.004),
  endS: 400 / 24,
};
const music: Music = {
  beats: Array.from({ length: 40 }, (_, i) => i * 13.7),
  firstBar: 0,
  beatsPerBar: 4,
  accents: Array.from({ length: 40 }, (_, i) => ({ at: i * 13.7, band: 'low' as const, strength: 0.9 })),
  envelopes: DEFAULT_ENVELOPES,
};

/** A move as docs/add-a-move.md tells to write one: everything shown as its first frame. */
const schema = z.object({ length: z.int().min(1).max(1000) });
const poster: Move<z.infer<typeof schema>> = {
  id: 'poster',
  name: 'Poster',
  group: 'stop',
  summary: 'Shows the first frame, and nothing else.',
  schema,
  defaults: { length: 30 },
  shape: [0.5, 0.5],
  fields: [{ key: 'length', kind: 'length', label: 'Length', help: 'How long.', min: 1, max: 1000 }],
  apply: (path, { length }) => ({
    path: { rate: path.rate, segments: [holdSegment(length, instantAt(path, 0.5))] },
    notices: [],
  }),
};

/** A move carried out with its places worked out, as a link of a chain does. */
function applied(move: AnyMove, path: TimePath, values: Record<string, unknown>, context: MoveContext) {
  const worked = workOut(move, values, { path, table: context.table, marks: [], music: context.music });
  if (!('sets' in worked)) return { path, notices: [worked] };
  return move.apply(path, worked.sets[0]!, { ...context, instants: worked.instants });
}

describe.each([...MOVES, poster as unknown as AnyMove].map((m) => [m.name, m] as const))(
  '%s keeps the contract of a move',
  (_, move) => {
    const spans = [
      spanPath(table, 0, 1, rational(30)),
      spanPath(table, 100, 160, rational(30)),
      spanPath(table, 0, 300, rational(25)),
    ];

    it('has defaults that its schema takes, and a field with words for every value', () => {
      expect(move.schema.safeParse(move.defaults).success).toBe(true);
      expect(move.fields.map((f) => f.key).sort()).toEqual(Object.keys(move.defaults).sort());
      for (const f of move.fields)
        expect(
          [f.label, f.help].every((words) => words.length > 2 || ['By', 'At', 'To', 'On'].includes(words)),
        ).toBe(true);
      expect(move.summary).toMatch(/\.$/);
      expect(move.shape.every((y) => y >= 0 && y <= 1)).toBe(true);
    });

    it('takes any span with its defaults and with what it suggests', () => {
      for (const span of spans)
        for (const values of [move.defaults, { ...move.defaults, ...move.suggest?.(span, { table }) }]) {
          expect(move.schema.safeParse(withoutPlaces(move, values)).success).toBe(true);
          const { path, notices } = applied(move, span, values, { table });
          expect(pathFrames(path)).toBeGreaterThan(0);
          expect(staysInside(path, table)).toBe(true);
          expect(sampleInstants(path).every(Number.isFinite)).toBe(true);
          expect(notices.filter((n) => n.level === 'error')).toEqual([]);
        }
    });

    it('suggests and varies within bounds on any clip, with music or without, and what it makes stays inside', () => {
      for (const clip of [table, uneven])
        for (const context of [{ table: clip }, { table: clip, music }])
          for (const [first, end] of [
            [0, 200],
            [0, 1],
            [199, 200],
            [100, 200],
          ] as const) {
            const span = spanPath(clip, first, end, rational(30));
            const suggested = { ...move.defaults, ...move.suggest?.(span, context) };
            expect(move.schema.safeParse(withoutPlaces(move, suggested)).success).toBe(true);
            for (const wildness of [0, 0.5, 1]) {
              const varied = { ...suggested, ...move.vary?.(suggested, seeded(7), wildness) };
              expect(move.schema.safeParse(withoutPlaces(move, varied)).success).toBe(true);
              const { path } = applied(move, span, varied, context);
              expect(staysInside(path, clip)).toBe(true);
            }
          }
    });

    it('has texts that read back what they write', () => {
      for (const f of move.fields)
        if (f.kind === 'text') {
          expect(f.read(f.write(move.defaults[f.key]))).toEqual(move.defaults[f.key]);
          expect(f.summary(move.defaults[f.key])).toMatch(/^[^{}[\]~@]{4,80}$/);
        }
    });
  },
);

it('no two moves share an id or a name', () => {
  expect(new Set(MOVES.map((m) => m.id)).size).toBe(MOVES.length);
  expect(new Set(MOVES.map((m) => m.name)).size).toBe(MOVES.length);
});
