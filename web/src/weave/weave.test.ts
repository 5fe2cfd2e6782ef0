import { MOVES } from '@skipback/core/moves/registry';
import { boomerang } from '@skipback/core/moves/boomerang';
import { rational } from '@skipback/core/time/rational';
import { compilePiece, compileProject } from '@skipback/core/project/compile';
import { newProject } from '@skipback/core/project/new-project';
import type { FrameTable } from '@skipback/core/clip/frame-table';
import { MADE_KINDS } from '@skipback/core/sound/made/kinds';
import { secondsText } from './draw-ruler';
import { outlineOf } from './lanes/draw-sounds';
import { soundsCalledFor } from './lanes/heard-sounds';
import { ease, frameUnder, ribbonAt, ribbonUnder, ribbonsOf } from './threads/ribbons';
import { pieceOf } from '@skipback/core/project/schema';
import { frameAtX } from './threads/strip-hands';
import { DRIVER_EXTRA, LOOK_LANE, laneBox, laneInSight, layoutFor, visibleRibbons } from './scene';
import { linearScale, tickStep } from './scales';
import {
  fitViews,
  resultViewOf,
  setResultView,
  setSourceView,
  sourceViewOf,
  useViews,
  zoomResult,
} from '../state/views';

const table: FrameTable = { kind: 'constant', rate: rational(30), count: 300 };
const project = {
  ...newProject('p', 'p', 0),
  clips: [{ id: 'c', mediaId: 'm', name: 'c', marks: [], readAt: null, tracks: [], framing: 'fit' as const }],
  pieces: ['a', 'b'].map((id) =>
    pieceOf({
      id,
      clipId: 'c',
      span: { in: 100, out: 160 },
      chain: [
        { id: `s${id}`, move: 'boomerang', on: true, values: { ...boomerang.defaults, turn: 'twice' } },
      ],
    }),
  ),
};
const ribbons = ribbonsOf(
  compileProject(project, (piece, clip) => compilePiece(piece, clip, table, project.rate)),
);

describe('ribbons', () => {
  it('are the segments in order, with their places', () => {
    expect(ribbons.map((r) => [r.pieceId, r.index, r.kind, r.resultFrom, r.resultTo])).toEqual([
      ['a', 0, 'forward', 0, 60],
      ['a', 1, 'backward', 60, 120],
      ['a', 2, 'forward', 120, 180],
      ['a', 3, 'backward', 180, 240],
      ['b', 0, 'forward', 240, 300],
      ['b', 1, 'backward', 300, 360],
      ['b', 2, 'forward', 360, 420],
      ['b', 3, 'backward', 420, 480],
    ]);
    expect(ribbons[1]!.sourceFrom).toBeCloseTo(160, 6);
    expect(ribbons[1]!.sourceAtResult(75)).toBeCloseTo(145, 6);
  });

  it.each([
    [0, 0],
    [59, 0],
    [60, 1],
    [479, 7],
  ])('at result frame %d is ribbon %d', (frame, index) => {
    expect(ribbonAt(ribbons, frame)).toBe(ribbons[index]);
  });

  it('in sight are found without looking at all', () => {
    expect(visibleRibbons(ribbons, 0, 480)).toBe(ribbons);
    expect(visibleRibbons(ribbons, 61, 121).map((r) => r.resultFrom)).toEqual([60, 120]);
    expect(visibleRibbons(ribbons, 500, 600)).toEqual([]);
  });

  it('under a point are the ones whose thread passes there, with the frame of the nearest thread', () => {
    const sourceX = linearScale(0, 300, 0, 1200);
    const resultX = linearScale(0, 480, 0, 1200);
    const bottom = ribbonUnder(ribbons, resultX(70), 1, sourceX, resultX)!;
    expect(bottom).toBe(ribbons[1]);
    expect(frameUnder(bottom, resultX(70.5), 1, sourceX, resultX)).toBe(70);
    // At the top a backward ribbon lies over its source: the frame shown there is from its end.
    expect(frameUnder(ribbons[1]!, sourceX(110), 0, sourceX, resultX)).toBeGreaterThan(105);
    expect(ribbonUnder(ribbons, 5, 0, sourceX, resultX)).toBeUndefined();
    expect([ease(0), ease(0.5), ease(1)].map((v) => Number(v.toFixed(3)))).toEqual([0, 0.5, 1]);
  });
});

describe('scales and rulers', () => {
  it('go there and back', () => {
    const scale = linearScale(100, 200, 16, 1016);
    expect(scale(150)).toBe(516);
    expect(scale.invert(scale(123))).toBeCloseTo(123, 9);
  });

  it.each([
    [0.1, 10],
    [1, 100],
    [2.4, 200],
    [0.01, 1],
  ])('%d frames a pixel are labelled every %d', (perPixel, step) => {
    expect(tickStep(perPixel, 80)).toBe(step);
  });

  it.each([
    [90, '3 s'],
    [95, '3 s 5 f'],
    [0, '0 s'],
  ])('frame %d reads %s', (frame, text) => {
    expect(secondsText(frame, 30)).toBe(text);
  });
});

describe('what is seen of the strips', () => {
  beforeEach(fitViews);

  it('is all of them at first, and again when fitted', () => {
    expect(resultViewOf(useViews.getState(), 480)).toEqual({ from: 0, to: 480 });
    setResultView({ from: 100, to: 200 }, 480);
    setSourceView('c', { from: 10, to: 60 }, 300);
    expect(sourceViewOf(useViews.getState(), 'c', 300)).toEqual({ from: 10, to: 60 });
    expect(sourceViewOf(useViews.getState(), 'other', 50)).toEqual({ from: 0, to: 50 });
    fitViews();
    expect(useViews.getState()).toMatchObject({ source: null, result: null });
  });

  it('zooms around a frame, and is whole again at its widest', () => {
    zoomResult(0.5, 120, 480);
    expect(resultViewOf(useViews.getState(), 480)).toEqual({ from: 60, to: 300 });
    zoomResult(4, 120, 480);
    expect(useViews.getState().result).toBeNull();
  });

  it('stays inside a result that became shorter', () => {
    setResultView({ from: 300, to: 400 }, 480);
    expect(resultViewOf(useViews.getState(), 350)).toEqual({ from: 250, to: 350 });
  });
});

describe('made sounds in their lane', () => {
  it.each(MADE_KINDS)('the outline of a %s stays in its box and is closed', (kind) => {
    const outline = outlineOf(kind, 100, 160, 3, 22);
    expect(outline).toMatch(/^M100\.0,22 L.* Z$/);
    const points = [...outline.matchAll(/(-?\d+(?:\.\d+)?),(-?\d+(?:\.\d+)?)/g)].map((m) => [
      Number(m[1]),
      Number(m[2]),
    ]);
    expect(points.length).toBeGreaterThan(3);
    for (const [x, y] of points) {
      expect(x).toBeGreaterThanOrEqual(100);
      expect(x).toBeLessThanOrEqual(160);
      expect(y).toBeGreaterThanOrEqual(3);
      expect(y).toBeLessThanOrEqual(22);
    }
    // Loud somewhere: nearly as high as the box.
    expect(Math.min(...points.map(([, y]) => y!))).toBeLessThan(10);
  });

  it('are where their piece is: the second boomerang’s swell lies after the first’s', () => {
    const compiled = compileProject(project, (piece, clip) => compilePiece(piece, clip, table, project.rate));
    const swells = soundsCalledFor(compiled, project).filter((s) => s.kind === 'swell');
    const perPiece = compiled.totalFrames / 2;
    expect(swells.length % 2).toBe(0);
    const half = swells.length / 2;
    for (let i = 0; i < half; i++) expect(swells[half + i]!.from - swells[i]!.from).toBeCloseTo(perPiece, 6);
  });

  it('lanes take their room from the bottom: sounds last, the song over them, the result over both', () => {
    const [none, song, both] = [
      layoutFor(1280, 320),
      layoutFor(1280, 320, { song: true, sounds: false, looks: 0, driver: -1, selected: -1 }),
      layoutFor(1280, 320, { song: true, sounds: true, looks: 2, driver: -1, selected: -1 }),
    ];
    expect(none.songTop).toBe(320);
    expect(song.soundsTop).toBe(320);
    expect(song.songTop).toBeLessThan(none.songTop);
    expect(both.soundsTop).toBeLessThan(320);
    expect(both.songTop - both.looksTop).toBe(26);
    // The one that shows a driver is higher; what does not fit is scrolled to, and the threads keep their room.
    const five = { song: true, sounds: true, looks: 5, driver: 1, selected: 1 };
    const driven = layoutFor(1280, 270, five);
    expect(driven.songTop - driven.looksTop + driven.mostScroll).toBe(5 * LOOK_LANE + DRIVER_EXTRA);
    expect(driven.resultTop - driven.sourceBottom).toBeGreaterThan(20);
    expect(driven.mostScroll).toBeGreaterThan(0);
    // Every lane has the height of its name, and the selected one is in sight, whichever it is.
    for (let selected = 0; selected < 5; selected++) {
      const layout = layoutFor(1280, 270, { ...five, selected });
      expect(laneBox(layout, selected).height).toBeGreaterThanOrEqual(12);
      expect(laneInSight(layout, selected)).toBe(true);
    }
    expect(laneInSight(layoutFor(1280, 270, five, 1e6), 4)).toBe(true);
    expect(laneInSight(layoutFor(1280, 270, five, 0), 0)).toBe(true);
    // In little room the song is whole all the same.
    const many = layoutFor(1100, 200, { ...five, looks: 6 });
    expect(many.soundsTop - many.songTop).toBe(driven.soundsTop - driven.songTop);
    expect(both.soundsTop - both.songTop).toBeGreaterThan(30);
    expect(both.resultBottom).toBeLessThan(song.resultBottom);
    expect(both.resultTop).toBeGreaterThan(both.sourceBottom);
  });
});

/** Clips as people bring them: rates from 23.976 to 120, and one whose frames last unevenly. */
const CLIPS: readonly FrameTable[] = [
  ...[
    rational(24_000, 1001),
    rational(25),
    rational(30_000, 1001),
    rational(30),
    rational(60),
    rational(120),
  ].map((rate): FrameTable => ({ kind: 'constant', rate, count: 300 })),
  {
    kind: 'variable',
    starts: Array.from({ length: 300 }, (_, i) => i / 30 + 0.009 * Math.sin(i * 1.7)),
    endS: 10,
  },
];

describe('what lies under the pointer', () => {
  const chains: readonly (readonly string[])[] = [
    ...MOVES.map((m) => [m.id]),
    ...MOVES.flatMap((a) => MOVES.map((b) => [a.id, b.id])),
  ];
  const turnsOnce = (id: string) => {
    const { defaults, fields } = MOVES.find((m) => m.id === id)!;
    return fields.some((f) => f.key === 'turn') ? { ...defaults, turn: 'once' } : { ...defaults };
  };

  it.each(CLIPS.map((clip, i) => [i, clip] as const))(
    'is a whole frame of the result, in every form, for every move and every pair of them: clip %i',
    (i, clip) => {
      for (const [n, moves] of chains.entries()) {
        // Every move on every clip; the pairs take turns.
        if (moves.length > 1 && n % CLIPS.length !== i) continue;
        const span = { in: 40 + (n % 50), out: 107 + ((n * 7) % 80) };
        const chain = moves.map((move, k) => ({ id: `s${k}`, move, on: true, values: turnsOnce(move) }));
        const alone = { ...project, pieces: [pieceOf({ id: 'a', clipId: 'c', span, chain })] };
        const made = compileProject(alone, (piece, c) => compilePiece(piece, c, clip, alone.rate));
        const x = linearScale(0, made.totalFrames, 16, 1264);
        const sourceX = linearScale(0, 300, 16, 1264);
        for (const ribbon of ribbonsOf(made).slice(0, 40))
          for (const at of [20, 333.3, 640, 1111]) {
            const frame = frameUnder(ribbon, at, 0.31, sourceX, x);
            if (!Number.isInteger(frame) || frame < 0 || frame >= made.totalFrames)
              throw new Error(`${moves.join(' + ')} of clip ${i}: frame ${frame} of ${made.totalFrames}`);
            expect(Number.isInteger(frameAtX(x, at, made.totalFrames))).toBe(true);
          }
        for (const { compiled } of made.pieces)
          for (const join of compiled.joins) expect(Number.isInteger(join.atFrame)).toBe(true);
      }
    },
  );
});
