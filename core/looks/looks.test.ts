import fc from 'fast-check';
import { z } from 'zod';
import { Surface } from '../pixels/surface';
import { evenGrid, track } from './looks-fixtures';
import { type Driver, DriverSchema, valueAt } from './driver';
import { type Facts, factsOfPiece, factsOfResult } from './facts';
import { flashingIn } from './flashing';
import { type Look, LookSchema } from './look';
import { TREATMENTS, treatmentById } from './registry';
import { shownValues } from './moments';
import { resolveLooks } from './resolve';
import { recipesOf } from './recipes';
import { type Condition, type Scope, ScopeSchema, fadeAt, stretchesOf } from './scope';
import type { AnyTreatment, Treatment } from './treatment';
import { scopeWords } from './words';

const boomerang = (values: object = {}) => ({
  move: 'boomerang',
  values: { trips: 1, turn: 'twice', ...values },
});
/** A span [100, 160) there and back, turning twice: forward 0 to 59, backward 60 to 119. */
const thereAndBack = track([100, 160], boomerang());
const facts = factsOfPiece(thereAndBack.pieces[0]!.compiled, true);
const scope = (...all: object[]): Scope => ScopeSchema.parse({ all });
const framesIn = (s: Scope, f: Facts = facts) =>
  stretchesOf(s, f).flatMap(({ first, end }) => Array.from({ length: end - first }, (_, i) => first + i));
const row = (a: number, b: number) => Array.from({ length: b - a + 1 }, (_, i) => a + i);

describe('where a look applies', () => {
  it.each([
    ['everywhere', [], row(0, 119)],
    ['backward', [{ kind: 'way', way: 'backward' }], row(60, 119)],
    ['not backward', [{ kind: 'way', way: 'backward', not: true }], row(0, 59)],
    ['first 6 frames of backward parts', [{ kind: 'first', frames: 6, way: 'backward' }], row(60, 65)],
    ['last 4 frames of forward parts', [{ kind: 'last', frames: 4, way: 'forward' }], row(56, 59)],
    ['around turns', [{ kind: 'turns', before: 2, after: 2 }], [0, 1, ...row(58, 61), 118, 119]],
    [
      'a range that is backward too',
      [
        { kind: 'range', from: 50, to: 70 },
        { kind: 'way', way: 'backward' },
      ],
      row(60, 69),
    ],
    ['held parts, of which there are none', [{ kind: 'way', way: 'held' }], []],
  ])('%s', (_, all, frames) => expect(framesIn(scope(...all))).toEqual(frames));

  it('where one of several conditions is enough, any of them is; said with "or"', () => {
    const parts = [
      { kind: 'range', from: 10, to: 13 },
      { kind: 'range', from: 50, to: 52, not: false },
    ];
    const either = ScopeSchema.parse({ all: parts, either: true });
    expect(framesIn(either)).toEqual([10, 11, 12, 50, 51]);
    expect(framesIn(ScopeSchema.parse({ all: parts }))).toEqual([]);
    // Without conditions it is everywhere, whichever way they would be joined.
    expect(framesIn(ScopeSchema.parse({ either: true }))).toHaveLength(facts.frames);
    expect(scopeWords(either)).toBe('frames 10 to 13 or frames 50 to 52');
  });

  it('around turns without a loop does not reach over the ends', () => {
    const alone = factsOfPiece(thereAndBack.pieces[0]!.compiled, false);
    expect(framesIn(scope({ kind: 'turns', before: 2, after: 2 }), alone)).toEqual(row(58, 61));
  });

  it('follows the speed: faster than 100 % from where the speed changes', () => {
    const slowThenFast = track([0, 240], { move: 'ramp', values: { points: [] } });
    expect(slowThenFast.totalFrames).toBeGreaterThan(0);
    const speeds = Float64Array.from({ length: 60 }, (_, i) => (i < 30 ? 0.4 : 3));
    const f: Facts = { ...facts, frames: 60, speeds, joins: [], turns: [] };
    expect(framesIn(scope({ kind: 'faster', percent: 100 }), f)).toEqual(row(30, 59));
    expect(framesIn(scope({ kind: 'slower', percent: 100 }), f)).toEqual(row(0, 29));
    expect(framesIn(scope({ kind: 'slower', percent: 40 }), f)).toEqual([]);
  });

  it('follows the moves: more trips, more backward parts', () => {
    const three = factsOfPiece(track([100, 160], boomerang({ trips: 3 })).pieces[0]!.compiled, true);
    const starts = stretchesOf(scope({ kind: 'way', way: 'backward' }), three).map((s) => [s.first, s.end]);
    expect(starts).toEqual([
      [60, 120],
      [180, 240],
      [300, 360],
    ]);
  });

  it('beats, bars and accents: every k-th from the m-th, frames before and after', () => {
    const f: Facts = { ...facts, music: evenGrid(15) };
    const beats = (values: object) =>
      framesIn(scope({ kind: 'beats', of: 'beats', every: 1, from: 1, before: 0, after: 1, ...values }), f);
    expect(beats({})).toEqual([0, 15, 30, 45, 60, 75, 90, 105]);
    expect(beats({ every: 2 })).toEqual([0, 30, 60, 90]);
    expect(beats({ every: 2, from: 2, before: 1 })).toEqual([14, 15, 44, 45, 74, 75, 104, 105]);
    expect(beats({ of: 'bars' })).toEqual([0, 60]);
    expect(framesIn(scope({ kind: 'accents', band: 'low', before: 0, after: 2 }), f)).toEqual([7, 8, 22, 23]);
    expect(framesIn(scope({ kind: 'beats', of: 'beats', every: 1, from: 1, before: 0, after: 1 }))).toEqual(
      [],
    );
  });

  it('every showing of a mark', () => {
    const marked = track([100, 160], boomerang(), { marks: [{ id: 'm', name: 'hit', frame: 110 }] });
    const f = factsOfPiece(marked.pieces[0]!.compiled, true);
    expect(framesIn(scope({ kind: 'mark', name: 'hit', before: 1, after: 1 }), f)).toEqual([9, 10, 108, 109]);
    expect(framesIn(scope({ kind: 'mark', name: 'gone', before: 1, after: 1 }), f)).toEqual([]);
  });

  it('fades inside: with 4 the strengths are 1/5, 2/5, 3/5, 4/5, 1', () => {
    const s = { ...scope(), fadeIn: 4, fadeOut: 1 };
    const stretch = { first: 10, end: 20 };
    expect(row(10, 19).map((i) => fadeAt(s, stretch, i))).toEqual([0.2, 0.4, 0.6, 0.8, 1, 1, 1, 1, 1, 0.5]);
  });
});

describe('what moves a value', () => {
  const f: Facts = { ...facts, music: evenGrid(15) };
  const stretch = { first: 20, end: 40 };
  const along = (driver: object, frames: number[]) =>
    frames.map((i) => Number(valueAt(DriverSchema.parse(driver), i, stretch, f).toFixed(4)));

  it('keys, from the stretch or from the result', () => {
    const keys = [
      { at: 10, value: 100 },
      { at: 0, value: 0 },
    ];
    expect(along({ kind: 'keys', keys }, [20, 25, 30, 39])).toEqual([0, 50, 100, 100]);
    expect(along({ kind: 'keys', keys, counts: 'result' }, [5, 20])).toEqual([50, 100]);
    const held = [
      { at: 0, value: 3, ease: 'hold' },
      { at: 4, value: 9 },
    ];
    expect(along({ kind: 'keys', keys: held }, [20, 23, 24])).toEqual([3, 3, 9]);
  });

  it('a pulse on beats: rise, hold, fall; alternating changes its sign', () => {
    const pulse = { kind: 'pulse', rest: 100, depth: 40, on: 'beats', hold: 1, fall: 3 };
    expect(along(pulse, [30, 31, 32, 33, 34])).toEqual([140, 130, 120, 110, 100]);
    expect(along({ ...pulse, alternating: true }, [30, 45])).toEqual([140, 60]);
    expect(along({ ...pulse, rise: 1 }, [29, 30, 31])).toEqual([120, 140, 130]);
    expect(along({ ...pulse, on: 'low' }, [5, 7, 22])).toEqual([100, 140, 140]);
  });

  it('steps, hard and smooth', () => {
    expect(along({ kind: 'steps', values: [1, -1], every: 3 }, [20, 22, 23, 26])).toEqual([1, 1, -1, 1]);
    expect(along({ kind: 'steps', values: [0, 6], every: 3, smooth: true }, [20, 21, 22, 23])).toEqual([
      0, 2, 4, 6,
    ]);
  });

  it('the speed, clamped, with its sign if wanted', () => {
    const speed = { kind: 'speed', fromPercent: 0, from: 0, toPercent: 200, to: 10 };
    expect(along(speed, [10, 70])).toEqual([5, 5]);
    expect(along({ ...speed, fromPercent: -100, toPercent: 100, signed: true }, [10, 70])).toEqual([10, 0]);
  });

  it('progress ends on its last value', () =>
    expect(along({ kind: 'progress', from: 10, to: 29 }, [20, 21, 39])).toEqual([10, 11, 29]));

  it('chance stays within, is the same every time, and comes home', () => {
    const random = { kind: 'random', rest: 5, within: 2, every: 3, seed: 8 };
    const values = along(random, row(20, 39));
    expect(values).toEqual(along(random, row(20, 39)));
    expect(values.every((v) => v >= 3 && v <= 7)).toBe(true);
    expect(values.at(-1)).toBe(5);
    expect(new Set(values).size).toBeGreaterThan(8);
    expect(along({ ...random, seed: 9 }, row(20, 39))).not.toEqual(values);
    // Eased over some frames it is nearer on each of them than it would be, and the same before.
    const eased = along({ ...random, every: 1, smooth: false, homeOver: 10 }, row(20, 39));
    const jumps = along({ ...random, every: 1, smooth: false }, row(20, 39));
    expect(eased.slice(0, 9)).toEqual(jumps.slice(0, 9));
    const shares = eased.slice(10, 19).map((v, i) => (v - 5) / (jumps[i + 10]! - 5));
    expect(shares).toEqual(shares.toSorted((a, b) => b - a));
    expect(Math.abs(eased[18]! - 5)).toBeLessThan(0.1);
    expect(eased.at(-1)).toBe(5);
  });

  const anyDriver: fc.Arbitrary<Driver> = fc
    .oneof(
      fc.record({
        kind: fc.constant('pulse'),
        rest: fc.double({ min: -9, max: 9, noNaN: true }),
        depth: fc.integer({ min: -9, max: 9 }),
        on: fc.constantFrom('beats', 'bars', 'low', 'high'),
        fall: fc.integer({ min: 0, max: 9 }),
      }),
      fc.record({
        kind: fc.constant('random'),
        rest: fc.constant(0),
        within: fc.integer({ min: 0, max: 9 }),
        every: fc.integer({ min: 1, max: 50 }),
        smooth: fc.boolean(),
      }),
      fc.record({
        kind: fc.constant('speed'),
        fromPercent: fc.integer({ min: -300, max: 300 }),
        toPercent: fc.integer({ min: -300, max: 300 }),
        from: fc.constant(0),
        to: fc.constant(5),
        signed: fc.boolean(),
      }),
      fc.record({
        kind: fc.constant('keys'),
        keys: fc.array(
          fc.record({
            at: fc.integer({ min: 0, max: 60 }),
            value: fc.integer({ min: -9, max: 9 }),
            ease: fc.constantFrom('even', 'in', 'out', 'both', 'hold'),
          }),
          { minLength: 1, maxLength: 5 },
        ),
      }),
      fc.record({
        kind: fc.constant('steps'),
        values: fc.array(fc.integer({ min: -9, max: 9 }), { minLength: 1, maxLength: 4 }),
        every: fc.integer({ min: 1, max: 9 }),
        smooth: fc.boolean(),
      }),
    )
    .map((d) => DriverSchema.parse(d));

  it('is finite, and the same whenever asked, for any driver', () =>
    fc.assert(
      fc.property(
        anyDriver,
        fc.integer({ min: 0, max: 119 }),
        fc.integer({ min: 0, max: 119 }),
        (driver, a, b) => {
          const here = { first: Math.min(a, b), end: Math.max(a, b) + 1 };
          const value = valueAt(driver, a, here, f);
          expect(Number.isFinite(value)).toBe(true);
          expect(valueAt(driver, a, here, f)).toBe(value);
        },
      ),
      { numRuns: 300 },
    ));
});

const look = (id: string, over: object = {}): Look => LookSchema.parse({ id: `${id} 1`, look: id, ...over });

describe('recipes', () => {
  const backward: Condition = { kind: 'way', not: false, way: 'backward' };
  const recipes = (looks: Look[], ofResult: Look[] = [], trips = 1) => {
    const project = track([100, 160], boomerang({ trips }), { looks });
    return recipesOf(project, ofResult, undefined).recipes;
  };

  it('without looks every frame stays as it is', () => {
    const { stacks, stackOf } = recipes([]);
    expect(stacks).toEqual([[]]);
    expect([...new Set(stackOf)]).toEqual([0]);
  });

  it('a look on backward parts treats them and nothing else, on every trip', () => {
    const { stackOf } = recipes([look('split', { scope: { all: [backward] } })], [], 2);
    const treated = [...stackOf].flatMap((s, i) => (s > 0 ? [i] : []));
    expect(treated).toEqual([...row(60, 119), ...row(180, 239)]);
  });

  it('equal frames share one recipe: five trips with three looks need those of one', () => {
    const looks = [look('split', { scope: { all: [backward] } }), look('vignette'), look('grade')];
    expect(recipes(looks, [], 5).stacks.length).toBe(3);
  });

  it('the looks of a piece come first, in their order, then those of the result', () => {
    const { stacks, stackOf } = recipes([look('grade'), look('split')], [look('vignette')]);
    expect(stacks[stackOf[0]!]!.map((d) => d.look)).toEqual(['grade', 'split', 'vignette']);
  });

  it('a look that is off, unknown or changes nothing leaves frames untouched', () => {
    expect(recipes([look('split', { on: false }), look('hologram')]).stacks).toHaveLength(1);
    expect(
      recipes([look('punch', { values: { zoom: 100 } }), look('flash', { strength: 0 })]).stacks,
    ).toHaveLength(1);
    const { results } = resolveLooks([look('hologram')], facts);
    expect(results[0]!.notices[0]).toMatchObject({ code: 'unknown-look' });
  });

  it('values out of range are brought within, missing and senseless ones take their defaults', () => {
    const { drawn } = resolveLooks(
      [look('punch', { values: { zoom: 1e5, angle: 'much', edges: 'none' } })],
      facts,
    );
    expect(drawn[0]![0]!.drawing).toEqual({ zoom: 1000, x: 0, y: 0, angle: 0, edges: 'mirrored' });
  });

  it('a flash fades over the frames it was given', () => {
    const scoped = { all: [{ kind: 'first', frames: 20, way: 'backward' }] };
    const { drawn } = resolveLooks([look('flash', { scope: scoped, values: { fall: 3 } })], facts);
    expect(row(59, 64).map((i) => drawn[i]![0]?.drawing['share'] ?? 0)).toEqual([0, 1, 0.75, 0.5, 0.25, 0]);
  });

  it('a strobe shows in its turn', () => {
    const { drawn } = resolveLooks([look('strobe', { values: { what: 'turns', on: 1, off: 2 } })], facts);
    const shown = row(0, 6).map((i) => drawn[i]![0]?.drawing['colour']);
    expect(shown).toEqual(['#000000', undefined, undefined, '#ffffff', undefined, undefined, '#000000']);
  });

  it('a shake is strongest at its hit, dies away, and is the same on every trip', () => {
    const f = factsOfPiece(track([100, 160], boomerang({ trips: 2 })).pieces[0]!.compiled, true);
    const { drawn } = resolveLooks(
      [look('shake', { scope: { all: [backward] }, values: { fall: 10, rate: 1 } })],
      f,
    );
    const at = (i: number) => drawn[i]![0]?.drawing as { x: number; y: number } | undefined;
    expect(at(65)).toEqual(at(185));
    expect(at(75)).toBeUndefined();
    const far = (i: number) => Math.hypot(at(i)?.x ?? 0, at(i)?.y ?? 0);
    expect(far(69)).toBeLessThan(2);
  });
});

it('looks of the whole result know all pieces: joins where pieces meet, ways of each', () => {
  const two = track([0, 30], boomerang(), { pieces: 2 });
  const whole = factsOfResult(two, undefined);
  expect(whole.frames).toBe(two.totalFrames);
  expect(whole.joins).toEqual([0, 30, 60, 90]);
  expect(whole.turns).toEqual([0, 30, 60, 90]);
});

/** A treatment as docs/add-a-look.md tells to write one: the picture darkened, half way at half strength. */
const schema = z.object({ amount: z.number() });
const dusk: Treatment<z.infer<typeof schema>, { share: number }> = {
  id: 'dusk',
  name: 'Dusk',
  summary: 'The picture darkened.',
  schema,
  defaults: { amount: 50 },
  fields: [
    { key: 'amount', kind: 'number', label: 'Amount', help: 'How much.', min: 0, max: 100, unit: '%' },
  ],
  cost: 'light',
  scales: true,
  drawing: ({ amount }, { strength }) => (amount > 0 ? { share: (amount / 100) * strength } : undefined),
  draw: (surface, { share }) => surface.fill([0, 0, 0], share),
};

it('a treatment of one file and one line is drawn, driven and limited like all others', () => {
  (TREATMENTS as AnyTreatment[]).push(dusk as unknown as AnyTreatment);
  const rising = { kind: 'progress', from: -50, to: 100 };
  const { drawn } = resolveLooks([look('dusk', { values: { amount: rising } })], facts);
  (TREATMENTS as AnyTreatment[]).pop();
  expect(drawn[0]).toEqual([]);
  expect(drawn[119]).toEqual([{ look: 'dusk', drawing: { share: 1 }, share: 1 }]);
  const surface = new Surface(2, 1);
  surface.loadRgba([200, 100, 0, 255, 8, 8, 8, 255]);
  dusk.draw(surface, { share: 0.5 }, 1, () => undefined, []);
  expect([...surface.pixels]).toEqual([100, 50, 0, 255, 4, 4, 4, 255]);
});

it.each([...TREATMENTS, dusk as unknown as AnyTreatment].map((t) => [t.id, t] as const))(
  '%s keeps its promises as a treatment',
  (_, treatment) => {
    expect(treatment.schema.parse(treatment.defaults)).toEqual(treatment.defaults);
    expect(Object.keys(treatment.defaults).sort()).toEqual(treatment.fields.map((f) => f.key).sort());
    for (const field of treatment.fields) {
      expect(field.label.length).toBeGreaterThan(0);
      const value = treatment.defaults[field.key];
      if (field.kind === 'number') {
        expect(value).toBeGreaterThanOrEqual(field.min);
        expect(value).toBeLessThanOrEqual(field.max);
      } else if (field.kind === 'choice') expect(field.options.map((o) => o.value)).toContain(value);
    }
    expect(treatment.summary).toMatch(/\.$/);
  },
);

it.each([
  [{ all: [] }, 'everywhere'],
  [{ all: [{ kind: 'way', way: 'backward' }] }, 'backward parts'],
  [{ all: [{ kind: 'way', way: 'held', not: true }], fadeIn: 3 }, 'not held parts, in over 3 f'],
  [{ all: [{ kind: 'turns', before: 2, after: 2 }] }, 'at turns, 2 frames before to 2 after'],
  [
    {
      all: [
        { kind: 'beats', of: 'beats', every: 2, from: 1, before: 0, after: 1 },
        { kind: 'slower', percent: 50 },
      ],
    },
    'every 2nd beat and slower than 50 %',
  ],
  [{ all: [{ kind: 'first', frames: 1, way: 'forward' }] }, 'first 1 frame of forward parts'],
] as const)('says where in plain words: %#', (s, words) =>
  expect(scopeWords(ScopeSchema.parse(s))).toBe(words),
);

it('a stored look with missing and senseless values shows whole drivers and defaults on its card', () => {
  const stored = {
    zoom: { kind: 'pulse', rest: 100, depth: 9, on: 'low' },
    x: 'far',
    angle: { kind: 'spin' },
  };
  expect(shownValues(treatmentById('punch')!, stored)).toEqual({
    zoom: DriverSchema.parse(stored.zoom),
    x: 0,
    y: 0,
    angle: 0,
    edges: 'mirrored',
  });
  expect(shownValues(treatmentById('grade')!, { table: { name: 'x' } })['table']).toBeNull();
});

describe('fast flashing', () => {
  const flashing = (values: object, look_ = 'strobe') => {
    const project = track([100, 160], boomerang(), { looks: [look(look_, { values })] });
    return flashingIn(recipesOf(project, [], undefined).recipes, 30);
  };
  it('is found where more than three flashes fall into a second', () => {
    expect(flashing({ on: 2, off: 2 })).toEqual({ atFrame: 0, flashes: 8 });
    expect(flashing({ on: 2, off: 13 })).toBeUndefined();
    expect(flashing({ on: 2, off: 7 })).toEqual({ atFrame: 0, flashes: 4 });
  });
  it('counts black and white in turn as two, and a fading flash as one', () => {
    expect(flashing({ what: 'turns', on: 5, off: 5 })).toBeUndefined();
    expect(flashing({ what: 'turns', on: 8, off: 0 })).toEqual({ atFrame: 0, flashes: 4 });
    expect(flashing({ fall: 20 }, 'flash')).toBeUndefined();
  });
});
