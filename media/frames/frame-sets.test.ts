import { wholeFrame } from '@skipback/core/gather/gather';
import { untouched } from '@skipback/core/looks/recipes';
import { ClipRow } from './clip-row';
import { FrameSets } from './frame-sets';

const clip = (clipId: string, frames: number) => ({
  clipId,
  file: new Blob(),
  index: { times: Array.from({ length: frames }, (_, i) => i), keys: [0], decodePlaces: [] },
  framing: 'fit' as const,
});
const row = new ClipRow([clip('a', 100), clip('b', 50)] as never);
const NONE = { frames: [], weights: [] };
const gathers = [NONE, { frames: [4, 5], weights: [8192, 24_576] }];
const source = {
  clipPlaces: Int32Array.of(0, 1, 0, 1),
  clipFrames: Int32Array.of(3, 5, 5, 5),
  recipes: { ...untouched(4), gathers, gatherOf: Int32Array.of(0, 0, 1, 1) },
};

describe('the frames a result is made of', () => {
  it('are numbered through their clips, one or several a picture', () => {
    const sets = new FrameSets(row, ['a', 'b'], source);
    expect([0, 1, 2, 3].map((p) => sets.framesOf(p))).toEqual([[3], [105], [4, 5], [104, 105]]);
    expect(sets.partsOf(0).gather).toBeUndefined();
    expect(sets.partsOf(2).gather!.weights).toEqual([8192, 24_576]);
    expect([0, 1, 2, 3].map((p) => sets.isPlain(p))).toEqual([true, true, false, false]);
    expect(sets.inOrder([3, 0])).toEqual({ wanted: Int32Array.of(104, 105, 3), ends: Int32Array.of(2, 3) });
  });

  it('have a text that is equal for equal pictures only', () => {
    const sets = new FrameSets(row, ['a', 'b'], source);
    expect(new Set([0, 1, 2, 3].map((p) => sets.keyOf(p))).size).toBe(4);
    const again = new FrameSets(row, ['a', 'b'], { ...source, clipFrames: Int32Array.of(3, 5, 4, 4) });
    expect(again.keyOf(2)).toBe(sets.keyOf(2));
  });

  it('need no sets where every picture is a frame as it is', () => {
    const plain = { ...source, recipes: { ...source.recipes, gathers: [NONE], gatherOf: new Int32Array(4) } };
    expect(new FrameSets(row, ['a', 'b'], plain).inOrder([1, 0])).toEqual({
      wanted: Int32Array.of(105, 3),
      ends: undefined,
    });
  });

  it('that are laid over a picture come after those it is the mean of', () => {
    const trail = { look: 'trail', drawing: { layers: [wholeFrame(1), wholeFrame(0)] }, share: 1 };
    const stacks = [[], [{ look: 'grade', drawing: {}, share: 1 }, trail]];
    const recipes = { ...source.recipes, stacks, stackOf: Int32Array.of(0, 1, 0, 1) };
    const sets = new FrameSets(row, ['a', 'b'], { ...source, recipes });
    expect([0, 1, 2, 3].map((p) => sets.framesOf(p))).toEqual([
      [3],
      [105, 101, 100],
      [4, 5],
      [104, 105, 101, 100],
    ]);
    expect([0, 1, 2, 3].map((p) => sets.partsOf(p).frames.length)).toEqual([1, 1, 2, 2]);
  });

  it('at a dissolve are those of both pictures, then what is drawn on both', () => {
    const trail = { look: 'trail', drawing: { layers: [wholeFrame(1)] }, share: 1 };
    const other = { clipId: 'b', frame: 7, gather: 1, stack: 0, share: 8192, over: 1 };
    const { recipes: plain } = source;
    const recipes = {
      ...{ ...plain, stacks: [[], [trail]], others: [plain.others[0]!, other] },
      otherOf: Int32Array.of(1, 0, 0, 0),
    };
    const sets = new FrameSets(row, ['a', 'b'], { ...source, recipes });
    expect(sets.framesOf(0)).toEqual([3, 104, 105, 1]);
    expect(sets.partsOf(0).other).toMatchObject({
      frames: [104, 105],
      share: 8192,
      over: { layers: [{ frames: [1] }] },
    });
    const half = { ...recipes, others: [plain.others[0]!, { ...other, share: 16_384 }] };
    expect(new FrameSets(row, ['a', 'b'], { ...source, recipes: half }).keyOf(0)).not.toBe(sets.keyOf(0));
  });

  it('of a clip that is not there are refused', () => {
    expect(() => new FrameSets(row, ['a', 'c'], source)).toThrow('no clip');
  });

  it('that looks bring in are of the source they name, and must be in the row', () => {
    const laid = { look: 'overlay', drawing: { layers: [{ ...wholeFrame(7), of: 'b' }] }, share: 1 };
    const stacks = [[], [laid]];
    const recipes = { ...source.recipes, stacks, stackOf: Int32Array.of(1, 1, 0, 0) };
    const sets = new FrameSets(row, ['a', 'b'], { ...source, recipes });
    expect([0, 1].map((p) => sets.framesOf(p))).toEqual([
      [3, 107],
      [105, 107],
    ]);
    const lost = [[], [{ ...laid, drawing: { layers: [{ ...wholeFrame(7), of: 'nowhere' }] } }]];
    const without = { ...source, recipes: { ...recipes, stacks: lost } };
    expect(() => new FrameSets(row, ['a', 'b'], without)).toThrow(RangeError);
  });
});
