import fc from 'fast-check';
import { type Accents, addedAccent, changedAccent, foundAgain, removedAccent } from './accent-edits';
import type { Accent } from './grid';

const found: Accent[] = Array.from({ length: 12 }, (_, i) => ({
  at: 0.5 + i * 0.5,
  band: (['low', 'mid', 'high'] as const)[i % 3]!,
  strength: 1,
}));
const song: Accents = { accents: found, accentsGone: [] };
/** The same song heard once more: a little off, nothing of a person in it. */
const again = (by = 0.004): Accent[] => found.map((a) => ({ ...a, at: Number((a.at + by).toFixed(4)) }));
const told = (accents: readonly Accent[]) => accents.map((a) => `${a.at.toFixed(1)} ${a.band} ${a.strength}`);

describe('accents by hand', () => {
  it('are added where their band has none, in order', () => {
    const more = addedAccent(song, { at: 0.75, band: 'low', strength: 0.8 });
    expect(told(more.accents).slice(0, 3)).toEqual(['0.5 low 1', '0.8 low 0.8', '1.0 mid 1']);
    expect(addedAccent(more, { at: 0.755, band: 'low', strength: 1 })).toBe(more);
    expect(addedAccent(more, { at: 0.755, band: 'mid', strength: 1 }).accents).toHaveLength(14);
  });

  it('taken away, made weaker or given to another band stay so when they are found again', () => {
    const less = removedAccent(song, { at: 0.5, band: 'low' });
    const weak = changedAccent(less, { at: 1, band: 'mid' }, { strength: 0.3 });
    const given = changedAccent(weak, { at: 2, band: 'low' }, { band: 'mid' });
    const own = addedAccent(given, { at: 0.25, band: 'high', strength: 1 });
    const once = foundAgain(own, again());
    expect(told(once)).toEqual(told(own.accents));
    // And again, from what was found then.
    expect(told(foundAgain({ ...own, accents: once }, again(-0.006)))).toEqual(told(own.accents));
    // One added and taken away leaves nothing behind.
    const none = removedAccent(addedAccent(song, { at: 0.25, band: 'high', strength: 1 }), {
      at: 0.25,
      band: 'high',
    });
    expect(none).toEqual(song);
  });

  it('whatever is done to them, what was touched is as it was left, what was not is as it is found', () => {
    const index = fc.integer({ min: 0, max: 11 });
    const change = fc.oneof(
      index.map(
        (i) => (s: Accents) => removedAccent(s, s.accents[i % Math.max(1, s.accents.length)] ?? found[0]!),
      ),
      fc.tuple(index, fc.double({ min: 0, max: 2, noNaN: true })).map(
        ([i, strength]) =>
          (s: Accents) =>
            changedAccent(s, s.accents[i % Math.max(1, s.accents.length)] ?? found[0]!, { strength }),
      ),
      fc.tuple(fc.integer({ min: 0, max: 60 }), fc.constantFrom('low', 'mid', 'high')).map(
        ([n, band]) =>
          (s: Accents) =>
            addedAccent(s, { at: n / 10, band: band as 'low', strength: 0.7 }),
      ),
    );
    fc.assert(
      fc.property(fc.array(change, { maxLength: 8 }), (changes) => {
        const mine = changes.reduce((s, c) => c(s), song);
        expect(foundAgain(mine, found).map((a) => ({ ...a, hand: undefined }))).toEqual(
          mine.accents.map((a) => ({ ...a, hand: undefined })),
        );
      }),
    );
  });
});
