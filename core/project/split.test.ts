import fc from 'fast-check';
import { DEFAULT_ENVELOPES } from '../beats/envelope';
import type { FrameTable } from '../clip/frame-table';
import { LookSchema } from '../looks/look';
import { recipesOf } from '../looks/recipes';
import { MOVES } from '../moves/registry';
import { rational } from '../time/rational';
import * as actions from './actions';
import { type CompiledProject, compilePiece, compileProject, projectMusic } from './compile';
import { musicFrom } from '../beats/music';
import { newProject } from './new-project';
import { splitPiece } from './piece-actions';
import { type Project, ProjectSchema, pieceOf } from './schema';

const RATE = rational(30);
const TABLE: FrameTable = { kind: 'constant', rate: RATE, count: 600 };
const BPM = 108;

/** A project of one piece under a song of 108 beats a minute. */
function begun(chain: readonly string[], looks: readonly object[] = []): Project {
  const empty = ProjectSchema.parse({
    ...newProject('p', 'p', 0),
    clips: [
      {
        ...{ id: 'c', mediaId: 'm', name: 'c', readAt: null, tracks: [], framing: 'fit' },
        marks: [{ id: 'm1', name: 'hit', frame: 90 }],
      },
    ],
    pieces: [pieceOf({ id: 'a', clipId: 'c', span: { in: 0, out: 240 }, chain: [] })],
    song: {
      ...{ mediaId: 's', name: 's', lengthS: 60, startFrame: 0, fromS: 0, gainDb: 0, likely: null },
      ...{ barsLikely: null, second: null, envelopes: DEFAULT_ENVELOPES },
      grid: {
        beats: Array.from({ length: 90 }, (_, i) => 0.1 + (i * 60) / BPM),
        ...{ firstBar: 0, beatsPerBar: 4, held: [] },
      },
      accents: Array.from({ length: 90 }, (_, i) => ({
        ...{ at: 0.1 + (i * 60) / BPM, band: i % 2 ? 'mid' : 'low', strength: 0.5 + (i % 3) / 4 },
      })),
    },
  });
  const dressed: Project = {
    ...empty,
    pieces: empty.pieces.map((p) => ({
      ...p,
      looks: looks.map((l, i) => LookSchema.parse({ id: `l${i}`, ...l })),
    })),
  };
  return chain.reduce((p, move, i) => actions.addStep(p, 'a', { id: `s${i}`, move }), dressed);
}

function compiled(project: Project): CompiledProject {
  const music = projectMusic(project);
  return compileProject(project, (piece, clip, at) =>
    compilePiece(piece, clip, TABLE, RATE, music && musicFrom(music, at)),
  );
}

/** What every frame of a project shows, and what is drawn on it. */
function seen(project: Project): string[] {
  const all = compiled(project);
  const { recipes } = recipesOf(all, project.looks, projectMusic(project));
  const shown = all.pieces.flatMap((p) => [...p.compiled.shown]);
  return shown.map((frame, i) =>
    JSON.stringify([frame, recipes.stacks[recipes.stackOf[i]!], recipes.gathers[recipes.gatherOf[i]!]]),
  );
}

let count = 0;
const newId = () => `n${count++}`;

function cut(project: Project, at: number): Project {
  let from = 0;
  for (const { compiled: c } of compiled(project).pieces) {
    if (at > from && at < from + c.shown.length)
      return splitPiece(project, c.piece.id, at - from, c.shown.length, newId);
    from += c.shown.length;
  }
  return project;
}

const LOOKS = [
  {
    look: 'punch',
    values: {
      zoom: {
        kind: 'keys',
        counts: 'result',
        keys: [
          { at: 0, value: 130, ease: 'even' },
          { at: 90, value: 100, ease: 'both' },
        ],
      },
    },
  },
  { look: 'blur', values: { length: { kind: 'progress', from: 31, to: 1, ease: 'even' } } },
  { look: 'flash', scope: { all: [{ kind: 'first', way: 'forward', frames: 6 }] } },
  {
    look: 'flash',
    scope: { all: [{ kind: 'beats', of: 'beats', every: 2, from: 1, before: 0, after: 4 }], fadeOut: 3 },
  },
  { look: 'shake', strength: { kind: 'pulse', on: 'low', rest: 0, depth: 100, rise: 0, hold: 1, fall: 5 } },
  { look: 'split', scope: { all: [{ kind: 'range', from: 40, to: 70 }], fadeIn: 5, fadeOut: 5 } },
  { look: 'flash', scope: { all: [{ kind: 'joins', before: 1, after: 2 }] } },
  { look: 'tint', scope: { all: [{ kind: 'mark', name: 'hit', before: 4, after: 9 }] } },
  { look: 'trail', scope: { all: [{ kind: 'way', way: 'forward' }] } },
  { look: 'smear' },
];

describe('a piece cut in two', () => {
  it.each(MOVES.map((m) => [m.id]))('plays as before, also where it listens to the song: %s', (move) => {
    for (const chain of [[move], [move, 'boomerang']]) {
      const whole = begun(chain);
      const before = seen(whole);
      for (const wanted of [1, 17, 58, 101, before.length - 1]) {
        const at = 1 + ((wanted - 1) % (before.length - 1));
        const halves = cut(whole, at);
        expect(halves.pieces).toHaveLength(2);
        expect(seen(halves)).toEqual(before);
      }
    }
  });

  it.each(LOOKS.map((l, i) => [`${i} ${l.look}`, l] as const))('looks as before: %s', (_, look) => {
    const whole = begun(['boomerang', 'surge'], [look]);
    const before = seen(whole);
    expect(new Set(before.map((s) => s.replace(/^\[\d+/, ''))).size).toBeGreaterThan(1);
    for (const at of [3, 58, 120]) expect(seen(cut(whole, at))).toEqual(before);
  });

  it('and cut again, anywhere, with any moves and looks, and looks of the whole result', () => {
    const name = fc.constantFrom(...MOVES.map((m) => m.id));
    fc.assert(
      fc.property(
        fc.array(name, { maxLength: 3 }),
        fc.subarray(LOOKS, { maxLength: 3 }),
        fc.array(fc.double({ min: 0.01, max: 0.99, noNaN: true }), { minLength: 1, maxLength: 4 }),
        (chain, looks, cuts) => {
          const own = begun(chain, looks);
          const whole = { ...own, looks: [LookSchema.parse({ id: 'w', ...LOOKS[6] })] };
          const before = seen(whole);
          const after = cuts.reduce((p, share) => cut(p, Math.round(share * before.length)), whole);
          expect(seen(after)).toEqual(before);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('what is added to a half works on that half, and its looks go on counting', () => {
    const whole = begun(['surge'], [LOOKS[1]!]);
    const halves = cut(whole, 58);
    const held = actions.addStep(halves, halves.pieces[1]!.id, {
      ...{ id: 'h', move: 'hold', values: { at: 10, length: 12 } },
    });
    const [before, after] = [seen(halves), seen(held)];
    expect(after).toHaveLength(before.length + 12);
    const frames = (list: readonly string[]) => list.map((s) => Number(/^\[(\d+)/.exec(s)![1]));
    expect(frames(after).slice(0, 69)).toEqual(frames(before).slice(0, 69));
    expect(frames(after).slice(80)).toEqual(frames(before).slice(68));
  });
});
