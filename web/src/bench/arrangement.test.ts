import fc from 'fast-check';
import { AIR, arrange } from './arrangement';

const wide = { width: 1920, height: 1080 };
const upright = { width: 1080, height: 1920 };

it('a wide picture stands over the weave, an upright one beside it, and both are large', () => {
  const room = { width: 962, height: 754 };
  const over = arrange(wide, room, null);
  expect(over.beside).toBe(false);
  expect(((over.picture - AIR) * 16) / 9).toBeGreaterThan(700);
  const beside = arrange(upright, room, null);
  expect(beside.beside).toBe(true);
  expect(beside.picture - AIR).toBeGreaterThan(340);
});

it('in any room, as it is dragged, both parts keep what they need', () => {
  const size = fc.record({
    width: fc.integer({ min: 2, max: 8000 }),
    height: fc.integer({ min: 2, max: 8000 }),
  });
  const room = fc.record({
    width: fc.integer({ min: 560, max: 4000 }),
    height: fc.integer({ min: 460, max: 2200 }),
  });
  fc.assert(
    fc.property(size, room, fc.option(fc.double({ min: 0, max: 1, noNaN: true })), (s, r, share) => {
      const { beside, picture } = arrange(s, r, share);
      expect(picture).toBeGreaterThanOrEqual(120);
      expect((beside ? r.width : r.height) - picture).toBeGreaterThanOrEqual(beside ? 380 : 290);
      // Dragging does not turn it over under the hand.
      expect(arrange(s, r, null).beside).toBe(beside);
    }),
  );
});
