import { budgetsFor, shelfBudget } from './budgets';

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

  it('keep motion on disk by what the browser allows', () => {
    expect(shelfBudget(undefined)).toBe(256 * MIB);
    expect(shelfBudget(1e9)).toBe(64 * MIB);
    expect(shelfBudget(10 * 1024 * MIB)).toBe(256 * MIB);
    expect(shelfBudget(1e12)).toBe(1024 * MIB);
  });
});
