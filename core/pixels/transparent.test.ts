import fc from 'fast-check';
import { halfOf, planesBytes, planesIn } from './planes';
import { byTransparency, transparentBytes, withTransparency } from './transparent';

const { abs, round } = Math;

it('colours multiplied by what is there, and taken apart again, are what they were, as far as it is there', () => {
  const pixel = fc.record({ y: fc.integer({ min: 16, max: 235 }), a: fc.integer({ min: 0, max: 255 }) });
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 7 }),
      fc.integer({ min: 1, max: 7 }),
      fc.array(pixel, { minLength: 49, maxLength: 49 }),
      fc.array(fc.integer({ min: 16, max: 240 }), { minLength: 32, maxLength: 32 }),
      (width, height, pixels, colours) => {
        const planes = planesIn(new Uint8Array(planesBytes(width, height)), width, height);
        const [luma, chroma] = [width * height, halfOf(width) * halfOf(height)];
        const clear = Uint8Array.from(pixels.slice(0, luma), (p) => p.a);
        planes.y.set(pixels.slice(0, luma).map((p) => p.y));
        planes.u.set(colours.slice(0, chroma));
        planes.v.set(colours.slice(16, 16 + chroma));
        const before = planes.y.slice();
        byTransparency(planes, clear, 16);
        const grey = clear.map((a) => 16 + round((a * 219) / 255));
        const apart = new Uint8Array(transparentBytes(width, height));
        withTransparency(planes, grey, apart);
        for (let i = 0; i < luma; i++) {
          const a = clear[i]!;
          if (a === 0) expect(planes.y[i]).toBe(16);
          // What is there goes through the 220 greys of limited range; half a step of light is lost besides.
          const known = round(((grey[i]! - 16) * 255) / 219);
          const lost = ((before[i]! - 16) * abs(a - known) + 128) / known + 1;
          if (known > 0) expect(abs(apart[i]! - before[i]!)).toBeLessThanOrEqual(lost);
        }
        if (clear.every((a) => a === 255)) expect(planes.y).toEqual(before);
        if (clear.every((a) => a === 0))
          expect([...planes.u, ...planes.v].every((c) => c === 128)).toBe(true);
      },
    ),
  );
});
