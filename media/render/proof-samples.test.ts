import { alike, isNeighbour, lookedAt, nearness } from './proof-samples';

describe('the pictures of a finished file that are looked at', () => {
  it('are the first and the last, some between, and both sides of every cut', () => {
    const looked = lookedAt({ cuts: [0, 40, 90] }, 200);
    expect(looked).toEqual(looked.toSorted((a, b) => a - b));
    for (const n of [0, 199, 39, 40, 89, 90]) expect(looked).toContain(n);
    expect(looked.length).toBeLessThan(30);
  });

  it('are all of a very short file, each once', () => {
    expect(lookedAt({ cuts: [0] }, 3)).toEqual([0, 1, 2]);
    expect(lookedAt({ cuts: [] }, 1)).toEqual([0]);
  });

  it('are alike where an encoder blurred them, not where they are black or another frame', () => {
    const picture = Uint8Array.from({ length: 576 }, (_, i) => 40 + ((i * 7) % 150));
    const blurred = picture.map((v, i) => v + (i % 5) - 2);
    expect(alike(picture, blurred)).toBe(true);
    expect(alike(picture, new Uint8Array(576))).toBe(false);
    expect(alike(picture, picture.toReversed())).toBe(false);
  });

  it('are told from the frame beside them, however alike, where both are known; not from one that is the same', () => {
    const frame = (n: number) => Uint8Array.from({ length: 6000 }, (_, i) => 60 + ((i + 5 * n) % 90));
    const coded = (rows: Uint8Array) => rows.map((v, i) => v + ((i * 7) % 3) - 1);
    expect(isNeighbour(coded(frame(4)), frame(4), frame(5))).toBe(false);
    expect(isNeighbour(coded(frame(5)), frame(4), frame(5))).toBe(true);
    expect(isNeighbour(coded(frame(4)), frame(4), frame(4))).toBe(false);
    // Of a slow fade a coarse encoder may leave a frame as the one before.
    const darker = frame(4).map((v) => v - 2);
    expect(isNeighbour(darker, frame(4), darker)).toBe(false);
    // The middle of the file and what comes after it are both looked at.
    const looked = lookedAt({ cuts: [] }, 300);
    expect(looked.filter((n) => looked.includes(n + 1)).length).toBeGreaterThanOrEqual(3);
  });

  it('are as near as the squares of what differs say', () => {
    const rows = Uint8Array.from({ length: 4000 }, (_, i) => i % 200);
    expect(nearness(rows, rows.slice())).toBe(99);
    // Each value off by two: 10 log10(255² / 4).
    expect(
      nearness(
        rows,
        rows.map((v) => v + 2),
      ),
    ).toBeCloseTo(42.11, 2);
    expect(nearness(rows, rows.subarray(1))).toBeUndefined();
  });
});
