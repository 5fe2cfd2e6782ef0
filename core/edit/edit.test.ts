import type { CurvePoint } from '../moves/curve';
import {
  addPoint,
  cluster,
  movePoints,
  pastePoints,
  removePoints,
  scalePoints,
  softenPoints,
} from './curve-edits';
import { followedView, heldView, shiftedView, zoomedView } from './view';
import { snap, snapLengthToSpeed, speedTargets } from './snap';

const p = (at: number, source: number): CurvePoint => ({ at, source, before: 0, after: 0 });
const row = [p(0, 0), p(20, 20), p(40, 10), p(60, 60)];
const at = (points: readonly CurvePoint[]) => points.map((q) => q.at);
const limits = { lowest: -50, highest: 100 };

describe('edits of a curve', () => {
  it('a new point goes in where it belongs; none before the beginning', () => {
    expect(at(addPoint(row, p(30, 0)).points)).toEqual([0, 20, 30, 40, 60]);
    expect(addPoint(row, p(30, 0)).chosen).toEqual([2]);
    expect(at(addPoint(row, p(90, 0)).points)).toEqual([0, 20, 40, 60, 90]);
    expect(addPoint(row, p(0, 5)).points).toBe(row);
  });

  it.each([
    ['freely', [1], 5, -3, [0, 25, 40, 60], 17],
    ['not past a neighbour', [1], 50, 0, [0, 39, 40, 60], 20],
    ['not before one', [2], -50, 0, [0, 20, 21, 60], 20],
    ['together', [1, 2], 30, 0, [0, 39, 59, 60], 20],
    ['the first never in time', [0, 1], 9, 0, [0, 20, 40, 60], 20],
    ['not off the clip', [1], 0, 500, [0, 20, 40, 60], 100],
    ['the last as far as wanted', [3], 100, 0, [0, 20, 40, 160], 20],
  ])('points move %s', (_, chosen, dx, dy, wantedAt, wantedSource) => {
    const { points } = movePoints(row, chosen, dx, dy, limits);
    expect(at(points)).toEqual(wantedAt);
    expect(points[1]!.source).toBe(wantedSource);
  });

  it('points stretch in time, and what follows goes along', () => {
    expect(at(scalePoints(row, [1, 2], 2).points)).toEqual([0, 20, 60, 80]);
    expect(at(scalePoints(row, [0, 1, 2], 0.5).points)).toEqual([0, 10, 20, 40]);
    expect(at(scalePoints(row, [0, 3], 0).points)).toEqual([0, 1, 2, 3]);
    const jump = [p(0, 0), p(10, 10), p(10, 50), p(20, 60)];
    expect(at(scalePoints(jump, [0, 3], 1.5).points)).toEqual([0, 15, 15, 30]);
  });

  it('an earlier point pasted later makes the picture go back there', () => {
    const { points, chosen } = pastePoints(row, [row[0]!], 50);
    expect(points.map((q) => [q.at, q.source])).toEqual([
      [0, 0],
      [20, 20],
      [40, 10],
      [50, 0],
      [60, 60],
    ]);
    expect(chosen).toEqual([3]);
    expect(at(pastePoints(row, row.slice(1, 3), 70).points)).toEqual([0, 20, 40, 60, 70, 90]);
    expect(at(pastePoints(row, row.slice(1, 3), 45).points)).toEqual([0, 20, 40, 45, 65]);
  });

  it('the ends cannot be taken away', () => {
    expect(at(removePoints(row, [0, 1, 3]).points)).toEqual([0, 40, 60]);
  });

  it('both sides of a turn shown once go together; a jump’s do not', () => {
    const turn = [p(0, 0), p(10, 10), p(10, 9), p(20, 0)];
    expect(cluster(turn, 1)).toEqual([1, 2]);
    expect(cluster([p(0, 0), p(10, 10), p(10, 50), p(20, 60)], 1)).toEqual([1]);
  });

  it('softness is whole frames, none below 0', () => {
    const { points } = softenPoints(row, [1, 2], { before: 4.4, after: -3 });
    expect(points.slice(1, 3).map((q) => [q.before, q.after])).toEqual([
      [4, 0],
      [4, 0],
    ]);
  });
});

describe('snapping', () => {
  const targets = [
    { value: 10, words: 'playhead' },
    { value: 12, words: 'mark strike' },
  ];
  it.each([
    [10.8, 10, 'playhead'],
    [11.2, 12, 'mark strike'],
    [14, 12, 'mark strike'],
    [15, 15, undefined],
  ])('%d goes to %d', (value, to, words) => {
    expect(snap(value, targets, 2)).toEqual({ value: to, words });
  });

  it('a length goes to the one that makes a round or the cleanest speed', () => {
    const speeds = speedTargets(25);
    expect(snapLengthToSpeed(30, 100, 58, speeds, 3)).toEqual({ value: 60, words: 'round speed' });
    expect(snapLengthToSpeed(30, 100, 119, speeds, 3)).toEqual({ value: 120, words: 'every frame once' });
    expect(snapLengthToSpeed(30, 100, 90, speeds, 3)).toEqual({ value: 90, words: undefined });
  });
});

describe('views of a strip of 100 frames', () => {
  const view = { from: 20, to: 60 };
  it.each([
    ['shifted', shiftedView(view, 15, 100), [35, 75]],
    ['shifted to its end', shiftedView(view, 99, 100), [60, 100]],
    ['shifted to its beginning', shiftedView(view, -99, 100), [0, 40]],
    ['zoomed in around a frame', zoomedView(view, 0.5, 30, 100), [25, 45]],
    ['zoomed out to all', zoomedView(view, 10, 30, 100), [0, 100]],
    ['zoomed in no closer than twelve frames', zoomedView(view, 0.001, 20, 100), [20, 32]],
    ['of a strip cut to 50', heldView(view, 50), [10, 50]],
    ['following inside', followedView(view, 59, 100, false), [20, 60]],
    ['following out of it', followedView(view, 60, 100, false), [56, 96]],
    ['following backward', followedView(view, 19, 100, true), [0, 40]],
  ])('%s', (_, { from, to }, wanted) => {
    expect([from, to]).toEqual(wanted);
  });
});
