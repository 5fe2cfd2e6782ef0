import { DriverSchema, isDriver } from './driver';
import { TREATMENTS } from './registry';
import { shownValues } from './moments';
import { lookUses, lookVariations } from './variations';

const asked = { seed: 3, wildness: 0.6, count: 8 };

describe('variations of looks', () => {
  it.each(TREATMENTS.map((t) => [t.name, t] as const))('%s: all different, all within limits', (_, t) => {
    for (const wildness of [0.05, 1]) {
      const found = lookVariations(t, {}, { ...asked, wildness });
      expect(found).toHaveLength(8);
      expect(new Set(found.map((v) => JSON.stringify(v))).size).toBe(8);
      for (const values of found) {
        // What is read back of them is what they are: nothing was refused or brought back.
        expect(shownValues(t, values)).toEqual(values);
        expect(values).not.toEqual(shownValues(t, {}));
      }
    }
  });

  it('are the same for the same seed, others for another', () => {
    const [t] = TREATMENTS as [(typeof TREATMENTS)[0]];
    expect(lookVariations(t, {}, asked)).toEqual(lookVariations(t, {}, asked));
    expect(lookVariations(t, {}, { ...asked, seed: 4 })).not.toEqual(lookVariations(t, {}, asked));
  });

  it('keep what is driven driven by the same kind, and its rest', () => {
    const punch = TREATMENTS.find((t) => t.id === 'punch')!;
    const drivers = [
      { kind: 'pulse', rest: 110, depth: 12, on: 'beats' },
      { kind: 'steps', values: [100, 120], every: 4 },
      { kind: 'speed', fromPercent: 0, from: 100, toPercent: 300, to: 140 },
      { kind: 'progress', from: 100, to: 130 },
      { kind: 'random', rest: 105, within: 8, every: 3 },
      {
        kind: 'keys',
        keys: [
          { at: 0, value: 100 },
          { at: 20, value: 140 },
        ],
      },
    ].map((d) => DriverSchema.parse(d));
    for (const driver of drivers) {
      const found = lookVariations(punch, { zoom: driver }, { ...asked, wildness: 1, count: 12 });
      for (const { zoom } of found) {
        expect(isDriver(zoom) && zoom.kind).toBe(driver.kind);
        if ('rest' in driver) expect(zoom).toMatchObject({ rest: driver.rest });
      }
      expect(new Set(found.map((v) => JSON.stringify(v['zoom']))).size).toBeGreaterThan(4);
    }
  });

  it.each(TREATMENTS.filter((t) => t.uses).map((t) => [t.name, t] as const))(
    '%s: its uses are within limits, and one that is there already is not offered',
    (_, t) => {
      const uses = lookUses(t, {});
      expect(uses.length).toBe(t.uses!.length);
      for (const { values } of uses) {
        expect(shownValues(t, values)).toEqual(values);
        expect(lookUses(t, values)).toHaveLength(uses.length - 1);
      }
    },
  );
});
