import fc from 'fast-check';
import type { FrameTable } from '../clip/frame-table';
import { looksOfPiece } from '../looks/resolve';
import { LookSchema } from '../looks/look';
import { moveById } from '../moves/registry';
import { sampleInstants, sampleSpeeds } from '../path/path';
import { rational, toNumber } from '../time/rational';
import * as actions from './actions';
import { compilePiece } from './compile';
import { newPiece, newProject } from './new-project';
import type { Project } from './schema';

const table: FrameTable = { kind: 'constant', rate: rational(30), count: 300 };
const clip = {
  ...{ id: 'c', mediaId: 'm', name: 'boards.mp4', readAt: null, tracks: [] },
  ...{ marks: [{ id: 'k', name: 'catch', frame: 80 }], framing: 'fit' as const },
};
const at = (project: Project, hz: number) =>
  actions.setFormat(project, { rate: rational(hz), size: project.size });
const compiled = (project: Project) => compilePiece(project.pieces[0]!, clip, table, project.rate);

const steps = fc.oneof(
  fc
    .record({ at: fc.integer({ min: 0, max: 50 }), length: fc.integer({ min: 4, max: 30 }) })
    .map((values) => ['hold', values] as const),
  fc.record({ percent: fc.integer({ min: 40, max: 200 }) }).map((values) => ['speed', values] as const),
  fc.tuple(fc.integer({ min: 10, max: 50 }), fc.integer({ min: 30, max: 250 })).map(
    ([from, percent]) =>
      [
        'ramp',
        {
          points: [
            { at: 0, percent: 100 },
            { at: from, percent },
          ],
          before: 4,
          after: 4,
        },
      ] as const,
  ),
  fc.record({ length: fc.integer({ min: 20, max: 90 }) }).map((v) => ['fit', { ...v, by: 'speed' }] as const),
  fc.constant(['hold', { at: { mark: 'k' }, length: 12 }] as const),
);

it('at another rate everything is at the same instant, and as long', () => {
  fc.assert(
    fc.property(fc.array(steps, { maxLength: 3 }), fc.constantFrom(60, 120), (chain, hz) => {
      let project = actions.addPiece(
        actions.addClip({ ...newProject('p', 'Pier', 0), rate: rational(30) }, clip),
        newPiece('a', 'c', table),
      );
      project = actions.setSpan(project, 'a', { in: 40, out: 140 }, 300);
      let fastest = 1;
      chain.forEach(([move, values], i) => {
        project = actions.addStep(project, 'a', {
          ...{ id: `s${i}`, move },
          values: { ...moveById(move)!.defaults, ...values },
        });
        fastest = Math.max(fastest, ...sampleSpeeds(compiled(project).path).map(Math.abs));
      });
      const times = hz / 30;
      // What is held is the middle of a frame, at another rate that of a shorter one: less than a frame away.
      const near = Math.max(0.04, fastest / 30);
      const before = sampleInstants(compiled(project).path);
      const after = sampleInstants(compiled(at(project, hz)).path);
      expect(Math.abs(after.length - before.length * times)).toBeLessThanOrEqual(times);
      const off = Array.from(before, (t, i) => {
        // Between the two middles that lie around the middle of the frame before.
        const around = (after[i * times + times / 2 - 1]! + (after[i * times + times / 2] ?? t)) / 2;
        return Math.abs(around - t);
      });
      // Where something begins or ends a frame may lie on either side; elsewhere nothing moves.
      const moved = off.filter((o) => o > near).length;
      expect(moved).toBeLessThanOrEqual(2 + 8 * chain.length);
    }),
    { numRuns: 100 },
  );
});

it('looks of result frames, their keys and fades go along', () => {
  let project = actions.addPiece(
    actions.addClip({ ...newProject('p', 'Pier', 0), rate: rational(30) }, clip),
    newPiece('a', 'c', table),
  );
  project = {
    ...project,
    pieces: [
      {
        ...project.pieces[0]!,
        looks: [
          LookSchema.parse({
            ...{ id: 'l', look: 'flash' },
            strength: {
              kind: 'keys',
              counts: 'result',
              keys: [
                { at: 10, value: 0 },
                { at: 20, value: 100 },
              ],
            },
            scope: { all: [{ kind: 'range', from: 30, to: 36 }], fadeIn: 2, fadeOut: 0 },
          }),
        ],
      },
    ],
  };
  const strengths = (p: Project) => looksOfPiece(compiled(p), false).results[0]!;
  expect(strengths(project).stretches).toEqual([{ first: 30, end: 36 }]);
  const twice = at(project, 60);
  expect(strengths(twice).stretches).toEqual([{ first: 60, end: 72 }]);
  expect(twice.pieces[0]!.looks[0]!.scope.fadeIn).toBe(4);
  expect(toNumber(at(twice, 30).rate)).toBe(30);
  expect(at(twice, 30)).toEqual(project);
});
