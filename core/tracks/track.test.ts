import fc from 'fast-check';
import {
  type Place,
  type Track,
  TrackSchema,
  bothWays,
  lostIn,
  placeAt,
  poseOf,
  posesOf,
  waysFrom,
  withFollowed,
} from './track';

const point = (change: Partial<Track> = {}): Track => ({
  ...{ id: 't', name: 'lamp', kind: 'point', width: 48, height: 48, runs: [] },
  keys: [{ frame: 10, ease: 'even', values: [100, 50] }],
  ...change,
});
const key = (frame: number, x: number, y: number) => ({ frame, ease: 'even' as const, values: [x, y] });
const place = (x: number, y: number, sure = 90): Place => ({ values: [x, y], sure });
const at = (track: Track, frame: number) => placeAt(track, frame)?.values;

describe('where a track is', () => {
  it('stays where its one key is, if nothing was followed', () => {
    expect([0, 10, 99].map((n) => at(point(), n))).toEqual([
      [100, 50],
      [100, 50],
      [100, 50],
    ]);
  });

  it('goes from key to key by hand, with their eases', () => {
    const track = point({ keys: [key(10, 0, 0), { ...key(20, 100, 50), ease: 'hold' }, key(30, 200, 0)] });
    expect([10, 15, 20, 25, 30, 40].map((n) => at(track, n)?.[0])).toEqual([0, 50, 100, 100, 200, 200]);
  });

  it('is where it was followed, and lost where it was not: nothing is made up', () => {
    const track = withFollowed(point(), 11, [place(101, 50), place(102, 51), undefined, place(104, 53, 40)]);
    expect([9, 10, 11, 12, 13, 14, 15].map((n) => at(track, n))).toEqual([
      undefined,
      [100, 50],
      [101, 50],
      [102, 51],
      undefined,
      [104, 53],
      undefined,
    ]);
    expect(placeAt(track, 14)?.sure).toBe(40);
    expect(lostIn(track, 8, 17)).toEqual([
      [8, 10],
      [13, 14],
      [15, 17],
    ]);
  });

  it('mixes both: keys on either side of what hides it lead across', () => {
    const followed = withFollowed(point(), 11, [place(101, 50), undefined, undefined, place(104, 50)]);
    const track = { ...followed, keys: [key(10, 100, 50), key(11, 101, 50), key(14, 110, 50)] };
    expect([11, 12, 13, 14].map((n) => at(track, n)?.[0])).toEqual([101, 104, 107, 110]);
  });

  it('a key comes before what was followed there', () => {
    const track = { ...withFollowed(point(), 11, [place(101, 50)]), keys: [key(10, 100, 50), key(11, 7, 8)] };
    expect(at(track, 11)).toEqual([7, 8]);
  });
});

it('two points tell turn and size against the first key; turns go on over a whole one', () => {
  const track: Track = {
    ...point({ kind: 'points' }),
    keys: [0, 1, 2, 3, 4].map((n) => {
      const angle = (n * 100 * Math.PI) / 180;
      const r = 10 * (1 + n);
      return {
        frame: n,
        ease: 'even',
        values: [
          50 - r * Math.cos(angle),
          50 - r * Math.sin(angle),
          50 + r * Math.cos(angle),
          50 + r * Math.sin(angle),
        ],
      };
    }),
  };
  const poses = posesOf(track, 0, 5).map((p) => p!);
  poses.forEach((pose, n) => {
    expect(pose.x).toBeCloseTo(50);
    expect(pose.size).toBeCloseTo(1 + n);
    expect(pose.turn).toBeCloseTo(100 * n);
  });
  expect(poseOf({ ...track, kind: 'box' }, [3, 4, 1.5, 30])).toEqual({ x: 3, y: 4, size: 1.5, turn: 30 });
});

describe('what is to be followed', () => {
  it('goes both ways to the ends, where there are no other keys', () => {
    expect(waysFrom(point(), 10, 30).sides).toEqual([
      { away: { from: 10, to: 30, values: [100, 50] }, back: undefined },
      { away: { from: 10, to: -1, values: [100, 50] }, back: undefined },
    ]);
  });

  it('goes as far as the next keys, and comes back from there', () => {
    const track = point({ keys: [key(4, 0, 0), key(10, 1, 1), key(20, 2, 2)] });
    expect(waysFrom(track, 10, 30).sides).toEqual([
      { away: { from: 10, to: 20, values: [1, 1] }, back: { from: 20, to: 10, values: [2, 2] } },
      { away: { from: 10, to: 4, values: [1, 1] }, back: { from: 4, to: 10, values: [0, 0] } },
    ]);
  });

  it('is nothing on a clip of one frame, or without a key', () => {
    expect(waysFrom(point({ keys: [key(0, 1, 1)] }), 0, 1).sides).toEqual([]);
    expect(waysFrom(point(), 11, 30).sides).toEqual([]);
  });

  it('two ways come to lead from one key to the other', () => {
    const out = [place(10, 0), place(20, 0), undefined, place(40, 0)];
    const back = [place(14, 0), place(24, 0), place(34, 0), undefined];
    expect(bothWays(out, back).map((p) => p?.values[0])).toEqual([10.8, 21.6, 34, 40]);
  });
});

it('whatever is put in comes out, what lies outside stays, and it can be saved', () => {
  const places = fc.array(
    fc.option(
      fc.tuple(
        fc.double({ min: -50, max: 900, noNaN: true }).map((v) => v + 0),
        fc.integer({ min: 0, max: 100 }),
      ),
      {
        nil: undefined,
      },
    ),
    { minLength: 1, maxLength: 12 },
  );
  fc.assert(
    fc.property(fc.array(fc.tuple(fc.integer({ min: 0, max: 40 }), places), { maxLength: 6 }), (all) => {
      let track = point({ keys: [key(99, 5, 5)] });
      const expected = new Map<number, Place>();
      for (const [from, found] of all) {
        const put = found.map((p): Place => p && { values: [p[0], 2 * p[0]], sure: p[1] });
        put.forEach((p, i) => expected.set(from + i, p));
        track = withFollowed(track, from, put);
      }
      for (const [frame, p] of expected) if (track.runs.length > 0) expect(placeAt(track, frame)).toEqual(p);
      expect(TrackSchema.parse(JSON.parse(JSON.stringify(track)))).toEqual(track);
    }),
  );
});
