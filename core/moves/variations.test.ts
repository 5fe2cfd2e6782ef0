import { DEFAULT_ENVELOPES } from '../beats/envelope';
import type { Music } from '../beats/music';
import type { FrameTable } from '../clip/frame-table';
import { pathFrames, spanPath, staysInside } from '../path/path';
import { rational } from '../time/rational';
import { lengthened, mirrored, mixed, repeated, shifted, thinned } from './pattern-edits';
import { pattern } from './pattern';
import { applyChain } from './chain';
import { MOVES, moveById } from './registry';
import { variationsOf } from './variations';

const table: FrameTable = { kind: 'constant', rate: rational(60), count: 300 };
const incoming = spanPath(table, 100, 180, rational(30));
const music: Music = {
  beats: Array.from({ length: 20 }, (_, i) => 4 + 15 * i),
  firstBar: 0,
  beatsPerBar: 4,
  accents: Array.from({ length: 20 }, (_, i) => ({ at: 4 + 15 * i, band: 'low', strength: 1 })),
  envelopes: DEFAULT_ENVELOPES,
};
const context = { table, music };
const vary = (id: string, seed: number, wildness = 0.5, count = 8) => {
  const move = moveById(id)!;
  const values = { ...move.defaults, ...move.suggest?.(incoming, context) };
  return variationsOf(move, values, incoming, context, { seed, wildness, count });
};

describe('variations', () => {
  it.each(MOVES.map((m) => m.id))('of %s are sound, all different, and fit the clip', (id) => {
    const move = moveById(id)!;
    const found = vary(id, 7);
    expect(found.length).toBeGreaterThanOrEqual(6);
    expect(new Set(found.map((v) => JSON.stringify(v))).size).toBe(found.length);
    for (const values of found) {
      const { path } = applyChain(incoming, [{ id: 'a', move: move.id, on: true, values }], context);
      expect(pathFrames(path)).toBeGreaterThan(0);
      expect(staysInside(path, table)).toBe(true);
    }
  });

  it('are the same for the same seed, others for another', () => {
    expect(vary('scratch', 3)).toEqual(vary('scratch', 3));
    expect(vary('scratch', 4)).not.toEqual(vary('scratch', 3));
  });

  it('wilder goes further', () => {
    const spread = (wildness: number) => {
      const percents = vary('speed', 5, wildness, 12).map((v) =>
        Math.abs(Math.log2(Number(v['percent']) / 50)),
      );
      return percents.reduce((a, b) => a + b, 0) / percents.length;
    };
    expect(spread(1)).toBeGreaterThan(2 * spread(0.1));
  });
});

describe('changes of a whole pattern', () => {
  const field = pattern.fields.find((f) => f.key === 'steps')!;
  if (field.kind !== 'text') throw new Error('typed');
  const read = (text: string) => field.read(text) as ReturnType<typeof repeated>;
  const row = read('1> 2> 3< 4=');

  it.each([
    ['repeated', repeated(row), '1> 2> 3< 4= 1> 2> 3< 4='],
    ['shifted on', shifted(row, 1), '4= 1> 2> 3<'],
    ['shifted back', shifted(row, -1), '2> 3< 4= 1>'],
    ['mirrored', mirrored(row), '4= 3> 2< 1<'],
    ['thinned out', thinned(row), '1> . 3< .'],
    ['longer', lengthened(row, 6), '1> 2> 3< 4= . .'],
    ['shorter', lengthened(row, 2), '1> 2>'],
  ])('%s', (_, steps, wanted) => {
    expect(field.write(steps)).toBe(wanted);
  });

  it('mixed keeps every step, and the seed its order', () => {
    const sorted = (steps: readonly object[]) => steps.map((s) => JSON.stringify(s)).sort();
    expect(sorted(mixed(row, 9))).toEqual(sorted(row));
    expect(mixed(row, 9)).toEqual(mixed(row, 9));
  });

  it('plays from a mark forward, back to it backward, and rests on it', () => {
    const steps = read('@200> @200< @200=');
    const { path } = pattern.apply(incoming, { slices: 4, length: 5, swing: 0, steps }, { table });
    // A 60/s clip in a 30/s project: two source frames a result frame.
    const at = (frames: number) => frames / 60;
    expect(path.segments.map((s) => [s.from, s.to])).toEqual([
      [at(200), at(210)],
      [at(210), at(200)],
      [at(200.5), at(200.5)],
    ]);
  });
});
