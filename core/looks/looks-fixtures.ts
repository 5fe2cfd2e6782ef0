import type { Music } from '../beats/music';
import { DEFAULT_ENVELOPES } from '../beats/envelope';
import { moveById } from '../moves/registry';
import { type CompiledProject, compilePiece, compileProject } from '../project/compile';
import { newProject } from '../project/new-project';
import { type Mark, pieceOf } from '../project/schema';
import type { Look } from './look';

/** For tests: a clip of 300 frames at 30 a second, a span of it with one move, worked out; a few times over if wanted. */
export function track(
  [first, end]: readonly [number, number],
  step: { readonly move: string; readonly values: object },
  { marks = [], looks = [], pieces = 1 }: { marks?: Mark[]; looks?: Look[]; pieces?: number } = {},
): CompiledProject {
  const table = { kind: 'constant', rate: { num: 30, den: 1 }, count: 300 } as const;
  const clip = {
    id: 'c',
    mediaId: 'm',
    name: 'drum',
    marks,
    readAt: null,
    tracks: [],
    framing: 'fit' as const,
  };
  const chain = [
    { id: 's', move: step.move, on: true, values: { ...moveById(step.move)!.defaults, ...step.values } },
  ];
  const project = {
    ...newProject('p', 'Pier', 0),
    clips: [clip],
    pieces: Array.from({ length: pieces }, (_, i) =>
      pieceOf({ id: `p${i}`, clipId: 'c', span: { in: first, out: end }, chain, looks }),
    ),
  };
  return compileProject(project, (piece, c) => compilePiece(piece, c, table, table.rate));
}

/** For tests: a beat every so many frames from frame 0, four to the bar, two low accents beside them. */
export const evenGrid = (frames: number): Music => ({
  beats: Array.from({ length: 40 }, (_, i) => i * frames),
  firstBar: 0,
  beatsPerBar: 4,
  accents: [
    { at: 7, band: 'low', strength: 1 },
    { at: 22, band: 'low', strength: 0.8 },
  ],
  envelopes: DEFAULT_ENVELOPES,
});
