/** Picture size of a file, even numbers as encoders need. */
export function fileSize(width: number, height: number, scale: number): { width: number; height: number } {
  const even = (n: number) => Math.max(16, 2 * Math.round((n * scale) / 2));
  return { width: even(width), height: even(height) };
}
