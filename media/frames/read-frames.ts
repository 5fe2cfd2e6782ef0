import { keyBefore } from '@skipback/core/plan/decode-plan';
import { ClipRow, type ClipSource } from './clip-row';
import type { RunStep } from './frame-server';
import type { OpenClip, OpenClips } from './open-clips';
import type { Placement } from './placement';

/** What is read of a clip: frames [first, end), of them all or those that are wanted. */
export interface Reading {
  readonly first: number;
  readonly end: number;
  readonly wanted?: (frame: number) => boolean;
}

/**
 * Frames of a clip as it is by itself, one after another, each made into something by `develop`; those that are not wanted are
 * passed over. A damaged frame is the good one near it, or has no picture where there is none.
 */
export async function* readFrames<T>(
  clips: OpenClips,
  { clipId, file, index }: ClipSource,
  { first, end, wanted = () => true }: Reading,
  develop: (picture: VideoFrame, clip: OpenClip, placement: Placement) => Promise<T> | T,
): AsyncGenerator<RunStep<T>, void, void> {
  if (end <= first) return;
  const row = new ClipRow([{ clipId, file, index, framing: 'fill' }]);
  const here = (frame: number) => frame >= first && wanted(frame);
  let next = keyBefore(index.keys, first);
  const runs = clips.runsOf(row, { decoded: 0, open: 0 }, develop);
  for await (const step of runs(next, end - 1, () => here(next))) {
    next = step.frame + 1;
    if (here(step.frame)) yield step;
  }
}
