import { holdsIdr, lengthSizeOf } from './avc-keys';

/** Units of some kinds, each behind a start code, or behind its length. */
const units = (kinds: readonly number[], lengthSize: number): Uint8Array =>
  Uint8Array.from(
    kinds.flatMap((kind, i) => {
      const payload = [0x60 | kind, i, 0x11, 0x80];
      const length = Array.from({ length: lengthSize }, (_, k) =>
        k === lengthSize - 1 ? payload.length : 0,
      );
      return lengthSize > 0 ? [...length, ...payload] : [0, 0, 0, 1, ...payload];
    }),
  );

describe('key packets of H.264', () => {
  it.each([0, 1, 2, 4])('hold an IDR picture or only a recovery point, lengths of %d bytes', (lengthSize) => {
    expect(holdsIdr(units([9, 7, 8, 6, 5], lengthSize), lengthSize)).toBe(true);
    expect(holdsIdr(units([9, 7, 8, 6, 1], lengthSize), lengthSize)).toBe(false);
    expect(holdsIdr(units([5], lengthSize), lengthSize)).toBe(true);
    expect(holdsIdr(new Uint8Array(), lengthSize)).toBe(false);
  });

  it('that are torn end quietly, whatever their lengths say', () => {
    const torn = units([7, 8, 5], 4);
    torn[3] = 0xff;
    expect(holdsIdr(torn, 4)).toBe(false);
    expect(holdsIdr(torn.subarray(0, 3), 4)).toBe(false);
  });

  it('the size of lengths is in the description, and there is none with start codes', () => {
    expect(lengthSizeOf(undefined)).toBe(0);
    expect(lengthSizeOf(Uint8Array.from([1, 0x64, 0, 0x1f, 0xff]))).toBe(4);
    expect(lengthSizeOf(Uint8Array.from([1, 0x64, 0, 0x1f, 0xfd]).buffer)).toBe(2);
  });
});
