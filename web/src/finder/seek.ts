import Fuse from 'fuse.js';
import type { Find } from './finds';

/** How many are listed at most. */
const MOST = 40;

/** What is found for what was typed, the best first; all of it, in its order, while nothing is. */
export function seek(finds: readonly Find[], typed: string): readonly Find[] {
  const sought = typed.trim();
  if (sought === '') return finds.slice(0, MOST);
  const fuse = new Fuse(finds as Find[], {
    keys: [
      { name: 'name', weight: 3 },
      { name: 'also', weight: 2 },
      { name: 'says', weight: 1 },
    ],
    threshold: 0.34,
    ignoreLocation: true,
    includeScore: true,
  });
  return fuse.search(sought, { limit: MOST }).map((r) => r.item);
}
