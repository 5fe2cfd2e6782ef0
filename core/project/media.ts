import type { Placed, Project } from './schema';
import { ownSounds } from './sound-actions';

/** Ids of all media that a project reads, each once. Of a document as it was written, which may be an older one. */
export function mediaIdsOf(
  document: Pick<Project, 'clips' | 'song'> & { readonly placed?: Placed[] },
): string[] {
  return [
    ...new Set([
      ...document.clips.map((c) => c.mediaId),
      ...(document.song ? [document.song.mediaId] : []),
      ...ownSounds({ placed: document.placed ?? [] }).map((s) => s.mediaId),
    ]),
  ];
}
