import fc from 'fast-check';
import type { FrameTable } from '../clip/frame-table';
import { applyChain } from '../moves/chain';
import { moveById } from '../moves/registry';
import { onWholeFrames, pathFrames, spanPath } from '../path/path';
import { rational, toNumber } from '../time/rational';
import { soundAlong } from './follow';
import { madeSpans, speedCurve } from './made/spans';
import { samplesOf } from './mix';
import { motionAt, runsOf } from './runs';
import { MIX_RATE_HZ, silence } from './stereo';

const table: FrameTable = { kind: 'constant', rate: rational(60), count: 600 };
const rates = fc.constantFrom(rational(30), rational(25), rational(30_000, 1001));
/** Chains of one to three moves as they come. */
const chains = fc.array(
  fc.constantFrom(
    'speed',
    'boomerang',
    'scratch',
    'stutter',
    'hold',
    'ramp',
    'rewind',
    'spool',
    'step',
    'coast',
  ),
  { minLength: 1, maxLength: 3 },
);
const pathOf = (rate: ReturnType<typeof rational>, moves: readonly string[]) =>
  onWholeFrames(
    applyChain(
      spanPath(table, 100, 260, rate),
      moves.map((move, i) => ({ id: `s${i}`, move, on: true, values: moveById(move)!.defaults })),
      { table, music: undefined },
    ).path,
    table,
  );

describe('runs of a path', () => {
  it('cover it whole, one after the other, whatever the moves', () => {
    fc.assert(
      fc.property(rates, chains, (rate, moves) => {
        const path = pathOf(rate, moves);
        const runs = runsOf(path, MIX_RATE_HZ);
        expect(runs[0]!.from).toBe(0);
        expect(runs[runs.length - 1]!.end).toBe(samplesOf(pathFrames(path), rate));
        runs.slice(1).forEach((run, i) => expect(run.from).toBe(runs[i]!.end));
      }),
      { numRuns: 40 },
    );
  });

  it('go on without a jump inside, and stay in the clip', () => {
    fc.assert(
      fc.property(rates, chains, (rate, moves) => {
        const path = pathOf(rate, moves);
        for (const run of runsOf(path, MIX_RATE_HZ)) {
          const step = Math.max(1, Math.floor((run.end - run.from) / 50));
          let before = motionAt(run, run.from, MIX_RATE_HZ, path.rate);
          for (let at = run.from + step; at < run.end; at += step) {
            const now = motionAt(run, at, MIX_RATE_HZ, path.rate);
            const most = Math.max(Math.abs(now.speed), Math.abs(before.speed), 1) * 40;
            expect(Math.abs(now.source - before.source)).toBeLessThan((most * step) / MIX_RATE_HZ + 0.01);
            if (run.holds) expect(now.source).toBe(before.source);
            expect(now.source).toBeGreaterThan(-0.01);
            expect(now.source).toBeLessThan(10.01);
            before = now;
          }
        }
      }),
      { numRuns: 20, examples: [[rational(30), ['boomerang', 'hold', 'step']]] },
    );
  });

  it('beyond its ends a run goes on as fast as it was', () => {
    const path = spanPath(table, 60, 120, rational(30));
    const [run] = runsOf(path, MIX_RATE_HZ);
    expect(motionAt(run!, -4800, MIX_RATE_HZ, path.rate).source).toBeCloseTo(0.9, 4);
    expect(motionAt(run!, 48_000 + 4800, MIX_RATE_HZ, path.rate).source).toBeCloseTo(2.1, 4);
  });

  it('an empty sound stays empty and as long as the picture', () => {
    const path = pathOf(rational(25), ['scratch', 'hold']);
    const how = { clipPace: 1, holds: 'grain' as const, keeper: undefined };
    const out = soundAlong(path, silence(480_000), MIX_RATE_HZ, how);
    expect(out.left.length).toBe(samplesOf(pathFrames(path), path.rate));
    expect(out.left.every((v) => v === 0)).toBe(true);
  });
});

describe('where sounds are called for', () => {
  it('lies within the path, in order, and is as strong as something can be', () => {
    fc.assert(
      fc.property(rates, chains, (rate, moves) => {
        const path = pathOf(rate, moves);
        const lengthS = pathFrames(path) / toNumber(rate);
        let last = 0;
        for (const { kind, fromS, toS, strength } of madeSpans(path)) {
          expect(fromS).toBeGreaterThanOrEqual(last);
          expect(toS).toBeGreaterThan(fromS);
          // A thump rings on after the path.
          expect(toS).toBeLessThanOrEqual(lengthS + (kind === 'thump' ? 0.5 : 0.001));
          expect(strength).toBeGreaterThanOrEqual(0);
          expect(strength).toBeLessThanOrEqual(1);
          last = fromS;
        }
      }),
      { numRuns: 40 },
    );
  });

  it('the speed curve is as long as the path and holds its speeds', () => {
    const path = pathOf(rational(30), ['speed']);
    const curve = speedCurve(path);
    expect(Math.abs(curve.length - (1000 * pathFrames(path)) / 30)).toBeLessThanOrEqual(1);
    const { percent } = moveById('speed')!.defaults as { percent: number };
    expect(curve[100]!).toBeCloseTo(percent / 100, 2);
  });
});
