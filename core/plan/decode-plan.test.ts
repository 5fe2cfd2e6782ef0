import fc from 'fast-check';
import { type DecodeRequest, MOST_RUNS, keyBefore, planCost, planDecoding } from './decode-plan';

const up = (a: number, b: number) => Array.from({ length: b - a + 1 }, (_, i) => a + i);
const request = (wanted: number[], rest: Partial<DecodeRequest> = {}): DecodeRequest => ({
  wanted: Int32Array.from(wanted),
  loops: false,
  start: 0,
  keys: [0],
  capacity: 1000,
  held: [],
  ...rest,
});
const trips = (n: number) =>
  Array.from({ length: n }, () => [...up(100, 159), ...up(101, 158).reverse()]).flat();

describe('decode plans', () => {
  it('decode a boomerang of five trips once, after its lead-in', () => {
    const r = request(trips(5));
    expect(planCost(r, r.wanted.length)).toEqual({ decoded: 160, runs: 1, peakHeld: 60 });
  });

  it('decode nothing more while it loops', () => {
    const r = request(trips(1), { loops: true });
    expect(planCost(r, 118 * 50).decoded).toBe(160);
  });

  it('read long backward stretches in chunks as large as fit', () => {
    const r = request(up(0, 249).reverse(), { capacity: 100 });
    expect(planCost(r, 250)).toEqual({ decoded: 250 + 150 + 50, runs: 3, peakHeld: 100 });
  });

  it('go on reading forward across groups without beginning anew', () => {
    const r = request(up(0, 299), { keys: up(0, 9).map((k) => k * 30), capacity: 10 });
    expect(planCost(r, 300)).toMatchObject({ decoded: 300, runs: 1 });
  });

  it('jump to a later group rather than reading everything before it', () => {
    const r = request([0, 1, 200], { keys: [0, 100, 190] });
    expect(planCost(r, 3)).toMatchObject({ decoded: 2 + 11, runs: 2 });
  });

  it('use what is held already', () => {
    expect(planCost(request(up(10, 20), { held: up(10, 20) }), 11).decoded).toBe(0);
  });

  const chunks = (rows: number[][]): Partial<DecodeRequest> => ({
    wanted: Int32Array.from(rows.flat()),
    ends: Int32Array.from(rows.map((_, i) => rows.slice(0, i + 1).flat().length)),
  });
  const trail = (frames: number[], spacing: number, copies: number) =>
    frames.map((n) => Array.from({ length: copies + 1 }, (_, k) => Math.max(0, n - k * spacing)));

  it('decode a boomerang with a trail once, lead-in and all that trails before it included', () => {
    const rows = trail(trips(5), 4, 5);
    const r = request([], chunks(rows));
    expect(planCost(r, rows.length)).toEqual({ decoded: 160, runs: 1, peakHeld: 80 });
  });

  it('decode neighbours of a backward stretch once each where they fit, in chunks where not', () => {
    const rows = up(1, 249)
      .reverse()
      .map((n) => [n - 1, n]);
    expect(planCost(request([], chunks(rows)), 249).decoded).toBe(250);
    const { decoded, peakHeld } = planCost(request([], { ...chunks(rows), capacity: 100 }), 249);
    expect(decoded).toBeLessThan(250 + 155 + 60);
    expect(peakHeld).toBe(100);
  });

  it('decode two clips that are seen together once each, both runs open', () => {
    const rows = up(0, 59).map((n) => [n, 100 + n]);
    const r = request([], { ...chunks(rows), keys: [0, 100], clipStarts: [0, 100], capacity: 4 });
    expect(planCost(r, 60)).toEqual({ decoded: 120, runs: 2, peakHeld: 4 });
  });

  it('decode two places of one clip that are seen together once each, both runs open', () => {
    const rows = up(0, 39).map((n) => [n, 120 + n]);
    const r = request([], { ...chunks(rows), keys: [0, 60, 120, 180], clipStarts: [0], capacity: 4 });
    expect(planCost(r, 40)).toEqual({ decoded: 80, runs: 2, peakHeld: 4 });
  });

  it('show every position in order, all its frames held when shown, never more than the capacity', () => {
    const set = fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 1, maxLength: 5 });
    const order = fc.oneof(
      fc.array(set, { minLength: 1, maxLength: 60 }),
      fc.array(
        set.map((s) => s.slice(0, 1)),
        { minLength: 1, maxLength: 80 },
      ),
    );
    const keys = fc
      .uniqueArray(fc.integer({ min: 1, max: 60 }), { maxLength: 6 })
      .map((k) => [0, ...k.sort((a, b) => a - b)]);
    fc.assert(
      fc.property(
        order,
        keys,
        fc.integer({ min: 1, max: 12 }),
        fc.boolean(),
        fc.uniqueArray(fc.integer({ min: 0, max: 60 }), { maxLength: 15 }),
        fc.boolean(),
        (rows, k, capacity, loops, heldBefore, twoClips) => {
          const clipStarts = twoClips ? [0, 30] : [0];
          const allKeys = twoClips ? [...new Set([...k, 30])].sort((a, b) => a - b) : k;
          const held = new Set(heldBefore);
          const most = Math.max(capacity, ...rows.map((r) => r.length));
          const shown: (readonly number[])[] = [];
          const open = new Map<number, { next: number; last: number }>();
          const of = (frame: number) => clipStarts.findLastIndex((s) => s <= frame);
          const plan = request([], { ...chunks(rows), keys: allKeys, clipStarts, capacity, loops });
          for (const step of planDecoding({ ...plan, held: heldBefore })) {
            if (step.kind === 'open') {
              expect(keyBefore(allKeys, step.key)).toBe(step.key);
              expect(of(step.key)).toBe(of(step.last));
              open.set(step.run, { next: step.key, last: step.last });
              expect(open.size).toBeLessThanOrEqual(MOST_RUNS);
            } else if (step.kind === 'decode') {
              const run = open.get(step.run)!;
              expect(step.frame).toBe(run.next++);
              expect(step.frame).toBeLessThanOrEqual(run.last);
              if (step.keep) held.add(step.frame);
            } else if (step.kind === 'drop') expect(held.delete(step.frame)).toBe(true);
            else {
              expect(held.size).toBeLessThanOrEqual(most);
              for (const frame of step.frames) expect(held.has(frame)).toBe(true);
              shown.push(step.frames);
              if (shown.length === rows.length * 2) break;
            }
          }
          expect(shown).toEqual(loops ? [...rows, ...rows] : rows);
        },
      ),
    );
  });
});
