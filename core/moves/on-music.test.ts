import { DEFAULT_ENVELOPES } from '../beats/envelope';
import { type Music, frameAfter, frameOfBeat, musicFrom, frameOn } from '../beats/music';
import type { FrameTable } from '../clip/frame-table';
import { pathFrames, sampleFrames, sampleInstants, spanPath, staysInside } from '../path/path';
import { newProject } from '../project/new-project';
import { compilePiece, compileProject, projectMusic } from '../project/compile';
import { type Piece, type Project, pieceOf } from '../project/schema';
import { slideSong } from '../project/song-actions';
import { rational } from '../time/rational';
import { beatsText, parseBeats } from '../places/beats-text';
import { bounce } from './bounce';
import { land } from './land';
import { push } from './push';
import { applyChain } from './chain';
import { moveById } from './registry';
import { surge } from './surge';

const rate = rational(30);
const table: FrameTable = { kind: 'constant', rate: rational(60), count: 600 };
/** 108 beats a minute: one each 16.67 frames, from frame 5 on; kicks on every beat, strong ones on bars. */
const music: Music = {
  beats: Array.from({ length: 40 }, (_, i) => 5 + (i * 50) / 3),
  firstBar: 0,
  beatsPerBar: 4,
  accents: Array.from({ length: 40 }, (_, i) => ({
    at: 5 + (i * 50) / 3,
    band: 'low' as const,
    strength: i % 4 === 0 ? 1 : 0.3,
  })),
  envelopes: DEFAULT_ENVELOPES,
};
const context = { table, music };
const span = (from: number, to: number) => spanPath(table, from, to, rate);
/** Source frames passed at each result frame. */
const steps = (path: ReturnType<typeof span>) => {
  const at = sampleInstants(path);
  return Array.from(at.subarray(1), (t, i) => (t - at[i]!) * 60);
};

describe('beats as frames', () => {
  it('are counted from the first at or after frame 0, with fractions, and carried on', () => {
    expect(frameOfBeat(music, 0)).toBe(5);
    expect(frameOfBeat(music, 1.5)).toBeCloseTo(30, 9);
    expect(frameOfBeat(music, 60)).toBeCloseTo(1005, 6);
    expect(frameOfBeat(musicFrom(music, 10), 0)).toBeCloseTo(35 / 3, 9);
    expect(frameOfBeat(musicFrom(music, 5 + 1 / 3), 0)).toBeCloseTo(-1 / 3, 9);
  });

  it('a length ends at the same place of a beat as it began', () => {
    expect(frameAfter(music, 4)).toBeCloseTo(200 / 3, 6);
    expect(frameAfter(musicFrom(music, 5), 4)).toBeCloseTo(200 / 3, 6);
    // A third of a frame off the beat, it ends on the beat and not a third off.
    expect(frameAfter(musicFrom(music, 5 + 1 / 3), 4)).toBeCloseTo(199 / 3, 6);
  });

  it.each([
    ['2 b', 2, '2 beats'],
    ['1 beat', 1, '1 beat'],
    ['1/4 b', 0.25, '0.25 beats'],
    ['2 bars', 8, '8 beats'],
  ])('%s is typed', (typed, beats, text) => {
    expect(parseBeats(typed, 4)).toEqual({ beats });
    expect(beatsText({ beats })).toBe(text);
  });

  it('stand for frames in any move, and follow the grid', () => {
    const chain = [
      {
        id: 'f',
        move: 'fit',
        on: true,
        values: { ...moveById('fit')!.defaults, length: { beats: 8 }, by: 'repeats' },
      },
    ];
    expect(pathFrames(applyChain(span(0, 60), chain, context).path)).toBe(133);
    const slower = { ...music, beats: music.beats.map((b) => b * 1.2) };
    expect(pathFrames(applyChain(span(0, 60), chain, { table, music: slower }).path)).toBe(160);
    const { steps: said, path } = applyChain(span(0, 60), chain, { table });
    expect(said[0]!.notices[0]!.code).toBe('no-beats');
    expect(pathFrames(path)).toBe(30);
  });
});

describe('Surge', () => {
  it('is fastest on the beat, and crawls between', () => {
    const { path } = surge.apply(
      span(0, 300),
      { ...surge.defaults, rest: 50, peak: 400, rise: 2, fall: 6 },
      context,
    );
    const pace = steps(path);
    for (const beat of [5, 21, 38]) {
      const around = pace.slice(beat - 2, beat + 3);
      expect(Math.max(...around)).toBeGreaterThan(5);
      expect(pace[beat - 5]).toBeCloseTo(1, 0);
    }
    expect(staysInside(path, table)).toBe(true);
  });

  it('on every second beat has half as many bursts', () => {
    const count = (which: 'every' | 'second') => {
      const { path } = surge.apply(span(0, 400), { ...surge.defaults, peak: 600, which }, context);
      return (
        steps(path).filter((v, i, all) => v > 5 && v >= (all[i - 1] ?? 0) && v > (all[i + 1] ?? 0)).length /
        pathFrames(path)
      );
    };
    expect(count('every') / count('second')).toBeGreaterThan(1.4);
  });

  it('without beats says so and changes nothing', () => {
    const before = span(0, 60);
    const { path, notices } = surge.apply(before, surge.defaults, { table });
    expect(path).toBe(before);
    expect(notices[0]!.wayOut).toContain('Beats');
  });
});

describe('Push', () => {
  const values = { ...push.defaults, least: 60, amount: 500, fall: 4 };
  it('shoves on strong accents only, and carries on', () => {
    const { path, notices } = push.apply(span(0, 400), values, context);
    expect(notices[0]!.text).toBe('3 accents push.');
    const pace = steps(path);
    expect(Math.max(...pace.slice(4, 9))).toBeGreaterThan(6);
    expect(Math.max(...pace.slice(12, 60))).toBeLessThan(2.2);
    expect(pathFrames(path)).toBeLessThan(200);
  });

  it('or comes back to where it would have been', () => {
    const base = span(0, 400);
    const { path } = push.apply(base, { ...values, then: 'returns' }, context);
    expect(pathFrames(path)).toBe(pathFrames(base));
    const [pushed, even] = [sampleFrames(path, table), sampleFrames(base, table)];
    expect(pushed[6]! - even[6]!).toBeGreaterThan(8);
    expect([...pushed.slice(13, 60)]).toEqual([...even.slice(13, 60)]);
  });
});

describe('Land', () => {
  it.each([
    [100, 100, 300, 3],
    [50, 400, 300, 3],
    [240, 30, 250, 0],
    [100, 25, 200, 5],
    [100, 3000, 210, 2],
    [3000, 3000, 599, 4],
  ])('at %d %% before and %d %% after, frame %d falls exactly on beat %d', (before, after, mark, beat) => {
    const { path } = land.apply(span(200, 400), { ...land.defaults, mark, beat, before, after }, context);
    const lands = frameOn(frameOfBeat(music, beat), music);
    expect(sampleFrames(path, table)[lands]).toBe(mark);
    expect(sampleFrames(path, table)[lands - 1]).toBeLessThanOrEqual(mark);
    expect(staysInside(path, table)).toBe(true);
  });

  it('lines up two frames on two beats, and says the speed between', () => {
    const values = {
      ...land.defaults,
      marks: 'two' as const,
      mark: 250,
      beat: 1,
      mark2: 300,
      beat2: 4,
      after: 200,
    };
    const { path, notices } = land.apply(span(200, 400), values, context);
    const shown = sampleFrames(path, table);
    expect(shown[frameOn(frameOfBeat(music, 1), music)]).toBe(250);
    expect(shown[frameOn(frameOfBeat(music, 4), music)]).toBe(300);
    expect(notices[0]!.text).toBe('Between them it runs at 50 %.');
    expect(land.apply(span(200, 400), { ...values, beat2: 1 }, context).notices[0]!.code).toBe('same-beat');
  });

  it('lands a frame near the end of the clip before its very first, and stays inside', () => {
    const values = { ...land.defaults, marks: 'two' as const, mark: 599, beat: 2, mark2: 0, beat2: 3 };
    for (const after of [5, 100, 3000]) {
      const { path } = land.apply(span(200, 400), { ...values, after }, context);
      const shown = sampleFrames(path, table);
      expect(shown[Math.floor(frameOfBeat(music, 2))]).toBe(599);
      expect(shown[Math.floor(frameOfBeat(music, 3))]).toBe(0);
      expect(staysInside(path, table)).toBe(true);
    }
  });

  it('says by how much the run-up is short, and what would fit', () => {
    const { path, notices } = land.apply(
      span(0, 100),
      { ...land.defaults, mark: 20, beat: 3, before: 100, after: 100 },
      context,
    );
    expect(sampleFrames(path, table)[55]).toBe(20);
    expect(notices[0]).toMatchObject({
      code: 'ran-out',
      text: expect.stringContaining('45 short') as string,
    });
  });
});

describe('Push in the shape that Beats gives', () => {
  const low = { riseMs: 200, holdMs: 100, fallMs: 400, leastPercent: 60 };
  const shaped = { table, music: { ...music, envelopes: { ...music.envelopes, low } } };
  const values = { ...push.defaults, shape: 'envelope' as const, least: 100, amount: 500 };
  const base = span(0, 400);

  it('rises up to the accent, holds and falls; the envelope says which accents count', () => {
    const { path, notices } = push.apply(base, values, shaped);
    expect(notices[0]!.text).toBe('2 accents push.');
    const speeds = steps(path).map((s) => s / 2);
    // The second strong accent is at frame 71.67: six frames up, three at the top, twelve down.
    expect(speeds[60]!).toBeCloseTo(1, 1);
    expect(speeds[68]!).toBeGreaterThan(speeds[66]!);
    expect(Math.max(...speeds.slice(70, 76))).toBeCloseTo(5, 0);
    expect(speeds[73]!).toBeGreaterThan(4.4);
    expect(speeds[80]!).toBeLessThan(speeds[76]!);
    expect(speeds[90]!).toBeCloseTo(1, 1);
  });

  it('that returns is out when the accent sounds, stays there while it holds, and ends where it would have', () => {
    const { path } = push.apply(base, { ...values, then: 'returns' }, shaped);
    expect(pathFrames(path)).toBe(200);
    const off = Array.from(sampleFrames(path, table), (n, i) => n - sampleFrames(base, table)[i]!);
    const most = Math.max(...off.slice(60, 95));
    expect(off[72]!).toBeGreaterThan(most - 3);
    expect(off[64]).toBe(0);
    expect(off[95]).toBe(0);
    expect(staysInside(path, table)).toBe(true);
  });

  it('two that overlap never run time backward, nor off the clip', () => {
    const crowded = {
      ...shaped.music,
      accents: Array.from({ length: 60 }, (_, i) => ({ at: i * 3, band: 'low' as const, strength: 1 })),
    };
    for (const then of ['carries', 'returns'] as const) {
      const { path } = push.apply(base, { ...values, then }, { table, music: crowded });
      expect(staysInside(path, table)).toBe(true);
      if (then === 'carries') expect(Math.min(...steps(path))).toBeGreaterThan(0);
    }
  });
});

it('Bounce turns on the beats', () => {
  const { path } = bounce.apply(
    span(0, 100),
    { instants: [0, 60, 20, 80], leg: 9, soft: 0, on: 'every', least: 40 },
    context,
  );
  // On each of its turns the frame it goes to is shown; the last one ends it.
  const shown = sampleFrames(path, table);
  expect([0, 5, 22, 37].map((i) => shown[i])).toEqual([0, 60, 20, 80]);
  expect(shown).toHaveLength(38);
});

it('when the song slides, pieces that listen follow it, each from its own place', () => {
  const piece = (id: string, chain: Piece['chain']): Piece =>
    pieceOf({ id, clipId: 'c', span: { in: 200, out: 320 }, chain });
  const step = { id: 's', move: 'land', on: true, values: { ...land.defaults, mark: 250, beat: 1 } };
  const project: Project = {
    ...newProject('p', 'p', 0),
    clips: [{ id: 'c', mediaId: 'm', name: 'c', marks: [], readAt: null, tracks: [], framing: 'fit' }],
    pieces: [piece('a', []), piece('b', [step])],
    song: {
      mediaId: 's',
      name: 's',
      lengthS: 60,
      startFrame: 0,
      fromS: 0,
      gainDb: 0,
      grid: { beats: Array.from({ length: 100 }, (_, i) => i * 0.5), firstBar: 0, beatsPerBar: 4 },
      accents: [],
      accentsGone: [],
      likely: null,
      barsLikely: null,
      second: null,
      envelopes: DEFAULT_ENVELOPES,
    },
  };
  const shownOn = (p: Project, songS: number) => {
    const all = projectMusic(p)!;
    const { pieces } = compileProject(p, (q, clip, start) =>
      compilePiece(q, clip, table, p.rate, musicFrom(all, start)),
    );
    const at = pieces[1]!;
    return at.compiled.shown[Math.floor(songS * 30 + p.song!.startFrame + 1e-6) - at.startFrame];
  };
  // The second piece begins at frame 60, on the song's beat at 2 s; beat 1 of it is at 2.5 s.
  expect(shownOn(project, 2.5)).toBe(250);
  // Slid by seven frames, its first beat is the one at 2 s, now at frame 67; beat 1 stays the one at 2.5 s.
  expect(shownOn(slideSong(project, 7), 2.5)).toBe(250);
});

it('a Pattern of half beats stays on the beats, and swings when asked', () => {
  const steps = Array.from({ length: 16 }, (_, i) => ({ slice: 1 + (i % 4), way: 'forward' as const }));
  const played = (swing: number) =>
    applyChain(
      span(0, 200),
      [{ id: 'p', move: 'pattern', on: true, values: { slices: 4, length: { beats: 0.5 }, swing, steps } }],
      { table, music: musicFrom(music, 5) },
    ).path.segments.map((s) => s.length);
  const ends = played(0).reduce<number[]>((all, n) => [...all, (all[all.length - 1] ?? 0) + n], []);
  expect(ends.filter((_, i) => i % 2 === 1)).toEqual([17, 33, 50, 67, 83, 100, 117, 133]);
  expect(played(50).slice(0, 4)).toEqual([13, 4, 12, 4]);
});
