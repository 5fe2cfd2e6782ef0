import fc from 'fast-check';
import type { Track } from '../tracks/track';
import { framed } from './framing';
import { about, both, put, sizeOf, turnOf, undone } from './similar';
import { SteadySchema, bridged, mapAt, placingOf } from './steady';

const PICTURE = { width: 1280, height: 720 };
const FRAMES = 60;

/** A track of two points that goes, turns and grows. */
const going = (step: (n: number) => { x: number; y: number; size?: number; turn?: number }): Track => ({
  ...{ id: 't', name: 'lamp', kind: 'box', width: 60, height: 60, runs: [] },
  keys: Array.from({ length: FRAMES }, (_, n) => {
    const { x, y, size = 1, turn = 0 } = step(n);
    return { frame: n, ease: 'even' as const, values: [x, y, size, turn] };
  }),
});
const wave = going((n) => ({
  x: 600 + 90 * Math.sin(n / 9),
  y: 350 + 2 * n,
  size: 1.01 ** n,
  turn: 0.7 * n,
}));

const held = (track: Track, steady: object, change: object = {}) => ({
  steady: SteadySchema.parse({ track: 't', ...steady }),
  track,
  picture: PICTURE,
  frame: PICTURE,
  framing: 'fit' as const,
  clipFrames: FRAMES,
  begins: 0,
  seen: [0, FRAMES] as const,
  ...change,
});
/** Where the track's own place at a frame comes to lie. */
const seenAt = (track: Track, placing: ReturnType<typeof placingOf>, n: number) => {
  const [x, y] = track.keys[n]!.values as [number, number];
  return put(mapAt(placing, n), { x, y });
};

describe('a piece held by a track', () => {
  it('keeps it where it is at first, with its turn and size, at every frame', () => {
    const placing = placingOf(held(wave, { edges: 'black' }));
    for (let n = 0; n < FRAMES; n++) {
      const at = seenAt(wave, placing, n);
      expect([at.x, at.y]).toEqual([expect.closeTo(600, 6), expect.closeTo(350, 6)]);
      expect(sizeOf(mapAt(placing, n)) * 1.01 ** n).toBeCloseTo(1, 6);
      expect(turnOf(mapAt(placing, n)) + 0.7 * n).toBeCloseTo(0, 6);
    }
    expect(mapAt(placing, 0)).toEqual({
      a: 1,
      b: expect.closeTo(0),
      x: expect.closeTo(0),
      y: expect.closeTo(0),
    });
  });

  it('begins where the piece does, and only moves where turns are left alone', () => {
    const placing = placingOf(held(wave, { edges: 'black', turns: false }, { begins: 30 }));
    const [x, y] = wave.keys[30]!.values as [number, number];
    for (const n of [0, 29, 30, 59]) {
      const at = seenAt(wave, placing, n);
      expect([at.x, at.y]).toEqual([expect.closeTo(x, 6), expect.closeTo(y, 6)]);
      expect(sizeOf(mapAt(placing, n))).toBeCloseTo(1, 9);
    }
  });

  it('is brought to the middle; half of it goes half the way', () => {
    const whole = placingOf(held(wave, { how: 'centre', edges: 'black' }));
    const half = placingOf(held(wave, { how: 'centre', edges: 'black', amount: 50, turns: false }));
    for (const n of [0, 17, 59]) {
      const [x, y] = wave.keys[n]!.values as [number, number];
      const [a, b] = [seenAt(wave, whole, n), seenAt(wave, half, n)];
      expect([a.x, a.y]).toEqual([expect.closeTo(640, 6), expect.closeTo(360, 6)]);
      expect([b.x, b.y]).toEqual([expect.closeTo((x + 640) / 2, 6), expect.closeTo((y + 360) / 2, 6)]);
    }
  });

  it('evened out it keeps its slow way and loses its fast one', () => {
    const shaking = going((n) => ({ x: 300 + 5 * n + (n % 2 === 0 ? 4 : -4), y: 300 }));
    const placing = placingOf(held(shaking, { smooth: 6, edges: 'black' }));
    for (let n = 10; n < 50; n++) {
      const at = seenAt(shaking, placing, n);
      expect(Math.abs(at.x - (300 + 5 * n))).toBeLessThan(0.2);
    }
  });

  it('shows no edge where it is brought in, and not further than needed', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 1, max: 30 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.constantFrom('stays', 'centre'),
        (far, fast, turn, how) => {
          const track = going((n) => ({
            x: 640 + far * Math.sin(n / fast),
            y: 360 + far * Math.cos(n / fast),
            turn: turn * n,
          }));
          const placing = placingOf(held(track, { how }));
          let least = Infinity;
          for (let n = 0; n < FRAMES; n++) {
            const back = undone(mapAt(placing, n));
            for (const x of [0, 1280])
              for (const y of [0, 720]) {
                const at = put(back, { x, y });
                least = Math.min(least, at.x, at.y, 1280 - at.x, 720 - at.y);
              }
          }
          expect(least).toBeGreaterThan(-1e-6);
          expect(least).toBeLessThan(1e-6);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('says where edges cannot be hidden, and mirrors them instead', () => {
    const leaving = going((n) => ({ x: 1275 - 20 * n, y: 360 }));
    const placing = placingOf(held(leaving, {}));
    expect(placing.zoomPercent).toBe(800);
    expect(placing.notices.map((n) => n.code)).toEqual(['steady-edges']);
    expect(placingOf(held(leaving, { edges: 'mirrored' }))).toMatchObject({
      edges: 'mirrored',
      zoomPercent: 100,
      notices: [],
    });
  });

  it('across what is lost it goes straight, and says so', () => {
    const known = [
      { x: 0, y: 0, size: 1, turn: 0 },
      undefined,
      undefined,
      { x: 30, y: 9, size: 1, turn: 3 },
      undefined,
    ];
    expect(bridged(known).map((p) => [p.x, p.y, p.turn])).toEqual([
      [0, 0, 0],
      [10, 3, 1],
      [20, 6, 2],
      [30, 9, 3],
      [30, 9, 3],
    ]);
    const lost: Track = {
      ...wave,
      keys: [wave.keys[0]!],
      runs: [{ from: 30, values: [500, 300, 1, 0], sure: [80] }],
    };
    expect(placingOf(held(lost, {})).notices[0]?.text).toMatch(/lost in 58 of the frames/);
    expect(placingOf(held(lost, {}, { seen: [0, 1] })).notices).toEqual([]);
  });
});

it('the frame follows a track as far as the picture goes: no edge is ever seen', () => {
  const across = going((n) => ({ x: 20 * n, y: 300 }));
  for (const frame of [
    { width: 720, height: 1280 },
    { width: 1080, height: 1080 },
  ]) {
    const placing = placingOf(held(across, { how: 'frame' }, { frame }));
    for (let n = 0; n < FRAMES; n++) {
      const map = mapAt(placing, n);
      expect(turnOf(map)).toBe(0);
      const [left, right] = [put(map, { x: 0, y: 0 }), put(map, { x: 1280, y: 720 })];
      expect(left.x).toBeLessThanOrEqual(1e-6);
      expect(left.y).toBeLessThanOrEqual(1e-6);
      expect(right.x).toBeGreaterThanOrEqual(frame.width - 1e-6);
      expect(right.y).toBeGreaterThanOrEqual(frame.height - 1e-6);
    }
    const middle = seenAt(across, placing, 32);
    expect(middle.x).toBeCloseTo(frame.width / 2, 6);
  }
});

it('maps go together and back', () => {
  const one = about({ x: 10, y: 20 }, { x: 50, y: -5 }, 1.7, 33);
  expect(put(one, { x: 10, y: 20 })).toEqual({ x: expect.closeTo(50), y: expect.closeTo(-5) });
  const back = both(undone(one), one);
  expect(back).toEqual({
    a: expect.closeTo(1),
    b: expect.closeTo(0),
    x: expect.closeTo(0),
    y: expect.closeTo(0),
  });
  expect(framed({ width: 640, height: 480 }, PICTURE, 'fit')).toEqual({ a: 1.5, b: 0, x: 160, y: 0 });
});
