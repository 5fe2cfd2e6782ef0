import fc from 'fast-check';
import { NOTHING_READ, type Stretch, unread, withRead } from './known-shots';

const stretch = fc.tuple(fc.nat(400), fc.integer({ min: 1, max: 150 })).map(([a, n]): Stretch => [a, a + n]);
const CUTS = [3, 40, 41, 200, 333, 499];
const within = ([first, end]: Stretch) => CUTS.filter((c) => c >= first && c < end);

it('whatever is asked for in whichever order, each frame is read once, and all cuts of what was read are known', () => {
  fc.assert(
    fc.property(fc.array(stretch, { maxLength: 12 }), fc.integer({ min: 1, max: 90 }), (asked, most) => {
      let known = NOTHING_READ;
      const times = new Map<number, number>();
      for (const whole of asked) {
        for (const part of unread(known, whole, most)) {
          expect(part[1] - part[0]).toBeLessThanOrEqual(most);
          for (let n = part[0]; n < part[1]; n++) times.set(n, (times.get(n) ?? 0) + 1);
          known = withRead(known, part, within(part));
        }
        expect(unread(known, whole, most)).toEqual([]);
      }
      expect([...times.values()].every((t) => t === 1)).toBe(true);
      expect(known.cuts).toEqual(CUTS.filter((c) => times.has(c)));
    }),
  );
});
