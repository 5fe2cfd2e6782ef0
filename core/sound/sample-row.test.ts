import fc from 'fast-check';
import { SampleRow } from './sample-row';

it('what comes in parts is there whole, silent where nothing was written, however much was expected', () => {
  const parts = fc.array(
    fc.record({ values: fc.float32Array({ noNaN: true, maxLength: 40 }), gap: fc.nat(5) }),
  );
  fc.assert(
    fc.property(parts, fc.nat(200), (parts, expected) => {
      const row = new SampleRow(expected);
      for (const { values, gap } of parts) {
        row.next(gap);
        row.next(values.length).set(values);
      }
      const wanted = parts.flatMap(({ values, gap }) => [...new Float32Array(gap), ...values]);
      expect(Array.from(row.whole())).toEqual(wanted);
      expect(row.length).toBe(wanted.length);
    }),
  );
});
