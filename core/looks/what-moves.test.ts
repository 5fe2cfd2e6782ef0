import { movesDark } from './what-moves';

/** Pictures of a ground with a block that wanders before it, and some noise. */
function wandering(ground: (x: number, y: number) => number, block: number, side = 4): Uint8Array[] {
  const [width, height] = [48, 27];
  return Array.from({ length: 12 }, (_, n) =>
    Uint8Array.from({ length: width * height }, (_, i) => {
      const [x, y] = [i % width, Math.floor(i / width)];
      const on = x >= 3 * n && x < 3 * n + side && y >= 10 && y < 10 + 2 * side;
      return (on ? block : ground(x, y)) + ((7 * i + 13 * n) % 9) - 4;
    }),
  );
}

it.each([
  ['dark figures on a light street', () => 150, 30, true],
  // On the whole the picture is dark: what counts is the ground where they pass.
  ['dark figures on a light street under dark houses', (_: number, y: number) => (y < 8 ? 10 : 90), 30, true],
  ['a lantern at night', () => 20, 230, false],
  ['a light figure before a light wall', () => 160, 220, false],
] as const)('%s', (_, ground, block, dark) => {
  expect(movesDark(wandering(ground, block))).toBe(dark);
});

it('is not known where nothing moves, or everything does', () => {
  expect(movesDark(wandering(() => 90, 90))).toBeUndefined();
  expect(movesDark([new Uint8Array(100)])).toBeUndefined();
  const panned = Array.from({ length: 9 }, (_, n) =>
    Uint8Array.from({ length: 1200 }, (_, i) => (((i % 40) + 3 * n) % 8 < 4 ? 220 : 30)),
  );
  expect(movesDark(panned)).toBeUndefined();
});
