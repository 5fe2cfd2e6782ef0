import fc from 'fast-check';
import { namesBy } from './file-names';

const clean = (name: string) => name.replace(/[^\w-]+/g, '-').slice(0, 80) || 'file';
const row = (...projects: string[]) =>
  projects.map((project) => ({ project, clip: 'tea', recipe: 'Soft tide' }));

describe('names by a pattern', () => {
  test.each([
    ['{project}', ['Pier', 'Market'], ['Pier', 'Market']],
    ['{project}', ['Pier', 'pier', 'Pier'], ['Pier', 'pier-2', 'Pier-3']],
    ['{n}-{clip}-{recipe}', ['a', 'b'], ['1-tea-Soft-tide', '2-tea-Soft-tide']],
    ['loop', ['a', 'b'], ['loop', 'loop-2']],
    ['{other}/{project}', ['../x'], ['-other-x']],
  ])('%s', (pattern, projects, names) => {
    expect(namesBy(pattern, row(...projects), clean)).toEqual(names);
  });

  test('no two are alike, whatever the pattern and the projects', () => {
    fc.assert(
      fc.property(fc.string(), fc.array(fc.string(), { maxLength: 20 }), (pattern, projects) => {
        const names = namesBy(pattern, row(...projects), clean).map((n) => n.toLowerCase());
        expect(new Set(names).size).toBe(names.length);
      }),
    );
  });
});
