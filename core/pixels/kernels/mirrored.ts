/** A place beyond an axis's ends, mirrored back into it. */
export function mirrored(at: i32, size: i32): i32 {
  const period = 2 * size;
  let m = at % period;
  if (m < 0) m += period;
  return m < size ? m : period - 1 - m;
}
