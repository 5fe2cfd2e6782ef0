import fc from 'fast-check';
import { DEFAULT_ENVELOPES } from '../beats/envelope';
import { frameOn, musicFrom } from '../beats/music';
import type { FrameTable } from '../clip/frame-table';
import { moveById } from '../moves/registry';
import { pathLength } from '../path/path';
import * as actions from '../project/actions';
import { type CompiledPiece, compilePiece, projectMusic } from '../project/compile';
import { newPiece, newProject } from '../project/new-project';
import { duplicatePiece, splitPiece } from '../project/piece-actions';
import { readProject } from '../project/read-project';
import type { Project } from '../project/schema';
import { slideSong } from '../project/song-actions';
import { heldSegment, stretchSegment } from '../project/stretch';
import { takeRecipe } from '../recipe/take';
import { putRecipe } from '../recipe/put';
import { RecipeSchema } from '../recipe/recipe';
import { rational } from '../time/rational';

const table: FrameTable = { kind: 'constant', rate: rational(30), count: 400 };
const clip = {
  ...{ id: 'c', mediaId: 'm', name: 'boards.mp4', readAt: null, tracks: [] },
  ...{ marks: [{ id: 'k', name: 'catch', frame: 150 }], framing: 'fit' as const },
};
const song = {
  ...{ mediaId: 's', name: 'clicks.wav', lengthS: 40, startFrame: 0, fromS: 0, gainDb: 0 },
  grid: { beats: Array.from({ length: 60 }, (_, i) => 0.37 + i * 0.53), firstBar: 0, beatsPerBar: 4 },
  ...{ accents: [], accentsGone: [], likely: null, barsLikely: null, second: null },
  envelopes: DEFAULT_ENVELOPES,
};
let ids = 0;
const newId = () => `n${ids++}`;
const start = (): Project => ({
  ...actions.setSpan(
    actions.addPiece(
      actions.addClip({ ...newProject('p', 'Pier', 0), rate: rational(30) }, clip),
      newPiece('a', 'c', table),
    ),
    'a',
    { in: 60, out: 240 },
    400,
  ),
  song,
});
const compile = (p: Project, piece = p.pieces[0]!): CompiledPiece => {
  const music = projectMusic(p);
  return compilePiece(piece, p.clips[0]!, table, p.rate, music && musicFrom(music, 0));
};
const add = (p: Project, id: string, move: string, values: object): Project =>
  actions.addStep(p, 'a', { id, move, values: { ...moveById(move)!.defaults, ...values } });

const befores = fc.array(
  fc.oneof(
    fc.integer({ min: 50, max: 160 }).map((percent) => ['speed', { percent }] as const),
    fc.integer({ min: 1, max: 2 }).map((trips) => ['boomerang', { trips, turn: 'twice' }] as const),
    fc
      .tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 5, max: 20 }))
      .map(([at, length]) => ['hold', { at, length }] as const),
    fc.tuple(fc.integer({ min: 40, max: 250 }), fc.integer({ min: 40, max: 250 })).map(
      ([a, b]) =>
        [
          'ramp',
          {
            points: [
              { at: 0, percent: a },
              { at: 50, percent: b },
            ],
          },
        ] as const,
    ),
  ),
  { maxLength: 2 },
);

/** What a person may do later. */
type Edit = (p: Project) => Project;
const edits = fc.constantFrom<[string, Edit]>(
  ['span in', (p) => actions.setSpan(p, 'a', { in: 71, out: 240 }, 400)],
  ['span out', (p) => actions.setSpan(p, 'a', { in: 60, out: 260 }, 400)],
  ['the first move off', (p) => actions.switchStep(p, 'a', 'b0', false)],
  [
    'the first move away',
    (p) => (p.pieces[0]!.chain.length > 2 ? actions.removeStep(p, 'a', 'b0', compile(p).steps) : p),
  ],
  [
    'a move put before',
    (p) => {
      const id = newId();
      return actions.shiftStep(add(p, id, 'hold', { at: 3, length: 17 }), 'a', id, -50);
    },
  ],
  ['the song slid', (p) => slideSong(p, 9)],
  ['the mark moved', (p) => actions.moveMark(p, 'c', 'k', 163)],
);

describe('whatever is edited afterwards', () => {
  it('what is on a mark stays on it, what is on a beat on that, what is dragged as long as it was', () => {
    fc.assert(
      fc.property(
        befores,
        fc.array(edits, { minLength: 1, maxLength: 3 }),
        fc.integer({ min: 20, max: 60 }),
        (before, later, long) => {
          let p = start();
          before.forEach(([move, values], i) => (p = add(p, `b${i}`, move, values)));
          p = add(p, 'mark', 'hold', { at: { mark: 'k' }, length: 12 });
          p = add(p, 'beat', 'hold', { at: { beat: 2 }, length: 9 });
          // The hold on the mark is dragged longer.
          const worked = compile(p);
          const index = worked.path.segments.findIndex((s) => {
            const held = heldSegment(worked.path, worked.path.segments.indexOf(s));
            return held.makers.some((m) => m.step === 'mark' && m.part === 1);
          });
          // A beat that lies in a hold cuts it in two.
          fc.pre(heldSegment(worked.path, index).from >= 40);
          p = stretchSegment(p, worked, index, long, newId);
          expect(p.pieces[0]!.chain).toHaveLength(before.length + 2);
          for (const [, edit] of later) p = edit(p);

          const now = compile(p);
          const parts = (step: string) =>
            now.path.segments.flatMap((s, i) => {
              const { makers, from, to } = heldSegment(now.path, i);
              return makers.some((m) => m.step === step && m.part === 1)
                ? [{ from, to, instant: s.from }]
                : [];
            });
          // In the clip: at its frame, wherever that lies now.
          const mark = p.clips[0]!.marks[0]!.frame;
          const said = now.steps.find((s) => s.stepId === 'mark')!.notices;
          const onMark = parts('mark');
          if (said.length === 0)
            for (const { instant } of onMark) expect(Math.floor(instant * 30 + 1e-6)).toBe(mark);
          expect(onMark.reduce((sum, s) => sum + s.to - s.from, 0)).toBeCloseTo(long, 6);
          // In the music: on its beat.
          const music = projectMusic(p)!;
          const wanted = frameOn(music.beats[1]!, music);
          if (now.steps.find((s) => s.stepId === 'beat')!.notices.length === 0)
            expect(parts('beat')[0]!.from).toBeCloseTo(wanted, 6);
          // And all of it is kept, and opens again.
          const read = readProject(JSON.parse(JSON.stringify(p)));
          expect(read.ok && read.lost).toBeUndefined();
          expect(read.ok && [...compile(read.project).shown]).toEqual([...now.shown]);
        },
      ),
      { numRuns: 150 },
    );
  });

  it('a piece that is split, or its copy, plays what the whole did', () => {
    fc.assert(
      fc.property(befores, fc.integer({ min: 5, max: 120 }), (before, at) => {
        let p = start();
        before.forEach(([move, values], i) => (p = add(p, `b${i}`, move, values)));
        p = add(p, 'mark', 'hold', { at: { mark: 'k' }, length: 12 });
        const worked = compile(p);
        p = stretchSegment(p, worked, 0, Math.round(worked.path.segments[0]!.length * 1.5) + 1, newId, true);
        const whole = [...compile(p).shown];
        const halves = splitPiece(p, 'a', Math.min(at, whole.length - 1), whole.length, newId);
        expect(halves.pieces.flatMap((piece) => [...compile(halves, piece).shown])).toEqual(whole);
        const two = duplicatePiece(p, 'a', newId);
        expect([...compile(two, two.pieces[1]).shown]).toEqual(whole);
      }),
      { numRuns: 60 },
    );
  });

  it('a recipe carries places: frames of the clip and marks by name, beats, parts of its own moves', () => {
    fc.assert(
      fc.property(befores, (before) => {
        let p = start();
        before.forEach(([move, values], i) => (p = add(p, `b${i}`, move, values)));
        p = add(p, 'mark', 'hold', { at: { mark: 'k' }, length: 12 });
        p = add(p, 'beat', 'hold', { at: { beat: 2 }, length: 9 });
        const worked = compile(p);
        p = stretchSegment(p, worked, 0, Math.round(worked.path.segments[0]!.length) + 7, newId, true);
        const whole = compile(p);
        const recipe = RecipeSchema.parse(JSON.parse(JSON.stringify(takeRecipe(whole, p, 'Kept'))));
        const other = { ...clip.marks[0]!, id: 'other' };
        const put = putRecipe(recipe, {
          ...{ clipId: 'd', span: { in: 60, out: 240 }, table, tracks: [], picture: undefined },
          ...{ marks: [other], music: whole.music, path: whole.base, knows: () => true, newId },
        });
        const there: Project = {
          ...p,
          clips: [{ ...clip, marks: [other] }],
          pieces: [{ ...p.pieces[0]!, chain: [...put.chain] }],
        };
        expect([...compile(there).shown]).toEqual([...whole.shown]);
        expect(pathLength(compile(there).path)).toBeCloseTo(pathLength(whole.path), 6);
      }),
      { numRuns: 60 },
    );
  });
});
