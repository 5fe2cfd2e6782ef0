import { type Dither, Palette, onlyChanged } from './dither';

const GREYS = Array.from({ length: 4 }, (_, i) => [85 * i, 85 * i, 85 * i]);
const even = (value: number, pixels: number) =>
  Uint8Array.from({ length: 4 * pixels }, (_, i) => (i % 4 === 3 ? 255 : value));
const shown = (indices: Uint8Array) => Array.from(indices, (i) => GREYS[i]![0]!);
const mean = (values: readonly number[]) => values.reduce((a, b) => a + b) / values.length;

describe('colours that a palette does not have', () => {
  test('are the nearest one without dither', () => {
    const indices = new Palette(GREYS).indexed(even(100, 64), 8, 'none');
    expect(new Set(indices)).toEqual(new Set([1]));
  });

  test.each<Dither>(['none', 'pattern', 'diffused'])(
    'a colour of the palette stays itself everywhere: %s',
    (dither) => {
      for (const [i, grey] of [0, 85, 170, 255].entries()) {
        const fine = Array.from({ length: 128 }, (_, n) => [2 * n, 2 * n, 2 * n]);
        const palette = dither === 'pattern' ? fine : GREYS;
        const indices = new Palette(palette).indexed(even(grey, 64), 8, dither);
        const found = mean(Array.from(indices, (n) => palette[n]![0]!));
        expect(Math.abs(found - grey)).toBeLessThan(dither === 'pattern' ? 8 : 1);
        expect(i).toBeLessThan(4);
      }
    },
  );

  test('are their mean over an area when diffused', () => {
    for (const value of [20, 60, 100, 127, 200])
      expect(
        Math.abs(mean(shown(new Palette(GREYS).indexed(even(value, 64 * 64), 64, 'diffused'))) - value),
      ).toBeLessThan(8);
  });

  test('a pattern mixes two neighbours, the more of one the nearer it is', () => {
    const share = (value: number) =>
      mean(Array.from(new Palette(GREYS).indexed(even(value, 64 * 64), 64, 'pattern')));
    expect(share(110)).toBeLessThan(share(125));
    expect(share(125)).toBeLessThan(share(140));
    expect(new Set(new Palette(GREYS).indexed(even(127, 64), 8, 'pattern')).size).toBe(2);
  });
});

test('what did not change is left out', () => {
  const { out, changed } = onlyChanged(Uint8Array.of(1, 2, 3, 4), Uint8Array.of(1, 9, 3, 4), 255);
  expect([...out]).toEqual([255, 2, 255, 255]);
  expect(changed).toBe(1);
});
