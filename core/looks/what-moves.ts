/** Levels, of 255, by which a point differs from its ground for something to be there that moves. */
const APART = 20;
/** Of all points looked at, so many must differ for it to be known. */
const LEAST = 0.002;

/**
 * Whether what moves in some pictures of a clip is darker than the ground it moves before: the ground is what is mostly
 * seen at a point, its median; the sign of what differs from it, weighted by how much, decides. The pictures are of one
 * size, brightness 0 to 255. Undefined where hardly anything moves, or everything does, as under a moving camera.
 */
export function movesDark(pictures: readonly Uint8Array[]): boolean | undefined {
  const points = pictures[0]?.length ?? 0;
  if (pictures.length < 3 || points === 0) return undefined;
  const middle = pictures.length >> 1;
  const seen = new Uint8Array(pictures.length);
  let [sum, differing] = [0, 0];
  for (let p = 0; p < points; p++) {
    for (let i = 0; i < pictures.length; i++) seen[i] = pictures[i]![p]!;
    const ground = seen.toSorted()[middle]!;
    for (const picture of pictures) {
      const off = picture[p]! - ground;
      if (Math.abs(off) <= APART) continue;
      sum += off;
      differing++;
    }
  }
  const share = differing / (points * pictures.length);
  return share < LEAST || share > 0.5 || sum === 0 ? undefined : sum < 0;
}
