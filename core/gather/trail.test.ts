import { drawStack, tablesOf } from '../looks/draw';
import { LookSchema } from '../looks/look';
import { looksOfPiece } from '../looks/resolve';
import { Surface } from '../pixels/surface';
import { compilePiece } from '../project/compile';
import { type Piece, pieceOf } from '../project/schema';
import { rational } from '../time/rational';
import { type Gather, WHOLE, wholeFrame } from './gather';
import { gathersOf } from './gathers';

const table = { kind: 'constant', rate: rational(30), count: 240 } as const;
const clip = {
  id: 'c',
  mediaId: 'm',
  name: 'c',
  marks: [],
  readAt: null,
  tracks: [],
  framing: 'fit' as const,
};
const boomerang = {
  ...{ id: 'b', move: 'boomerang', on: true },
  values: { trips: 1, backPercent: 100, turn: 'twice' },
};
const trailed = (
  values: Record<string, unknown>,
  chain: Piece['chain'] = [boomerang],
  rest: Record<string, unknown> = {},
  span = { in: 100, out: 130 },
) => {
  const look = LookSchema.parse({ id: 'l', look: 'trail', values, ...rest });
  return compilePiece(pieceOf({ id: 'p', clipId: 'c', span, chain, looks: [look] }), clip, table, table.rate);
};
/** The copies of each frame: source frame and opacity in percent. */
const copies = (compiled: ReturnType<typeof trailed>): [number, number][][] =>
  looksOfPiece(compiled, true).drawn.map((stack) => {
    const { layers, opacities } = (stack[0]?.drawing ?? { layers: [], opacities: [] }) as {
      layers: Gather[];
      opacities: number[];
    };
    return layers.map(({ frames }, k) => [frames[0]!, Math.round(100 * opacities[k]!)]);
  });

describe('trail', () => {
  it('of the clip lies before the frame in the clip, forward and backward alike', () => {
    const made = copies(trailed({ copies: 3, spacing: 2, fade: 50 }));
    expect(made[10]).toEqual([
      [108, 50],
      [106, 25],
      [104, 13],
    ]);
    expect(made[49]).toEqual(made[10]);
  });

  it('of the result it follows what was seen: on the way back it lies later in the clip', () => {
    const made = copies(trailed({ copies: 2, spacing: 2, fade: 0, counts: 'result' }));
    expect(made[10]!.map(([f]) => f)).toEqual([108, 106]);
    expect(made[49]!.map(([f]) => f)).toEqual([112, 114]);
    // Over the turn it comes back on itself; where nothing was seen yet there is no copy.
    expect(made[31]!.map(([f]) => f)).toEqual([129, 127]);
    expect(made[1]).toEqual([]);
    expect(made[3]!.map(([f]) => f)).toEqual([101]);
  });

  it('at the clip’s beginning has the copies there are', () => {
    const made = copies(trailed({ copies: 3, spacing: 2, fade: 0 }, [], {}, { in: 0, out: 30 }));
    expect(made[3]!.map(([f]) => f)).toEqual([1]);
    expect(made[6]!.map(([f]) => f)).toEqual([4, 2, 0]);
  });

  it('staggered, copies come nearest first and leave farthest first, each dissolving', () => {
    const made = copies(trailed({ copies: 3, spacing: 2, fade: 0, stagger: 4, dissolve: 1 }, []));
    const there = (i: number) => made[i]!.map(([, opacity]) => opacity);
    expect(there(0)).toEqual([50]);
    expect(there(1)).toEqual([100]);
    expect(there(4)).toEqual([100, 50]);
    expect(there(9)).toEqual([100, 100, 100]);
    expect(there(21)).toEqual([100, 100, 50]);
    expect(there(22)).toEqual([100, 100]);
    expect(there(29)).toEqual([50]);
  });

  it('averaged it is a mean of source frames, the picture itself having the most', () => {
    const compiled = trailed({ copies: 2, spacing: 3, fade: 50, blend: 'average' });
    const gather = gathersOf(compiled, true)![10]!;
    expect(gather.frames).toEqual([104, 107, 110]);
    expect(gather.weights.map((w) => Math.round((100 * w) / WHOLE))).toEqual([14, 29, 57]);
    expect(copies(compiled)[10]).toEqual([]);
  });

  it('drawn, each copy lies over the picture in its way and as faint as it is', () => {
    const layer = (value: number) => Uint8Array.from([value, value, value, 255]);
    const drawnWith = (blend: string, opacities: number[], values: number[]) => {
      const surface = new Surface(1, 1);
      surface.loadRgba([100, 100, 100, 255]);
      const drawing = { blend, opacities, layers: values.map((_, i) => wholeFrame(i)) };
      drawStack(surface, [{ look: 'trail', drawing, share: 1 }], 1, tablesOf({}), values.map(layer));
      return surface.pixels[0];
    };
    expect(drawnWith('lighten', [1, 1], [60, 180])).toBe(180);
    expect(drawnWith('darken', [1, 1], [60, 180])).toBe(60);
    expect(drawnWith('lighten', [0.5], [200])).toBe(150);
    expect(drawnWith('add', [1, 1], [100, 100])).toBe(255);
    expect(drawnWith('screen', [1], [100])).toBe(161);
    // One that could not be had is left out.
    expect(drawnWith('lighten', [1, 1], [180])).toBe(180);
  });

  it('smeared along an angle, the copies are blurred and the picture is not', () => {
    const compiled = trailed({ copies: 1, spacing: 2, fade: 0, smear: 'angle', angle: 0, length: 8 }, []);
    const [drawn] = looksOfPiece(compiled, true).drawn[10]!;
    const surface = new Surface(16, 2);
    const grey = (bright: number) =>
      Uint8Array.from({ length: 16 * 2 * 4 }, (_, i) =>
        i % 4 === 3 ? 255 : (i >> 2) % 16 === bright ? 240 : 0,
      );
    surface.loadRgba(grey(2));
    drawStack(surface, [drawn!], 1, tablesOf({}), [grey(10)]);
    const row = Array.from({ length: 16 }, (_, x) => surface.pixels[4 * x]!);
    expect(row[2]).toBe(240);
    expect(row.slice(3, 6)).toEqual([0, 0, 0]);
    expect(row.filter((v) => v > 0 && v < 240).length).toBeGreaterThanOrEqual(7);
    expect(Math.max(...row.slice(6))).toBeLessThan(60);
  });

  it('smeared along the motion, each copy is the mean of pictures around its frame, within the clip', () => {
    const layers = (i: number) => {
      const values = { copies: 2, spacing: 10, fade: 0, smear: 'motion', over: 2 };
      const compiled = trailed(values, [], {}, { in: 0, out: 30 });
      return looksOfPiece(compiled, true).drawn[i]![0]!.drawing['layers'] as Gather[];
    };
    expect(layers(25).map((l) => l.frames)).toEqual([
      [14, 15, 16],
      [4, 5, 6],
    ]);
    expect(layers(25)[0]!.along).toHaveLength(8);
    expect(layers(20)[1]!.frames).toEqual([0, 1]);
    expect(Math.min(...layers(20)[1]!.along!)).toBe(0);
  });
});
