import { newProject } from '@skipback/core/project/new-project';
import type { ProjectRecord } from '@skipback/media/storage/database';
import { versionsOf } from './versions';

const [a, b] = ['A', 'B'].map((name) => newProject('p', name, 0)) as [
  ProjectRecord['document'],
  ProjectRecord['document'],
];
const record = (more: Partial<ProjectRecord>): ProjectRecord => ({
  ...{ id: 'p', name: 'pier', savedAt: 0, poster: null, lengthFrames: 0, document: b },
  ...more,
});

it.each([
  ['one of before has one version', record({}), undefined, 'A', undefined],
  ['both are read as they were written', record({ letter: 'B', other: a }), undefined, 'B', 'A'],
  ['what was noted of the same letter hides the same one', record({ letter: 'B', other: a }), 'B', 'B', 'A'],
  // The journal knows A, flipped to after B was written: what was written is the hidden one, not lost.
  [
    'what was noted of the other letter hides what was written',
    record({ letter: 'B', other: a }),
    'A',
    'A',
    'B',
  ],
  ['what cannot be read is none', record({ other: { broken: true } as never }), undefined, 'A', undefined],
] as const)('%s', (_, kept, noted, letter, hidden) => {
  const read = versionsOf(kept, noted);
  expect(read.letter).toBe(letter);
  expect(read.other?.name).toBe(hidden);
});

it('both versions are of the record they are in: a copy has both as its own', () => {
  expect(
    versionsOf(record({ id: 'copy', document: { ...b, id: 'copy' }, other: a }), undefined).other?.id,
  ).toBe('copy');
});
