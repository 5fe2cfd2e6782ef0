import fc from 'fast-check';
import { DEFAULT_ENVELOPES } from '../beats/envelope';
import { NO_GRID, addedBeat, barAt, doubled, evenGrid, halved, shiftedGrid } from '../beats/grid';
import { readMarkers } from '../beats/markers';
import type { FrameTable } from '../clip/frame-table';
import { TREATMENTS } from '../looks/registry';
import type { Scope } from '../looks/scope';
import { MOVES } from '../moves/registry';
import { rational } from '../time/rational';
import * as actions from './actions';
import { keepable } from './keepable';
import { newPiece, newProject } from './new-project';
import { setSteady } from './steady-actions';
import * as tracks from './track-actions';
import * as gathers from './gather-actions';
import * as looks from './look-actions';
import * as pieces from './piece-actions';
import { readProject } from './read-project';
import { type Project, ProjectSchema } from './schema';
import * as songs from './song-actions';
import * as sounds from './sound-actions';

const table: FrameTable = { kind: 'constant', rate: rational(30), count: 300 };
const clip = {
  id: 'c',
  mediaId: 'm',
  name: 'pier.mp4',
  marks: [],
  readAt: null,
  tracks: [],
  framing: 'fit' as const,
};
const begun = actions.addPiece(actions.addClip(newProject('p', 'Pier', 0), clip), newPiece('a', 'c', table));

/** Numbers as a hand, a paste or a slip may give them. */
const any = fc.oneof(
  fc.integer({ min: -20, max: 400 }),
  fc.constantFrom(0, -1, 1e9, -1e9, 1e300, -1e300, 0.5, NaN, Infinity, -Infinity, Number.MAX_SAFE_INTEGER),
);
const words = fc.oneof(
  fc.string({ maxLength: 20 }),
  fc.constantFrom('', '   ', 'x'.repeat(206), '名'.repeat(300)),
);
const marked = (row: number) =>
  Array.from({ length: row + 8 }, (_, i) => `${i},x,${i % 4 === row % 4 && i >= row ? 1 : 2}`).join('\n');

type Change = (p: Project) => Project;
let count = 0;
const id = () => `n${count++}`;
const onSong =
  (change: (grid: NonNullable<Project['song']>['grid']) => typeof NO_GRID): Change =>
  (p) =>
    p.song ? songs.setGrid(p, change(p.song.grid)) : p;
const change: fc.Arbitrary<Change> = fc.oneof(
  words.map(
    (w): Change =>
      (p) =>
        actions.renameProject(p, w),
  ),
  words.map(
    (w): Change =>
      (p) =>
        actions.addClip(p, { ...clip, id: id(), name: w }),
  ),
  fc.tuple(any, any).map(
    ([a, b]): Change =>
      (p) =>
        actions.setSpan(p, 'a', { in: a, out: b }, 300),
  ),
  fc.tuple(words, any).map(
    ([name, frame]): Change =>
      (p) =>
        actions.addMark(p, 'c', { id: id(), name, frame }),
  ),
  fc
    .tuple(
      fc.constantFrom(...MOVES.map((m) => m.id)),
      fc.dictionary(fc.constantFrom('at', 'length', 'percent', 'points', 'trips'), any),
    )
    .map(
      ([move, values]): Change =>
        (p) =>
          actions.addStep(p, 'a', { id: id(), move, values }),
    ),
  fc.constantFrom(...TREATMENTS.map((t) => t.id), 'hologram').map(
    (look): Change =>
      (p) =>
        looks.addLook(p, look.length % 2 ? 'a' : null, { id: id(), look }),
  ),
  fc
    .tuple(
      fc.constantFrom('a', null),
      fc.constantFrom('amount', 'zoom', 'fall', 'kind', 'table', 'colour', 'clip', 'speed', 'level'),
      fc.oneof(
        any,
        words,
        fc.record({ kind: fc.constantFrom('pulse', 'keys', 'random'), rest: any, depth: any, within: any }),
      ),
    )
    .map(
      ([where, key, value]): Change =>
        (p) =>
          looks.setLookValue(p, where, looks.looksAt(p, where)[0]?.id ?? '', key, value),
    ),
  fc.tuple(fc.constantFrom('range', 'faster', 'turns'), any, any).map(
    ([kind, a, b]): Change =>
      (p) =>
        looks.setLookScope(p, null, p.looks[0]?.id ?? '', {
          all: [
            { kind, not: false, from: a, to: b, percent: a, before: a, after: b },
          ] as unknown as Scope['all'],
          either: false,
          fadeIn: a,
          fadeOut: b,
        }),
  ),
  any.map(
    (n): Change =>
      (p) =>
        looks.setLookStrength(p, null, p.looks[0]?.id ?? '', n),
  ),
  fc.constant((p: Project) => looks.copyLook(p, null, p.looks[0]?.id ?? '', id(), 'a')),
  fc.tuple(any, any).map(
    ([from, to]): Change =>
      (p) =>
        actions.setZone(p, 'a', p.pieces[0]?.chain[0]?.id ?? '', { from, to }),
  ),
  fc.tuple(any, any).map(
    ([at, frames]): Change =>
      (p) =>
        pieces.splitPiece(p, 'a', at, frames, id),
  ),
  fc.constantFrom('repeat', 'mix', 'flow', 'melt').map(
    (between): Change =>
      (p) =>
        gathers.setBetween(p, 'a', between as 'flow'),
  ),
  any.map(
    (angle): Change =>
      (p) =>
        gathers.setShutter(p, 'a', angle),
  ),
  fc.array(any, { maxLength: 4 }).map(
    (pairs): Change =>
      (p) =>
        gathers.mixPairs(p, 'a', pairs),
  ),
  fc.oneof(any, fc.record({ beats: any })).map(
    (length): Change =>
      (p) =>
        gathers.setDissolve(p, 'a', length),
  ),
  fc.tuple(fc.constantFrom('point', 'points', 'box'), words, any, any, any).map(
    ([kind, name, frame, x, y]): Change =>
      (p) =>
        tracks.addTrack(p, 'c', {
          ...{ id: id(), name, kind: kind as 'point', width: x, height: y, runs: [] },
          keys: [{ frame, ease: 'even', values: kind === 'point' ? [x, y] : [x, y, y, x] }],
        }),
  ),
  fc.tuple(any, any, any).map(([frame, x, y]): Change => (p) => {
    const track = p.clips.find((c) => c.id === 'c')?.tracks[0];
    const values = Array.from({ length: track?.kind === 'point' ? 2 : 4 }, (_, i) => (i % 2 ? x : y));
    const place = { values, sure: 50 };
    const keyed = tracks.setTrackKey(p, 'c', track?.id ?? '', { frame, values });
    return tracks.setFollowed(keyed, 'c', track?.id ?? '', frame, [place, undefined, place]);
  }),
  fc.tuple(any, any, fc.constantFrom('stays', 'centre', 'frame', 'flies')).map(
    ([amount, smooth, how]): Change =>
      (p) =>
        setSteady(p, 'a', { track: 't', how: how as 'stays', amount, smooth, closer: amount }),
  ),
  fc.tuple(fc.constantFrom('a', null), fc.constantFrom('ellipse', 'polygon'), any, fc.array(any)).map(
    ([where, shape, n, values]): Change =>
      (p) =>
        looks.setLookRegion(p, where, looks.looksAt(p, where)[0]?.id ?? '', {
          ...{ shape: shape as 'ellipse', counts: 'clip', feather: n, grow: n, inverted: false },
          keys: [{ at: n, ease: 'even', values }],
          carried: { track: 't', from: n, turns: true },
        }),
  ),
  fc.tuple(fc.constantFrom('a', null), fc.oneof(words, fc.constant(null)), any, any).map(
    ([where, plate, frame, n]): Change =>
      (p) =>
        looks.setLookMatte(p, where, looks.looksAt(p, where)[0]?.id ?? '', {
          ...{ clip: plate, frame, threshold: n, softness: n, clean: n, feather: n, grow: n },
          inverted: true,
        }),
  ),
  fc.tuple(any, any).map(
    ([width, height]): Change =>
      (p) =>
        actions.setFormat(p, { rate: rational(25), size: { width, height } }),
  ),
  fc.tuple(words, any).map(
    ([name, lengthS]): Change =>
      (p) =>
        songs.setSong(p, {
          ...{
            mediaId: 's',
            name,
            lengthS,
            startFrame: 0,
            fromS: 0,
            gainDb: 0,
            accents: [],
            accentsGone: [],
          },
          ...{
            grid: evenGrid(108, 0, 60, NO_GRID),
            likely: 0.5,
            barsLikely: 0.7,
            second: evenGrid(72, 0, 60, NO_GRID),
          },
          envelopes: DEFAULT_ENVELOPES,
        }),
  ),
  fc.constant<Change>((p) => songs.takeSecond(p)),
  fc.tuple(words, any, any).map(([name, lengthS, n]): Change => {
    const own = { mediaId: 'horn', name, lengthS, fromS: n, backward: true };
    return (p) => sounds.placeSound(p, { id: id(), kind: 'own', own, frames: n }, n);
  }),
  any.map(
    (n): Change =>
      (p) =>
        songs.slideSong(p, n),
  ),
  any.map(
    (n): Change =>
      (p) =>
        songs.trimSong(p, n),
  ),
  any.map(
    (n): Change =>
      (p) =>
        songs.setSongGain(p, n),
  ),
  any.map(
    (riseMs): Change =>
      (p) =>
        songs.setEnvelope(p, 'low', { riseMs }),
  ),
  fc.constant(onSong(doubled)),
  fc.constant(onSong(halved)),
  any.map((n) => onSong((grid) => addedBeat(grid, n))),
  any.map((n) => onSong((grid) => barAt(grid, n))),
  any.map((n) => onSong((grid) => shiftedGrid(grid, n))),
  fc
    .tuple(any, any)
    .map(([bpm, at]) => onSong((grid) => evenGrid(Math.max(1, Math.abs(bpm) || 1), at || 0, 400, grid))),
  fc.integer({ min: 0, max: 200 }).map((row) =>
    onSong((grid) => {
      const read = readMarkers(marked(row), grid);
      return read.ok ? read.grid : grid;
    }),
  ),
  fc.tuple(any, any).map(
    ([at, frames]): Change =>
      (p) =>
        sounds.placeSound(p, { id: id(), kind: 'whoosh', frames }, at),
  ),
  any.map(
    (gainDb): Change =>
      (p) =>
        actions.setReadAt(sounds.setMade(p, 'thump', { gainDb }), 'c', rational(24)),
  ),
  fc.array(fc.integer({ min: 1, max: 500 }), { maxLength: 5 }).map(
    (cuts): Change =>
      (p) =>
        actions.setNotCuts(p, 'c', cuts),
  ),
);

/** As it is written, names without the blanks around them. */
const plain = (project: Project): unknown =>
  JSON.parse(
    JSON.stringify(project, (key, value: unknown) => (key === 'name' ? String(value).trim() : value)),
  );

it('every state that can be reached can be saved and opened again, as it was', () => {
  fc.assert(
    fc.property(fc.array(change, { minLength: 1, maxLength: 14 }), (changes) => {
      let project = begun;
      for (const one of changes) {
        // A slip that a pure function cannot carry out throws early and leaves the project as it was.
        try {
          project = keepable(one(project), project);
        } catch (error) {
          expect(error).toBeInstanceOf(RangeError);
        }
        const read = readProject(JSON.parse(JSON.stringify(project)));
        expect(read).toMatchObject({ ok: true, lost: undefined });
        if (read.ok) expect(plain(read.project)).toEqual(plain(project));
      }
    }),
    { numRuns: 300 },
  );
});

it('Double stops where beats would no longer be beats', () => {
  let grid = evenGrid(108, 0, 120, NO_GRID);
  for (let i = 0; i < 12; i++) grid = doubled(grid);
  expect(ProjectSchema.shape.song.safeParse(null).success).toBe(true);
  expect(grid.beats.length).toBeLessThanOrEqual(20_000);
});

describe('a damaged project', () => {
  const damaged = (spoil: (p: Record<string, never>) => void) => {
    const data = JSON.parse(JSON.stringify(begun)) as Record<string, never>;
    spoil(data);
    return readProject(data);
  };

  it('is read as far as it goes, and says what was left out', () => {
    const read = damaged((p) => {
      const data = p as unknown as {
        clips: { name: string; marks: unknown[] }[];
        pieces: { chain: unknown[] }[];
        size: unknown;
      };
      data.clips[0]!.name = 'x'.repeat(206);
      data.clips[0]!.marks = [
        { id: 'k', name: 'catch', frame: 12 },
        { id: 'l', frame: 'soon' },
      ];
      data.pieces[0]!.chain = [{ id: 's', move: 'speed', on: true, values: {} }, 7, null];
      data.size = { width: 1281, height: 99_999 };
    });
    expect(read).toMatchObject({
      ok: true,
      lost: 'Parts of this project are damaged and were left out: 2 moves, 1 mark.',
      project: {
        clips: [{ name: 'x'.repeat(200), marks: [{ name: 'catch' }] }],
        pieces: [{ chain: [{ move: 'speed' }] }],
        size: { height: 8192 },
      },
    });
  });

  it('opens whatever is wrong with any one part of it', () => {
    const spoilt = fc.constantFrom<unknown>(null, 7, 'x', [], {}, -1e300, true, [null], { beats: -1 });
    const keys = fc.constantFrom(
      'name',
      'createdAt',
      'rate',
      'size',
      'clips',
      'pieces',
      'song',
      'clipSound',
      'made',
      'placed',
    );
    fc.assert(
      fc.property(keys, spoilt, (key, value) => {
        const read = damaged((p) => void Object.assign(p, { [key]: value }));
        expect(read.ok).toBe(true);
        if (read.ok) expect(ProjectSchema.safeParse(read.project).success).toBe(true);
      }),
    );
  });
});
