import { frame } from '../time/units';
import { NOTHING_BROUGHT } from '../looks/brought';
import type { FrameTable } from '../clip/frame-table';
import type { CompiledProject } from '../project/compile';
import { compilePiece } from '../project/compile';
import { type Piece, pieceOf } from '../project/schema';
import { rational } from '../time/rational';
import { writeFramesCsv, writeSegmentsCsv } from './csv';
import { writeEdl } from './edl';
import { cutEvents } from './events';
import { writeOtio } from './otio';
import { readEdl } from './read-edl';
import { readOtio } from './read-otio';
import { piecesFrom } from './to-pieces';

const rate = rational(25);
const table: FrameTable = { kind: 'constant', rate, count: 500 };
const clip = {
  id: 'c',
  mediaId: 'm',
  name: 'drummer, take "2".mp4',
  marks: [],
  readAt: null,
  tracks: [],
  framing: 'fit' as const,
};
const step = (move: string, values: object) => ({
  id: move,
  move,
  on: true,
  values: values as Record<string, unknown>,
});
const boomerang = { by: 'trips', trips: 1, length: 2, backPercent: 200, turn: 'twice', ends: 'home' };
const project = (...chain: Piece['chain']): CompiledProject => {
  const compiled = compilePiece(
    pieceOf({ id: 'p', clipId: 'c', span: { in: 100, out: 150 }, chain }),
    clip,
    table,
    rate,
  );
  return {
    pieces: [{ startFrame: frame(0), compiled }],
    missing: [],
    beyond: [],
    totalFrames: frame(compiled.shown.length),
    brought: NOTHING_BROUGHT,
  };
};
const patterned = project(step('hold', { at: 20, length: 10 }), step('boomerang', boomerang));

describe('EDL', () => {
  const { text, limits } = writeEdl(cutEvents(patterned), 'Pier', rate);

  it('writes events, reversals and holds', () => {
    expect(limits).toEqual([]);
    expect(text.split('\n').slice(0, 13)).toEqual([
      'TITLE: PIER',
      'FCM: NON-DROP FRAME',
      '',
      '001  DRUMMERT V     C        00:00:04:00 00:00:04:20 00:00:00:00 00:00:00:20',
      '* FROM CLIP NAME: drummer, take "2".mp4',
      '002  DRUMMERT V     C        00:00:04:20 00:00:04:21 00:00:00:20 00:00:01:05',
      'M2   DRUMMERT       000.0                00:00:04:20',
      '* FROM CLIP NAME: drummer, take "2".mp4',
      '003  DRUMMERT V     C        00:00:04:20 00:00:06:00 00:00:01:05 00:00:02:10',
      '* FROM CLIP NAME: drummer, take "2".mp4',
      '004  DRUMMERT V     C        00:00:04:20 00:00:06:00 00:00:02:10 00:00:03:00',
      'M2   DRUMMERT      -050.0                00:00:05:24',
      '* FROM CLIP NAME: drummer, take "2".mp4',
    ]);
  });

  it('reads back what it wrote', () => {
    const read = readEdl(text, rate);
    expect(read.ok && read.events.map((e) => [e.clipName, e.frames, e.speed])).toEqual([
      [clip.name, 20, 1],
      [clip.name, 10, 0],
      [clip.name, 30, 1],
      [clip.name, 15, -2],
      [clip.name, 5, 0],
      [clip.name, 10, -2],
    ]);
  });

  it('says what it cannot carry', () => {
    const ramped = project(
      step('ramp', {
        points: [
          { at: 0, percent: 100 },
          { at: 25, percent: 130 },
        ],
        before: 4,
        after: 4,
        soft: 'none',
      }),
    );
    expect(writeEdl(cutEvents(ramped), 'Pier', rate).limits.join(' ')).toMatch(
      /1 ramp is written at its mean speed.*rounded/,
    );
  });

  it.each([
    ['nothing here', /no picture event/],
    ['001  AX V C 00:00:00:00 00:00:01:26 00:00:00:00 00:00:01:00', /Line 1 has a timecode/],
  ])('a bad list gets its sentence', (bad, words) => {
    const read = readEdl(bad, rate);
    expect(!read.ok && read.sentence).toMatch(words);
  });
});

describe('OpenTimelineIO', () => {
  it('reads back what it wrote, with time warps and freeze frames', () => {
    const { text } = writeOtio(cutEvents(patterned), 'Pier', rate);
    expect(text).toContain('LinearTimeWarp.1');
    expect(text).toContain('FreezeFrame.1');
    const read = readOtio(text, rate);
    const events = cutEvents(patterned);
    if (!read.ok) throw new Error(read.sentence);
    read.events.forEach((e, i) => {
      expect(e.inS).toBeCloseTo(Math.min(events[i]!.fromS, events[i]!.toS), 9);
      expect(e.outS).toBeCloseTo(Math.max(events[i]!.fromS, events[i]!.toS), 9);
      expect(e.frames).toBe(events[i]!.recordOut - events[i]!.recordIn);
    });
  });

  it.each(['{', '{}', '{"OTIO_SCHEMA":"Timeline.1","tracks":{"children":[]}}'])(
    '%s gets a sentence',
    (bad) => {
      expect(readOtio(bad, rate).ok).toBe(false);
    },
  );
});

it('a list read back as pieces plays as long and in the same order', () => {
  const read = readEdl(writeEdl(cutEvents(patterned), 'Pier', rate).text, rate);
  if (!read.ok) throw new Error(read.sentence);
  let n = 0;
  const { pieces, missing } = piecesFrom(read.events, [{ clip, table }], () => String(n++), rate);
  expect(missing).toEqual([]);
  const lengths = pieces.map((p) => compilePiece(p, clip, table, rate).shown.length);
  expect(lengths).toEqual([20, 10, 30, 15, 5, 10]);
  const back = compilePiece(pieces[3]!, clip, table, rate);
  expect([back.shown[0], back.shown.at(-1)]).toEqual([149, 121]);
  expect(
    piecesFrom(
      [{ clipName: 'other.mov', inS: 0, outS: 1, frames: 25, speed: 1 }],
      [{ clip, table }],
      () => 'x',
      rate,
    ).missing,
  ).toEqual(['other.mov']);
});

it('CSV quotes what needs it and has a row a segment, or a row a frame', () => {
  const segments = writeSegmentsCsv(cutEvents(patterned), rate).text.trim().split('\r\n');
  expect(segments).toHaveLength(7);
  expect(segments[1]).toContain('"drummer, take ""2"".mp4",forward,00:00:00:00,00:00:00:20,20,4,4.8,');
  const frames = writeFramesCsv(patterned, rate).text.trim().split('\r\n');
  expect(frames).toHaveLength(91);
  expect(frames[1]).toContain(',100,4.02');
});
