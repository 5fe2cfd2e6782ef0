import 'fake-indexeddb/auto';
import { spaceOf } from './space';

it('counts each file once: with who alone reads it, as shared, or as unused', () => {
  const sizes = new Map([
    ['a', 100],
    ['b', 30],
    ['both', 7],
    ['nobody', 5],
  ]);
  const space = spaceOf(
    [
      { id: '1', name: 'Pier', media: ['b', 'both', 'gone'] },
      { id: '2', name: 'Quay', media: ['a', 'both'] },
    ],
    sizes,
  );
  expect(space.projects).toEqual([
    { id: '2', name: 'Quay', ownBytes: 100, sharedBytes: 7 },
    { id: '1', name: 'Pier', ownBytes: 30, sharedBytes: 7 },
  ]);
  expect(space.unusedBytes).toBe(5);
  const counted = space.projects.reduce((sum, p) => sum + p.ownBytes, space.unusedBytes) + 7;
  expect(counted).toBe([...sizes.values()].reduce((a, b) => a + b));
});
