import type { FrameTable } from '@skipback/core/clip/frame-table';
import { moveById } from '@skipback/core/moves/registry';
import { compilePiece, compileProject } from '@skipback/core/project/compile';
import { newProject } from '@skipback/core/project/new-project';
import { pieceOf } from '@skipback/core/project/schema';
import { rational } from '@skipback/core/time/rational';
import type { LoadedClip } from '../state/library';
import { costWords, decodeCost } from './decode-cost';

const rate = rational(30);
const table: FrameTable = { kind: 'constant', rate, count: 250 };
const clip = {
  ...{ id: 'c', mediaId: 'm', name: 'pier.mp4', marks: [], readAt: null, tracks: [] },
  framing: 'fit' as const,
};
const index = { times: new Float64Array(table.count), keys: [0] };
const loaded = {
  clip,
  record: { facts: {} },
  source: { clipId: 'c', file: new Blob(), index, framing: 'fit' },
} as unknown as LoadedClip;

/** What a piece of frames [0, 250) with these moves costs, rendered at a size. */
function costOf(chain: Parameters<typeof pieceOf>[0]['chain'], width: number, height: number) {
  const piece = pieceOf({ id: 'p', clipId: 'c', span: { in: 0, out: 250 }, chain });
  const compiled = compilePiece(piece, clip, table, rate);
  const project = { ...newProject('x', 'x', 0), clips: [clip], pieces: [piece] };
  return decodeCost(
    compileProject(project, () => compiled),
    [loaded],
    { width, height },
  );
}
const backward = [
  { id: 's', move: 'speed', on: true, values: { ...moveById('speed')!.defaults, direction: 'backward' } },
];

describe('what reading backward costs', () => {
  it('is told where one long group of large pictures does not fit in memory', () => {
    const cost = costOf(backward, 3840, 2160)!;
    expect(cost.times).toBeGreaterThan(2);
    expect(cost.held).toBeLessThan(100);
    expect(costWords(cost, { width: 3840, height: 2160 })).toContain(`${cost.held} pictures of 3840 by 2160`);
  });

  it('is nothing to tell of small pictures, nor of forward', () => {
    expect(costOf(backward, 640, 360)).toBeUndefined();
    expect(costOf([], 3840, 2160)).toBeUndefined();
  });
});
