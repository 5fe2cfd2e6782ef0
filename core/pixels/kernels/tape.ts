/** What worn tape does to a picture, in whole numbers. RGBA, eight bits a value. */

/** Every row moved across by a whole number of pixels, `shifts` of 32 bits each; its edges go on. */
export function rowsAside(a: usize, out: usize, width: i32, height: i32, shifts: usize): void {
  for (let row: i32 = 0; row < height; row++) {
    const from = a + 4 * row * width;
    const to = out + 4 * row * width;
    const by = max<i32>(-width, min<i32>(width, load<i32>(shifts + 4 * row)));
    if (by >= 0) {
      memory.copy(to + 4 * by, from, 4 * (width - by));
      const edge = load<u32>(from);
      for (let x: i32 = 0; x < by; x++) store<u32>(to + 4 * x, edge);
    } else {
      memory.copy(to, from - 4 * by, 4 * (width + by));
      const edge = load<u32>(from + 4 * (width - 1));
      for (let x: i32 = width + by; x < width; x++) store<u32>(to + 4 * x, edge);
    }
  }
}

/** Each pixel's three values made darker or lighter by the same number, up to `amount`: grain, another for another seed. */
export function grain(a: usize, pixels: i32, seed: u32, amount: i32): void {
  for (let i: i32 = 0; i < pixels; i++) {
    // After Wang's integer hash.
    let h = <u32>i * 0x27d4eb2d + seed * 0x9e3779b1;
    h = (h ^ (h >>> 15)) * 0x85ebca6b;
    h ^= h >>> 13;
    const by = <i32>(((h >>> 16) * <u32>(2 * amount + 1)) >>> 16) - amount;
    const at = a + 4 * i;
    for (let k: i32 = 0; k < 3; k++) {
      const v = <i32>load<u8>(at + k) + by;
      store<u8>(at + k, <u8>(v < 0 ? 0 : v > 255 ? 255 : v));
    }
  }
}
