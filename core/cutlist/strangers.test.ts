import { frame } from '../time/units';
import fc from 'fast-check';
import type { FrameTable } from '../clip/frame-table';
import { NOTHING_BROUGHT } from '../looks/brought';
import { type CompiledProject, compilePiece } from '../project/compile';
import { ClipSchema, pieceOf } from '../project/schema';
import { rational } from '../time/rational';
import { writeEdl } from './edl';
import { cutEvents } from './events';
import { writeOtio } from './otio';
import { readEdl } from './read-edl';
import { readOtio } from './read-otio';
import { reelsOf } from './reels';
import { piecesFrom } from './to-pieces';

const RATE = rational(25);
const table: FrameTable = { kind: 'constant', rate: RATE, count: 500 };
const known = (...names: string[]) =>
  names.map((name, i) => ({
    clip: ClipSchema.parse({ id: `c${i}`, mediaId: `m${i}`, name, readAt: null, marks: [] }),
    table,
  }));
let ids = 0;
const newId = () => `n${++ids}`;
const event = (n: number, reel: string, source: string, record: string, how = 'C   ') =>
  `${String(n).padStart(3, '0')}  ${reel.padEnd(8)} V     ${how}     ${source} ${record}`;

describe('EDLs of others', () => {
  const spans = (text: string, ...names: string[]) => {
    const read = readEdl(text, RATE);
    if (!read.ok) throw new Error(read.sentence);
    const made = piecesFrom(read.events, known(...names), newId, RATE);
    return {
      ...made,
      said: [...made.said, ...read.said],
      spans: made.pieces.map((p) => [p.clipId, p.span.in, p.span.out]),
    };
  };

  test('a source counted from one o’clock begins at the clip’s first frame, which is said', () => {
    const { spans: read, said } = spans(
      event(1, 'TRAM', '01:00:02:00 01:00:03:00', '00:00:00:00 00:00:01:00'),
      'tram.mp4',
    );
    expect(read).toEqual([['c0', 50, 75]]);
    expect(said).toEqual(['The list counts tram.mp4 from 01:00:00:00; that is taken as its first frame.']);
  });

  test('what lies beyond a clip is left out or cut short, and said', () => {
    const { spans: read, said } = spans(
      [
        event(1, 'TRAM', '00:00:02:00 00:00:03:00', '00:00:00:00 00:00:01:00'),
        event(2, 'TRAM', '00:00:30:00 00:00:31:00', '00:00:01:00 00:00:02:00'),
        event(3, 'TRAM', '00:00:19:00 00:00:21:00', '00:00:02:00 00:00:04:00'),
      ].join('\n'),
      'tram.mp4',
    );
    expect(read).toEqual([
      ['c0', 50, 75],
      ['c0', 475, 500],
    ]);
    expect(said).toEqual([
      '1 event of tram.mp4 lies beyond its end and is left out.',
      '1 event reads past the end of its clip and is shorter.',
    ]);
  });

  test('numbers are dropped as the list says, not as the rate would have it', () => {
    const ntsc = rational(30000, 1001);
    const line = event(1, 'TRAM', '00:01:00:02 00:01:01:02', '00:00:00:00 00:00:01:00');
    const inS = (fcm: string) => {
      const read = readEdl(`FCM: ${fcm}\n${line}`, ntsc);
      return read.ok ? Math.round((read.events[0]!.inS * 30000) / 1001) : -1;
    };
    expect(inS('NON-DROP FRAME')).toBe(1802);
    expect(inS('DROP FRAME')).toBe(1800);
    const pal = readEdl(`FCM: DROP FRAME\n${line}`, RATE);
    expect(pal.ok && pal.said.join(' ')).toMatch(/drop-frame timecode/);
  });

  test('names of any script are found, and a reel only where one clip alone begins with it', () => {
    const line = event(1, 'AX', '00:00:01:00 00:00:02:00', '00:00:00:00 00:00:01:00');
    expect(spans(`${line}\n* FROM CLIP NAME: 提灯.mov`, '太鼓.mp4', '提灯.mp4').spans).toEqual([
      ['c1', 25, 50],
    ]);
    const reel = event(1, 'LANTERN', '00:00:01:00 00:00:02:00', '00:00:00:00 00:00:01:00');
    expect(spans(reel, 'tea.mp4', 'lantern night.mp4').spans[0]![0]).toBe('c1');
    expect(spans(reel, 'lantern one.mp4', 'lantern two.mp4').missing).toEqual(['LANTERN']);
    expect(
      spans(`${reel}\n* SOURCE FILE: lantern two.mp4`, 'lantern one.mp4', 'lantern two.mp4').spans[0]![0],
    ).toBe('c1');
  });

  test('sound, black, wipes and gaps are counted', () => {
    const { pieces, said } = spans(
      [
        event(1, 'BL', '00:00:00:00 00:00:01:00', '00:00:00:00 00:00:01:00'),
        event(2, 'TRAM', '00:00:00:00 00:00:01:00', '00:00:01:00 00:00:02:00'),
        '003  TRAM     A     C        00:00:00:00 00:00:01:00 00:00:01:00 00:00:02:00',
        event(4, 'TRAM', '00:00:02:00 00:00:03:00', '00:00:04:00 00:00:05:00', 'W001 025'),
      ].join('\n'),
      'tram.mp4',
    );
    expect(pieces).toHaveLength(2);
    expect(said).toEqual([
      '1 sound event is left out.',
      '1 stretch of black is left out.',
      '1 gap is closed: pieces follow each other.',
      '1 wipe or key is read as a cut.',
    ]);
  });
});

describe('timelines of others', () => {
  const time = (value: number, rate = 24) => ({ OTIO_SCHEMA: 'RationalTime.1', value, rate });
  const range = (start: number, duration: number) => ({
    OTIO_SCHEMA: 'TimeRange.1',
    start_time: time(start),
    duration: time(duration),
  });
  const timeline = (children: object[], more: object[] = []) =>
    JSON.stringify({
      OTIO_SCHEMA: 'Timeline.1',
      tracks: {
        OTIO_SCHEMA: 'Stack.1',
        children: [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', children }, ...more],
      },
    });
  const clip = (given: object) => ({ OTIO_SCHEMA: 'Clip.2', name: 'tram', effects: null, ...given });
  const read = (text: string, rate = rational(30)) => {
    const list = readOtio(text, rate);
    if (!list.ok) throw new Error(list.sentence);
    return list;
  };

  test('48 frames at 24 are 60 at 30', () => {
    expect(read(timeline([clip({ source_range: range(24, 48) })])).events[0]).toMatchObject({
      inS: 1,
      outS: 3,
      frames: 60,
    });
  });

  test('media that begin at their own time are counted from there, in either version', () => {
    const media = {
      OTIO_SCHEMA: 'ExternalReference.1',
      available_range: range(86400, 480),
      target_url: 'file:///a/the%20tram.mp4',
    };
    for (const given of [
      { media_references: { DEFAULT_MEDIA: media }, active_media_reference_key: 'DEFAULT_MEDIA' },
      { media_reference: media },
    ])
      expect(read(timeline([clip({ ...given, source_range: range(86448, 24) })])).events[0]).toMatchObject({
        inS: 2,
        outS: 3,
        fileName: 'the tram.mp4',
      });
  });

  test('a clip without a range is the whole of it', () => {
    const { events } = read(timeline([clip({ source_range: null })]));
    const { pieces } = piecesFrom(events, known('tram.mp4'), newId, RATE);
    expect(pieces.map((p) => p.span)).toEqual([{ in: 0, out: 500 }]);
  });

  test('gaps, nested timelines, clips switched off and other tracks are counted', () => {
    const { said, events } = read(
      timeline(
        [
          clip({ source_range: range(0, 24) }),
          { OTIO_SCHEMA: 'Gap.1', source_range: range(0, 24) },
          { OTIO_SCHEMA: 'Stack.1', children: [] },
          clip({ source_range: range(0, 24), enabled: false }),
        ],
        [{ OTIO_SCHEMA: 'Track.1', kind: 'Video', children: [] }],
      ),
    );
    expect(events).toHaveLength(1);
    expect(said).toHaveLength(4);
  });

  test.each([
    ['no JSON', '{"OTIO', /not JSON/],
    ['another schema', '{"OTIO_SCHEMA":"Clip.2"}', /no timeline/],
    ['a key of the language', '{"OTIO_SCHEMA":"Timeline.1","__proto__":{"a":1}}', /__proto__/],
  ])('%s is refused with a sentence', (_, text, sentence) => {
    const list = readOtio(text, RATE);
    expect(!list.ok && list.sentence).toMatch(sentence);
  });
});

describe('reels', () => {
  test('no two clips share one, and none means something else', () => {
    const names = [
      'lantern thrown.mp4',
      'lantern thrown again.mp4',
      'BL.mp4',
      'ax.mov',
      '提灯.mp4',
      '太鼓.mp4',
      'Müller.mp4',
    ];
    const reels = [...reelsOf(names).values()];
    expect(new Set(reels).size).toBe(names.length);
    expect(reels).toEqual(['LANTERNT', 'LANTERN1', 'BL1', 'AX1', 'CLIP1', 'CLIP2', 'MULLER']);
  });
});

test('a speed beyond what M2 holds is written as the most, and said', () => {
  const [{ clip, table: clipTable }] = known('tram.mp4') as [ReturnType<typeof known>[0]];
  const piece = pieceOf({
    id: 'p',
    clipId: clip.id,
    span: { in: 0, out: 500 },
    chain: [
      { id: 's', move: 'speed', on: true, values: { by: 'percent', percent: 3000, direction: 'forward' } },
    ],
  });
  const fast = rational(60);
  const compiled = compilePiece(piece, clip, clipTable, fast);
  const project = {
    pieces: [{ startFrame: frame(0), compiled }],
    missing: [],
    beyond: [],
    totalFrames: frame(compiled.shown.length),
    brought: NOTHING_BROUGHT,
  };
  const { text, limits } = writeEdl(cutEvents(project), 'x', fast);
  expect(text).toMatch(/^M2 {3}TRAM {10} 999\.9 /m);
  expect(limits.join(' ')).toMatch(/1 speed is beyond 999.9 frames a second/);
});

describe('whole projects there and back', () => {
  const NAMES = ['lantern thrown.mp4', 'lantern thrown again.mp4', 'BL.mp4', '提灯 (2).mp4', 'a "b", c.mov'];
  const move = fc.oneof(
    fc.record({
      move: fc.constant('boomerang'),
      values: fc.record({ trips: fc.integer({ min: 1, max: 3 }), turn: fc.constantFrom('once', 'twice') }),
    }),
    fc.record({
      move: fc.constant('hold'),
      values: fc.record({ at: fc.integer({ min: 0, max: 20 }), length: fc.integer({ min: 1, max: 30 }) }),
    }),
    fc.record({
      move: fc.constant('stutter'),
      values: fc.record({ at: fc.integer({ min: 0, max: 20 }), slice: fc.integer({ min: 2, max: 9 }) }),
    }),
    fc.record({
      move: fc.constant('speed'),
      values: fc.record({ by: fc.constant('percent'), percent: fc.constantFrom(50, 100, 200) }),
    }),
  );
  const pieces = fc.array(
    fc.record({
      clip: fc.nat(NAMES.length - 1),
      first: fc.integer({ min: 0, max: 400 }),
      length: fc.integer({ min: 24, max: 99 }),
      chain: fc.array(move, { maxLength: 2 }),
    }),
    { minLength: 1, maxLength: 5 },
  );

  test.each(['EDL', 'OTIO'])(
    '%s: each piece reads its own clip, as long, the same frames but for rounding',
    (format) => {
      const clips = known(...NAMES);
      const laid = (list: readonly ReturnType<typeof pieceOf>[]): CompiledProject => {
        let at = frame(0);
        const row = list.map((piece) => {
          const own = clips.find((c) => c.clip.id === piece.clipId)!;
          const compiled = compilePiece(piece, own.clip, own.table, RATE);
          const startFrame = at;
          at = frame(at + compiled.shown.length);
          return { startFrame, compiled };
        });
        return { pieces: row, missing: [], beyond: [], totalFrames: at, brought: NOTHING_BROUGHT };
      };
      const framesOf = (p: CompiledProject) =>
        p.pieces.flatMap(({ compiled }) => Array.from(compiled.shown, (n) => [compiled.clip.id, n] as const));
      fc.assert(
        fc.property(pieces, (list) => {
          const made = laid(
            list.map((p, i) =>
              pieceOf({
                id: `p${i}`,
                clipId: `c${p.clip}`,
                span: { in: p.first, out: p.first + p.length },
                chain: p.chain.map((s, k) => ({ id: `${i}-${k}`, on: true, ...s })),
              }),
            ),
          );
          const events = cutEvents(made);
          const read =
            format === 'EDL'
              ? readEdl(writeEdl(events, 'x', RATE).text, RATE)
              : readOtio(writeOtio(events, 'x', RATE).text, RATE);
          if (!read.ok) throw new Error(read.sentence);
          const back = piecesFrom(read.events, clips, newId, RATE);
          expect([back.missing, back.said, read.said]).toEqual([[], [], []]);
          const [before, after] = [framesOf(made), framesOf(laid(back.pieces))];
          expect(after.length).toBe(before.length);
          before.forEach(([clip, n], i) => {
            expect(after[i]![0]).toBe(clip);
            expect(Math.abs(after[i]![1] - n)).toBeLessThanOrEqual(2);
          });
        }),
        { numRuns: 25 },
      );
    },
  );
});
