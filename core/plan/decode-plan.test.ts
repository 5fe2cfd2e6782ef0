import fc from 'fast-check';
import { type DecodeRequest, keyBefore, planCost, planDecoding } from './decode-plan';

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

  it('show every position in order, each frame held when shown, never more than the capacity', () => {
    const order = fc.array(fc.integer({ min: 0, max: 60 }), { minLength: 1, maxLength: 80 });
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
        (wanted, k, capacity, loops, heldBefore) => {
          const held = new Set(heldBefore);
          const shown: number[] = [];
          let next = -1;
          let last = -1;
          for (const step of planDecoding(request(wanted, { keys: k, capacity, loops, held: heldBefore }))) {
            if (step.kind === 'open') {
              expect(keyBefore(k, step.key)).toBe(step.key);
              next = step.key;
              last = step.last;
            } else if (step.kind === 'decode') {
              expect(step.frame).toBe(next++);
              expect(step.frame).toBeLessThanOrEqual(last);
              if (step.keep) held.add(step.frame);
            } else if (step.kind === 'drop') expect(held.delete(step.frame)).toBe(true);
            else {
              expect(held.size).toBeLessThanOrEqual(Math.max(capacity, 1));
              expect(held.has(step.frame)).toBe(true);
              shown.push(step.frame);
              if (shown.length === wanted.length * 2) break;
            }
          }
          expect(shown).toEqual(loops ? [...wanted, ...wanted] : wanted);
        },
      ),
    );
  });
});
