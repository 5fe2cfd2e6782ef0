import { Surface } from '@skipback/core/pixels/surface';
import { DRAWN_IN, budgetsFor, shelfBudget, threadsWithin } from './budgets';

const MIB = 1024 * 1024;

describe('budgets', () => {
  it('grow with the machine, within bounds, and leave most of its memory', () => {
    expect(budgetsFor(8).preview).toBe(512 * MIB);
    expect(budgetsFor(4).render).toBe(256 * MIB);
    expect(budgetsFor(32)).toEqual(budgetsFor(16));
    expect(budgetsFor(0.25)).toEqual(budgetsFor(2));
    for (const gib of [2, 4, 8, 16, 32]) {
      const { preview, render, treated, fields, follow } = budgetsFor(gib);
      expect(preview + render + treated + fields + follow).toBeLessThan((gib / 4) * 1024 * MIB);
      expect(budgetsFor(gib).screenLooks).toBeLessThan(preview / 2);
    }
  });

  it('hold a preview of at least two 4K pictures on the smallest machine', () => {
    expect(budgetsFor(0.25).render / (3840 * 2160 * 1.5)).toBeGreaterThan(10);
  });

  it('let as many threads draw as have room: few at 4K on a small machine, and never more than the budget', () => {
    const [fourK, hd] = [
      { width: 3840, height: 2160 },
      { width: 1920, height: 1080 },
    ];
    expect(threadsWithin(fourK, budgetsFor(2).drawing)).toBe(1);
    expect(threadsWithin(hd, budgetsFor(8).drawing)).toBeGreaterThan(16);
    for (const gib of [2, 4, 8, 16, 32])
      for (const size of [hd, fourK, { width: 7680, height: 4320 }]) {
        const threads = threadsWithin(size, budgetsFor(gib).drawing);
        const each = size.width * size.height * DRAWN_IN;
        expect(threads === 1 || threads * each <= budgetsFor(gib).drawing).toBe(true);
      }
    // What is counted for a thread is what its surface takes.
    expect(new Surface(1280, 720).memoryBytes).toBeLessThan(1280 * 720 * DRAWN_IN);
  });

  it('keep motion on disk by what the browser allows', () => {
    expect(shelfBudget(undefined)).toBe(256 * MIB);
    expect(shelfBudget(1e9)).toBe(64 * MIB);
    expect(shelfBudget(10 * 1024 * MIB)).toBe(256 * MIB);
    expect(shelfBudget(1e12)).toBe(1024 * MIB);
  });
});
