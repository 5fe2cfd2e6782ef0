import fc from 'fast-check';
import { musicFrom } from '../beats/music';
import { writeEdl } from '../cutlist/edl';
import { readEdl } from '../cutlist/read-edl';
import { cutEvents } from '../cutlist/events';
import { writeOtio } from '../cutlist/otio';
import { readOtio } from '../cutlist/read-otio';
import { piecesFrom } from '../cutlist/to-pieces';
import { isTreated, recipesOf } from '../looks/recipes';
import { LookSchema } from '../looks/look';
import { type CompiledProject, compilePiece, compileProject } from '../project/compile';
import { setDissolve } from '../project/gather-actions';
import { newProject } from '../project/new-project';
import { type Piece, pieceOf } from '../project/schema';
import { rational } from '../time/rational';
import { dissolvesOf, laterShare } from './dissolve';
import { WHOLE } from './gather';

const rate = rational(30);
const table = { kind: 'constant', rate, count: 240 } as const;
const clip = (id: string) => ({
  id,
  mediaId: id,
  name: `${id}.mp4`,
  marks: [],
  readAt: null,
  tracks: [],
  framing: 'fit' as const,
});
const speed = (percent: number, direction = 'forward') => ({
  ...{ id: 's', move: 'speed', on: true },
  values: { by: 'percent', percent, direction },
});
const piece = (id: string, span: [number, number], rest: Partial<Piece> = {}): Piece =>
  pieceOf({ id, clipId: id[0]!, span: { in: span[0], out: span[1] }, chain: [], ...rest });

function compiled(...pieces: Piece[]): CompiledProject {
  const project = { ...newProject('n', 'n', 0), clips: [clip('a'), clip('b')], pieces };
  return compileProject(project, (p, c) => compilePiece(p, c, table, rate));
}
/** For every frame of a result which frames it shows, and how much of it: hundredths by clip and frame. */
function shares(project: CompiledProject): Record<string, number>[] {
  const { recipes } = recipesOf(project, [], undefined);
  return project.pieces.flatMap(({ startFrame, compiled: p }) =>
    Array.from(p.shown, (shown, i) => {
      const other = recipes.others[recipes.otherOf[startFrame + i]!]!;
      const part = Math.round((100 * other.share) / WHOLE);
      const own = { [`${p.clip.id}${shown}`]: 100 - part };
      return part === 0 ? own : { ...own, [`${other.clipId}${other.frame}`]: part };
    }),
  );
}

describe('a dissolve', () => {
  it('runs both sides on at their own speed, half of each at the join, and leaves the length as it is', () => {
    const project = compiled(piece('a', [20, 30]), piece('b', [100, 110], { dissolve: 4 }));
    expect(project.totalFrames).toBe(20);
    expect(shares(project).slice(7, 13)).toEqual([
      { a27: 100 },
      { a28: 87, b98: 13 },
      { a29: 62, b99: 38 },
      { b100: 62, a30: 38 },
      { b101: 87, a31: 13 },
      { b102: 100 },
    ]);
  });

  it('runs on backward and fast as what it is', () => {
    const back = compiled(
      piece('a', [20, 40], { chain: [speed(200, 'backward')] }),
      piece('b', [100, 120], { chain: [speed(200)], dissolve: 4 }),
    );
    const made = shares(back);
    expect(made[9]).toHaveProperty('b99');
    expect(made[10]).toHaveProperty('a19');
    expect(made[11]).toHaveProperty('a17');
  });

  it('says where a clip has no frames left, and holds its last one', () => {
    const project = compiled(piece('a', [200, 238]), piece('b', [1, 40], { dissolve: 12 }));
    const [dissolve] = dissolvesOf(project.pieces);
    expect(dissolve).toMatchObject({ heldBefore: 4, heldAfter: 5 });
    expect(shares(project)[43]).toHaveProperty('a239');
    expect(shares(project)[32]).toHaveProperty('b0');
  });

  it('is no longer than its pieces, nor over another dissolve', () => {
    const project = compiled(
      piece('a', [0, 10]),
      piece('b', [50, 60], { dissolve: 12 }),
      piece('a2', [100, 130], { dissolve: 30 }),
    );
    const [first, second] = dissolvesOf(project.pieces);
    expect([first!.first, first!.at, first!.end]).toEqual([4, 10, 16]);
    expect([second!.first, second!.at, second!.end]).toEqual([16, 20, 35]);
    expect(second!.wanted).toBe(30);
  });

  it('in beats lasts as long as they do at its piece, and none without a song', () => {
    const beats = Array.from({ length: 40 }, (_, i) => i * 15);
    const at = { beats, accents: [] };
    const project = { ...newProject('n', 'n', 0), clips: [clip('a'), clip('b')] };
    const pieces = [piece('a', [20, 50]), piece('b', [100, 160], { dissolve: { beats: 1 } })];
    const withSong = compileProject({ ...project, pieces }, (p, c, start) =>
      compilePiece(p, c, table, rate, musicFrom(at as never, start)),
    );
    const [dissolve] = dissolvesOf(withSong.pieces);
    expect(dissolve!.end - dissolve!.first).toBe(15);
    expect(dissolvesOf(compiled(...pieces).pieces)).toEqual([]);
  });

  it('gives each side its own looks, and those of the result to both together', () => {
    const look = (id: string, name: string) => LookSchema.parse({ id, look: name, values: {} });
    const project = compiled(
      piece('a', [20, 30], { looks: [look('x', 'grade')] }),
      piece('b', [100, 110], { looks: [look('y', 'split')], dissolve: 4 }),
    );
    const { recipes } = recipesOf(project, [look('z', 'vignette')], undefined);
    const names = (place: number) => recipes.stacks[place]!.map((d) => d.look);
    const other = recipes.others[recipes.otherOf[9]!]!;
    expect([names(recipes.stackOf[9]!), names(other.stack), names(other.over)]).toEqual([
      ['grade'],
      ['split'],
      ['vignette'],
    ]);
    expect(names(recipes.stackOf[5]!)).toEqual(['grade', 'vignette']);
    expect(isTreated(recipes)).toBe(true);
  });

  it('of any length at any join: shares come to the whole, grow evenly, and nothing is longer', () => {
    const chain = fc.constantFrom<Piece['chain']>([], [speed(50)], [speed(300)], [speed(100, 'backward')]);
    const length = fc.integer({ min: 1, max: 60 });
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            chain,
            length,
            from: fc.integer({ min: 0, max: 170 }),
            dissolve: fc.integer({ min: 0, max: 90 }),
          }),
          {
            minLength: 1,
            maxLength: 5,
          },
        ),
        (rows) => {
          const pieces = rows.map(({ chain: c, length: l, from, dissolve }, i) =>
            piece(`${'ab'[i % 2]!}${i}`, [from, from + l], { chain: c, dissolve }),
          );
          const project = compiled(...pieces);
          expect(project.totalFrames).toBe(
            compiled(...pieces.map((p) => ({ ...p, dissolve: 0 }))).totalFrames,
          );
          let end = 0;
          for (const d of dissolvesOf(project.pieces)) {
            expect(d.first).toBeGreaterThanOrEqual(end);
            end = d.end;
            expect(d.end).toBeLessThanOrEqual(project.totalFrames);
            for (let f = d.first; f < d.end; f++) {
              expect(laterShare(d, f)).toBeGreaterThan(0);
              expect(laterShare(d, f)).toBeLessThan(1);
            }
          }
          const { recipes } = recipesOf(project, [], undefined);
          for (const other of recipes.others.slice(1)) {
            expect(other.frame).toBeGreaterThanOrEqual(0);
            expect(other.frame).toBeLessThan(240);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('what is no length changes nothing', () => {
    const project = { ...newProject('n', 'n', 0), clips: [clip('a')], pieces: [piece('a', [0, 10])] };
    expect(setDissolve(project, 'a', 12).pieces[0]!.dissolve).toBe(12);
    for (const bad of [-1, NaN, 1e9]) expect(setDissolve(project, 'a', bad)).toBe(project);
  });
});

describe('dissolves in cut lists', () => {
  const project = compiled(piece('a', [20, 50]), piece('b', [100, 140], { dissolve: 9 }));

  it('an EDL ends the first event where the dissolve begins, and begins the second there', () => {
    const { text, limits } = writeEdl(cutEvents(project), 'Pier', rate);
    expect(text.split('\n').slice(3, 10)).toEqual([
      '001  A        V     C        00:00:00:20 00:00:01:16 00:00:00:00 00:00:00:26',
      '* FROM CLIP NAME: a.mp4',
      '002  A        V     C        00:00:01:16 00:00:01:16 00:00:00:26 00:00:00:26',
      '002  B        V     D    009 00:00:03:06 00:00:04:20 00:00:00:26 00:00:02:10',
      'EFFECTS NAME IS CROSS DISSOLVE',
      '* FROM CLIP NAME: a.mp4',
      '* TO CLIP NAME: b.mp4',
    ]);
    expect(limits).toEqual([]);
  });

  it.each(['edl', 'otio'] as const)(
    '%s: read back it is the same pieces with the same dissolve',
    (format) => {
      const events = cutEvents(project);
      const read =
        format === 'edl'
          ? readEdl(writeEdl(events, 'Pier', rate).text, rate)
          : readOtio(writeOtio(events, 'Pier', rate).text, rate);
      if (!read.ok) throw new Error(read.sentence);
      let n = 0;
      const clips = [clip('a'), clip('b')].map((c) => ({ clip: c, table }));
      const { pieces } = piecesFrom(read.events, clips, () => String(n++), rate);
      expect(pieces.map((p) => [p.clipId, p.span.in, p.span.out, p.dissolve])).toEqual([
        ['a', 20, 50, 0],
        ['b', 100, 140, 9],
      ]);
    },
  );

  it('segments wholly inside a dissolve are named: an EDL cannot say them', () => {
    const flips = {
      id: 'f',
      move: 'boomerang',
      on: true,
      values: { by: 'trips', trips: 6, backPercent: 100 },
    };
    const busy = compiled(piece('a', [20, 24], { chain: [flips] }), piece('b', [100, 140], { dissolve: 30 }));
    expect(writeEdl(cutEvents(busy), 'Pier', rate).limits.join(' ')).toMatch(/wholly inside a dissolve/);
  });
});
