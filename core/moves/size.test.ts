import { joinsOf } from '../checks/joins';
import { choppiest } from '../checks/smoothness';
import type { FrameTable } from '../clip/frame-table';
import type { Music } from '../beats/music';
import { DEFAULT_ENVELOPES } from '../beats/envelope';
import { type TimePath, sampleFrames } from '../path/path';
import { evenSegment } from '../path/segment';
import { rational } from '../time/rational';
import { applyChain } from './chain';
import { MOVES, moveById } from './registry';

const rate = rational(30);
const table: FrameTable = { kind: 'constant', rate, count: 9000 };

/** A path of many short passes, forward and backward, ends between frames. */
function passes(count: number): TimePath {
  const segments = Array.from({ length: count }, (_, i) => {
    const from = 60 + (i % 40);
    const [a, b] = i % 2 === 0 ? [from, from + 0.35] : [from + 0.35, from];
    return evenSegment(10.3, a, b, rate);
  });
  return { rate, segments };
}

const music = (frames: number): Music => ({
  beats: Array.from({ length: Math.ceil(frames / 16) }, (_, i) => i * 16),
  firstBar: 0,
  beatsPerBar: 4,
  accents: Array.from({ length: Math.ceil(frames / 16) }, (_, i) => ({
    at: i * 16,
    band: 'low',
    strength: 1,
  })),
  envelopes: DEFAULT_ENVELOPES,
});

/** Milliseconds of the quicker of two goes. */
function quickest(work: () => void): number {
  return Math.min(
    ...[0, 1].map(() => {
      const began = performance.now();
      work();
      return performance.now() - began;
    }),
  );
}

const usable = MOVES.filter((m) => m.id !== 'boomerang' && m.id !== 'fit');

it.each(usable.map((m) => [m.name, m.id]))(
  '%s takes ten thousand segments in time that grows with them',
  (_, id) => {
    const move = moveById(id)!;
    const through = (count: number) => {
      const path = passes(count);
      const context = { table, music: music(count * 10.3) };
      const values = { ...move.defaults, ...move.suggest?.(path, context) };
      return quickest(() => {
        const { path: made } = applyChain(path, [{ id: 'a', move: id, on: true, values }], context);
        const shown = sampleFrames(made, table);
        joinsOf(made, table);
        choppiest(made, shown);
      });
    };
    const few = through(1000);
    const many = through(10_000);
    // Ten times the segments: with their square it would be a hundred times as long.
    expect(many).toBeLessThan(30 * few + 40);
  },
);

it('what would last over six hours is refused with a sentence, and changes nothing', () => {
  const path = passes(100);
  const link = (move: string, values: object) => ({
    ...{ id: move, move, on: true },
    values: { ...moveById(move)!.defaults, ...values },
  });
  for (const step of [
    link('boomerang', { trips: 999 }),
    link('speed', { percent: 1 }),
    link('fit', { length: 1_000_000 }),
  ]) {
    const { path: same, steps } = applyChain(path, [link('speed', { percent: 10 }), step], { table });
    expect(steps[1]!.notices[0]).toMatchObject({ level: 'error', code: 'too-long' });
    expect(steps[1]!.notices[0]!.text).toContain('six hours');
    expect(same.segments).toHaveLength(100);
  }
});
