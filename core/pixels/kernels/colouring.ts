/** Planes of one colour matrix and range brought to another's, in whole numbers (`core/pixels/convert.ts`). */

/** Bytes of a table of a word for each of 256 values. */
const TABLE: usize = 1024;

function word(table: usize, value: u8): i32 {
  return load<i32>(table + ((<usize>value) << 2));
}

function bounded(value: i32): u8 {
  return <u8>max(0, min(255, value >> 14));
}

/**
 * In place. `tables` are seven one after the other, in 16384ths: what brightness becomes, rounding with it; what the two
 * differences add to it; what they make of the first difference, and of the second.
 */
export function recolour(y: usize, u: usize, v: usize, width: i32, height: i32, tables: usize): void {
  const half: i32 = (128 << 14) + (1 << 13);
  const across = (width + 1) >> 1;
  const down = (height + 1) >> 1;
  for (let row: i32 = 0; row < down; row++) {
    const top = y + 2 * row * width;
    // The last of an odd number of rows is written twice, to the same.
    const bottom = 2 * row + 1 < height ? top + width : top;
    for (let i: i32 = 0; i < across; i++, u++, v++) {
      const cb = load<u8>(u);
      const cr = load<u8>(v);
      const add = word(tables + TABLE, cb) + word(tables + 2 * TABLE, cr);
      const x: usize = 2 * i;
      const a = bounded(word(tables, load<u8>(top + x)) + add);
      const c = bounded(word(tables, load<u8>(bottom + x)) + add);
      if (<i32>x + 1 < width) {
        const b = bounded(word(tables, load<u8>(top + x, 1)) + add);
        const d = bounded(word(tables, load<u8>(bottom + x, 1)) + add);
        store<u8>(top + x, b, 1);
        store<u8>(bottom + x, d, 1);
      }
      store<u8>(top + x, a);
      store<u8>(bottom + x, c);
      store<u8>(u, bounded(word(tables + 3 * TABLE, cb) + word(tables + 4 * TABLE, cr) + half));
      store<u8>(v, bounded(word(tables + 5 * TABLE, cb) + word(tables + 6 * TABLE, cr) + half));
    }
  }
}
