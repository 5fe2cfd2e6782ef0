import fc from 'fast-check';
import { DEFAULT_ENVELOPES } from '../beats/envelope';
import { type Music, frameOn, musicFrom, musicOf } from '../beats/music';
import type { FrameTable } from '../clip/frame-table';
import { startOf } from '../clip/frame-table';
import { heldPoints, storedPoints } from '../moves/curve';
import { withoutPlaces } from '../moves/place-values';
import { applyChain } from '../moves/chain';
import { type ChainStep, moveById } from '../moves/registry';
import { type TimePath, instantAt, pathLength, sampleFrames, spanPath } from '../path/path';
import { LookSchema } from '../looks/look';
import { renameMark } from '../project/actions';
import { newProject } from '../project/new-project';
import { pieceOf } from '../project/schema';
import { rational } from '../time/rational';
import { frame } from '../time/units';
import type { Place } from './place';
import { readBeat, readPlace, readSource } from './read';
import { type Ground, resolvePlace } from './resolve';
import { showingsOf } from './showings';
import { placeText } from './words';

const RATE = rational(30);
const TABLE: FrameTable = { kind: 'constant', rate: rational(60), count: 600 };
const marks = [{ id: 'm', name: 'catch', frame: 200 }];
const song = {
  envelopes: DEFAULT_ENVELOPES,
  grid: { beats: Array.from({ length: 60 }, (_, i) => 0.37 + i * 0.53), firstBar: 2, beatsPerBar: 4 },
  accents: Array.from({ length: 60 }, (_, i) => ({
    ...{ at: 0.37 + i * 0.53, strength: 1 },
    band: (['low', 'mid', 'high'] as const)[i % 3]!,
  })),
};
const musicAt = (startFrame: number): Music => musicOf(song, { startFrame, fromS: 0 }, RATE);
const link = (move: string, values: object = {}, zone?: ChainStep['zone'], id = move): ChainStep => ({
  ...{ id, move, on: true },
  values: { ...moveById(move)!.defaults, ...values },
  ...(zone && { zone }),
});
const context = (music?: Music, table = TABLE) => ({ table, marks, music });
const ground = (path: TimePath, music?: Music): Ground => ({ path, table: TABLE, marks, music });

/** Chains of moves that go back and forth, ease, hold and repeat. */
const steps = fc.oneof(
  fc.record({ percent: fc.integer({ min: 20, max: 300 }) }).map((v) => link('speed', v)),
  fc
    .record({ trips: fc.integer({ min: 1, max: 3 }), turn: fc.constantFrom('once', 'twice') })
    .map((v) => link('boomerang', v)),
  fc
    .record({ at: fc.integer({ min: 0, max: 90 }), length: fc.integer({ min: 1, max: 30 }) })
    .map((v) => link('hold', v)),
  fc
    .record({ at: fc.integer({ min: 0, max: 90 }), slice: fc.integer({ min: 2, max: 20 }) })
    .map((v) => link('scratch', { ...v, shape: 'snap' })),
  fc.tuple(fc.integer({ min: 10, max: 400 }), fc.integer({ min: 10, max: 400 })).map(([a, b]) =>
    link('ramp', {
      points: [
        { at: 0, percent: a },
        { at: 40, percent: b },
      ],
    }),
  ),
  fc
    .record({ from: fc.integer({ min: 100, max: 500 }), to: fc.integer({ min: 2, max: 90 }) })
    .map((v) => link('coast', { ...v, over: 60 })),
);
const chains = fc.array(steps, { maxLength: 3 }).map((all) => all.map((s, i) => ({ ...s, id: `s${i}` })));
const spans = fc.tuple(fc.integer({ min: 0, max: 400 }), fc.integer({ min: 20, max: 180 }));
const pathOf = (chain: readonly ChainStep[], [from, length]: readonly [number, number]) =>
  applyChain(spanPath(TABLE, from, from + length, RATE), chain, context()).path;

describe('what of the clip is shown, and when', () => {
  it('is every stretch in which the path stands inside a frame, as sampling has it', () => {
    fc.assert(
      fc.property(chains, spans, fc.integer({ min: 0, max: 599 }), (chain, span, shown) => {
        const path = pathOf(chain, span);
        const [first, end] = [startOf(TABLE, frame(shown)), startOf(TABLE, frame(shown)) + 1 / 60];
        const showings = showingsOf(path, first, end);
        const length = pathLength(path);
        for (let at = 0.013; at < length; at += 1.37) {
          const instant = instantAt(path, at);
          const inside = instant > first + 1e-6 && instant < end - 1e-6;
          const outside = instant < first - 1e-6 || instant > end + 1e-6;
          const told = showings.some((s) => at > s.from - 1e-5 && at < s.to + 1e-5);
          if (inside) expect(told).toBe(true);
          if (outside) expect(showings.some((s) => at > s.from + 1e-4 && at < s.to - 1e-4)).toBe(false);
        }
      }),
      { numRuns: 150 },
    );
  });

  it('a place of the clip is where it begins to be shown; what is never shown is where it comes nearest, and said', () => {
    fc.assert(
      fc.property(chains, spans, fc.integer({ min: 0, max: 599 }), (chain, span, shown) => {
        const path = pathOf(chain, span);
        const { at, said } = resolvePlace({ source: shown }, ground(path));
        expect(at).toHaveLength(1);
        expect(at[0]!).toBeGreaterThanOrEqual(-1e-6);
        expect(at[0]!).toBeLessThanOrEqual(pathLength(path) + 1e-6);
        const stands = instantAt(path, at[0]! + 1e-5) * 60;
        if (!said) {
          expect(stands).toBeGreaterThan(shown - 1e-3);
          expect(stands).toBeLessThan(shown + 1 + 1e-3);
        } else expect(said.code).toBe('not-shown');
      }),
      { numRuns: 300 },
    );
  });

  it('is told apart by its times, and every time can be meant', () => {
    const path = pathOf([link('boomerang', { trips: 2, turn: 'twice' })], [100, 60]);
    const times = [1, 2, 3, 4].map((k) => resolvePlace({ source: 130, showing: k }, ground(path)).at[0]!);
    expect(times.map((t) => Math.round(t * 100) / 100)).toEqual([15, 44.5, 75, 104.5]);
    const every = resolvePlace({ source: 130, showing: 'every' }, ground(path)).at;
    expect(every.map((t) => Math.round(t * 100) / 100)).toEqual([15, 44.5, 75, 104.5]);
    expect(resolvePlace({ source: 130, showing: 9 }, ground(path)).said?.text).toContain('4 times');
  });
});

describe('a move that happens in the clip', () => {
  const edits: ((chain: ChainStep[], span: [number, number]) => [ChainStep[], [number, number]])[] = [
    (c, s) => [c, s],
    (c, [f, l]) => [c, [Math.max(0, f - 20), l + 35]],
    (c, [f, l]) => [c, [f + 3, l]],
    (c, s) => [[link('speed', { percent: 70 }, undefined, 'put'), ...c], s],
    (c, s) => [[link('hold', { at: 4, length: 11 }, undefined, 'put'), ...c], s],
    (c, s) => [c.slice(1), s],
    (c, s) => [c.map((x, i) => (i === 0 ? { ...x, on: false } : x)), s],
  ];

  it('happens at its frame whatever is edited before it', () => {
    fc.assert(
      fc.property(
        chains,
        fc.tuple(fc.integer({ min: 100, max: 200 }), fc.integer({ min: 120, max: 240 })),
        fc.constantFrom(...edits),
        fc.constantFrom<Place>({ mark: 'm' }, { source: 210 }, { source: 203, showing: 2 }),
        (before, span, edit, at) => {
          const [chain, [from, length]] = edit([...before], [...span]);
          const base = spanPath(TABLE, from, from + length, RATE);
          const incoming = applyChain(base, chain, context()).path;
          const place = resolvePlace(at, ground(incoming));
          const { path } = applyChain(
            base,
            [...chain, link('hold', { at, length: 40 }, undefined, 'it')],
            context(),
          );
          const held = path.segments.find((s) => s.maker?.step === 'it' && s.maker.part === 1)!;
          expect(held.length).toBe(40);
          const frameHeld = Math.floor(held.from * 60 + 1e-6);
          if (!place.said)
            expect(frameHeld).toBe('mark' in (at as object) ? 200 : (at as { source: number }).source);
          // Turns shown once are resolved for the frames they fall on: beside one a hold moves it.
          const once = chain.some((s) => s.values['turn'] === 'once');
          if (!once) expect(pathLength(path)).toBeCloseTo(pathLength(incoming) + 40, 6);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('every time it is shown, when that is asked for', () => {
    const chain = [
      link('boomerang', { trips: 2, turn: 'twice' }),
      link('hold', { at: { mark: 'm', showing: 'every' }, length: 10 }),
    ];
    const { path } = applyChain(spanPath(TABLE, 170, 230, RATE), chain, context());
    expect(pathLength(path)).toBeCloseTo(120 + 40, 6);
    const shown = sampleFrames(path, TABLE);
    expect([...shown].filter((n) => n === 200).length).toBeGreaterThanOrEqual(40);
  });

  it('and a mark that is moved takes it along; one that is gone is said', () => {
    const base = spanPath(TABLE, 170, 230, RATE);
    const chain = [link('hold', { at: { mark: 'm' }, length: 10 })];
    const moved = { ...context(), marks: [{ ...marks[0]!, frame: 216 }] };
    expect(
      [...sampleFrames(applyChain(base, chain, moved).path, TABLE)].filter((n) => n === 216),
    ).toHaveLength(10);
    const gone = applyChain(base, chain, { ...context(), marks: [] });
    expect(gone.path.segments).toHaveLength(1);
    expect(gone.steps[0]!.notices[0]!.text).toContain('mark');
  });
});

describe('a move that happens in the music', () => {
  it('stays on its beat, bar or accent when the song slides, in a zone as well', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -40, max: 40 }),
        fc.integer({ min: 3, max: 9 }),
        fc.constantFrom('beat', 'accent', 'bar'),
        (slid, n, kind) => {
          const music = musicAt(slid);
          const place =
            kind === 'beat' ? { beat: n } : kind === 'bar' ? { bar: 2 } : { accent: 2, band: 'mid' as const };
          const exact =
            kind === 'beat'
              ? music.beats[n - 1]!
              : kind === 'bar'
                ? music.beats[2 + 4]!
                : music.accents.filter((a) => a.band === 'mid')[1]!.at;
          const base = spanPath(TABLE, 0, 400, RATE);
          const chain = [link('hold', { at: place, length: 7 })];
          const { path, steps: told } = applyChain(base, chain, context(music));
          const at = frameOn(exact, music);
          if (at < 0) expect(told[0]!.notices[0]!.code).toBe('outside-music');
          else expect(path.segments.find((s) => s.from === s.to)!.from * 30).toBeCloseTo(at + 0.5, 6);
          const zone = { from: place, to: { ...place, plus: 12 } };
          const inZone = applyChain(base, [link('speed', { percent: 50 }, zone)], context(music)).path;
          if (at >= 0) expect(inZone.segments.map((s) => s.length).at(at === 0 ? 0 : 1)).toBeCloseTo(24, 6);
        },
      ),
    );
  });

  it('lands on the same beat of the song wherever that lies, and says when it lies before the piece', () => {
    const base = spanPath(TABLE, 100, 400, RATE);
    for (const slid of [0, 5, -11]) {
      const music = musicAt(slid);
      const { path } = applyChain(
        base,
        [link('land', { mark: { mark: 'm' }, beat: { beat: 4 } })],
        context(music),
      );
      expect(sampleFrames(path, TABLE)[frameOn(music.beats[3]!, music)]).toBe(200);
    }
    const early = applyChain(
      base,
      [link('land', { mark: 200, beat: { beat: 1 } })],
      context(musicFrom(musicAt(0), 60)),
    );
    expect(early.path).toEqual(expect.objectContaining({ segments: expect.arrayContaining([]) as unknown }));
    expect(early.steps[0]!.notices[0]!.code).toBe('outside-music');
  });
});

describe('points of the curve', () => {
  const points = [
    { at: 0, source: 0, before: 0, after: 0 },
    { at: { beat: 3 }, source: 50, before: 4, after: 4 },
    { at: { beat: 5 }, source: 0, on: { mark: 'm' }, before: 0, after: 0 },
    { at: 150, source: 10, before: 0, after: 0 },
  ];
  const base = spanPath(TABLE, 100, 300, RATE);

  it('turn on their beats when the song slides, and stand on their marks when those move', () => {
    expect(moveById('curve')!.schema.safeParse(withoutPlaces(moveById('curve')!, { points })).success).toBe(
      true,
    );
    for (const slid of [0, 7, -9])
      for (const frameOfMark of [200, 230]) {
        const music = musicAt(slid);
        const here = { ...context(music), marks: [{ ...marks[0]!, frame: frameOfMark }] };
        const { path } = applyChain(base, [link('curve', { points })], here);
        const turn = frameOn(music.beats[2]!, music);
        const stands = frameOn(music.beats[4]!, music);
        expect(instantAt(path, turn) * 60).toBeCloseTo(150, 6);
        expect(instantAt(path, stands) * 60).toBeCloseTo(frameOfMark + 0.5, 6);
      }
  });

  it('keep their places while others are moved by hand, and lose them where they are moved themselves', () => {
    const where = { ...ground(base, musicAt(0)), marks };
    const held = heldPoints(points, where, 100);
    expect(storedPoints(held, where, 100)).toEqual(
      points.map((p) => ({ ...p, source: 'on' in p ? 100.5 : p.source })),
    );
    const moved = held.map((p, i) => (i === 1 ? { ...p, at: p.at + 3 } : p));
    const [, second, third] = storedPoints(moved, where, 100) as { at: unknown }[];
    expect(second!.at).toBe(held[1]!.at + 3);
    expect(third!.at).toEqual({ beat: 5 });
  });

  it('are typed and told with them', () => {
    const field = moveById('curve')!.fields[0]!;
    if (field.kind !== 'text') throw new Error('a list');
    const typing = { marks, first: 0, at: { rate: RATE } };
    const telling = { marks, first: 0, partName: () => undefined };
    const typed = '0: 0, beat 3: 50 ~4/4, beat 5: mark catch, 150: 10';
    expect(field.write(field.read(typed, typing), telling)).toBe(typed);
    const ramp = moveById('ramp')!.fields[0]!;
    if (ramp.kind !== 'text') throw new Error('a list');
    const speeds = '0: 100, mark catch: -50, beat 7: 200, end - 12 f: 0';
    expect(ramp.write(ramp.read(speeds, typing), telling)).toBe(speeds);
    const bounce = moveById('bounce')!.fields[0]!;
    if (bounce.kind !== 'text') throw new Error('a list');
    expect(bounce.write(bounce.read('100, mark catch ~0, 130', typing), telling)).toBe(
      '100, mark catch ~0, 130',
    );
  });
});

describe('a place on a segment', () => {
  it('is where that lies now; without its move it rests where it was, and says so', () => {
    const zone = { segment: { makers: [{ step: 'hold', part: 1 }], nth: 0 }, was: { from: 20, to: 30 } };
    const chain = (at: number, on = true): ChainStep[] => [
      { ...link('hold', { at, length: 10 }), on },
      link('fit', { length: 25, by: 'speed' }, zone),
    ];
    const base = spanPath(TABLE, 0, 120, RATE);
    for (const at of [5, 20, 44]) {
      const { path } = applyChain(base, chain(at), context());
      const shown = [...sampleFrames(path, TABLE)];
      expect(shown).toHaveLength(60 + 25);
      expect(shown.slice(at, at + 25).every((n) => n === shown[at])).toBe(true);
    }
    const off = applyChain(base, chain(20, false), context());
    expect(off.steps[1]!.notices[0]!.code).toBe('segment-gone');
    expect(pathLength(off.path)).toBeCloseTo(60 - 10 + 25, 6);
  });
});

describe('places in words', () => {
  const reading = {
    marks,
    first: 0,
    at: { rate: RATE, beat: { frames: 15, perBar: 4 } },
  };
  const telling = { marks, first: 0, partName: () => 'Hold' };
  const limits = { least: 0, most: 1_000_000 };

  it.each<[string, Place]>([
    ['40', 40],
    ['1.5 s', 45],
    ['source 93', { source: 93 }],
    ['source 93, 2nd time', { source: 93, showing: 2 }],
    ['source 93 (2nd time)', { source: 93, showing: 2 }],
    ['mark catch', { mark: 'm' }],
    ['catch', { mark: 'm' }],
    ['mark catch + 3 f, every time', { mark: 'm', plus: 3, showing: 'every' }],
    ['mark catch - 1 b', { mark: 'm', plus: { beats: -1 } }],
    ['beat 5', { beat: 5 }],
    ['bar 2 + 1 b', { bar: 2, plus: { beats: 1 } }],
    ['kick 3', { accent: 3, band: 'low' }],
    ['snare 1 - 4 f', { accent: 1, band: 'mid', plus: -4 }],
    ['1/3', { share: 1 / 3 }],
    ['end', { end: 0 }],
    ['end - 12 f', { end: 12 }],
    ['2 b', { beats: 2 }],
  ])('%s is read, and told so that it is read again', (typed, place) => {
    expect(readPlace(typed, reading, limits)).toEqual(place);
    expect(readPlace(placeText(place, telling), reading, limits)).toEqual(place);
  });

  it('counts from the first frame as it is called, what is read as what is told', () => {
    const one = { ...reading, first: 1 };
    expect(placeText({ source: 93 }, { ...telling, first: 1 })).toBe('source 94');
    expect(readPlace('source 94', one, limits)).toEqual({ source: 93 });
    expect(placeText(40, { ...telling, first: 1 })).toBe('41 f');
    expect(readPlace('41', one, limits)).toBe(40);
    expect(readPlace('1.5 s', one, limits)).toBe(45);
    expect(readSource('1', one)).toBe(0);
    expect(readSource('0', one)).toBeUndefined();
  });

  it('plain numbers are frames of the clip where they are counted in it, and beats from the piece for a landing', () => {
    expect(readPlace('80', { ...reading, counts: 'clip' }, limits)).toEqual({ source: 80 });
    expect(readPlace('80 f', { ...reading, counts: 'clip' }, limits)).toBe(80);
    expect(readBeat('3', reading)).toBe(3);
    expect(readBeat('beat 3', reading)).toEqual({ beat: 3 });
    expect(readBeat('mark catch', reading)).toEqual(expect.stringContaining('no place of the song'));
    expect(readPlace('somewhere', reading, limits)).toEqual(expect.stringContaining('no place here'));
  });
});

it('places on ten thousand segments are found in time that grows with them', () => {
  const one = (i: number) => spanPath(TABLE, i % 300, (i % 300) + 40, RATE).segments[0]!;
  const through = (count: number) => {
    const path: TimePath = { rate: RATE, segments: Array.from({ length: count }, (_, i) => one(i)) };
    const goes = [0, 1, 2, 3, 4].map((i) => {
      const began = performance.now();
      resolvePlace({ source: 150 + i, showing: 'every' }, ground(path));
      return performance.now() - began;
    });
    return Math.min(...goes);
  };
  const few = through(1000);
  expect(through(10_000)).toBeLessThan(Math.max(50, 30 * few));
});

it('a look around a mark stays around it when that is called something else', () => {
  const clip = {
    ...{ id: 'c', mediaId: 'm', name: 'boards.mp4', readAt: null, tracks: [], framing: 'fit' as const },
    marks: [{ id: 'k', name: 'catch', frame: 80 }],
  };
  const look = LookSchema.parse({
    ...{ id: 'l', look: 'flash' },
    scope: { all: [{ kind: 'mark', name: 'catch', before: 0, after: 6 }] },
  });
  const project = {
    ...newProject('p', 'Pier', 0),
    clips: [clip],
    pieces: [pieceOf({ id: 'a', clipId: 'c', span: { in: 0, out: 100 }, chain: [], looks: [look] })],
  };
  const renamed = renameMark(project, 'c', 'k', 'strike');
  expect(renamed.pieces[0]!.looks[0]!.scope.all[0]).toMatchObject({ name: 'strike' });
});
