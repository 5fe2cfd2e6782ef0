import { OUR_RECIPES } from './ours';
import { readRecipe, recipeText } from './read';

describe('recipe files', () => {
  const good = OUR_RECIPES[1]!;
  const text = recipeText(good);
  test('are read as they were written', () => {
    for (const recipe of OUR_RECIPES) expect(readRecipe(recipeText(recipe))).toEqual({ ok: true, recipe });
  });

  const changed = (change: (r: Record<string, never>) => object) =>
    JSON.stringify(change(JSON.parse(text) as never));
  test.each([
    ['no JSON', '{"format": "skip-back', /cut off/],
    ['a page', '<html>', /not JSON/],
    ['another kind of file', '{"format":"skip-back-project","version":1}', /not a Skip Back recipe/],
    ['a list', '[]', /not a Skip Back recipe/],
    ['a newer version', changed((r) => ({ ...r, version: 9 })), /newer version/],
    ['a name as long as a book', changed((r) => ({ ...r, name: 'a'.repeat(1000) })), /damaged at "name"/],
    ['a name that is no text', changed((r) => ({ ...r, name: { toString: 'x' } })), /damaged at "name"/],
    [
      'a number that is none',
      text.replace('"clipHz": 30', '"clipHz": 1e999'),
      /damaged at "madeOn › clipHz"/,
    ],
    [
      'too many moves',
      changed((r) => ({ ...r, chain: Array(5000).fill({ move: 'hold' }) })),
      /damaged at "chain"/,
    ],
    [
      'a span that ends before it begins',
      changed((r) => ({ ...r, madeOn: { ...(r['madeOn'] as unknown as object), span: { in: 9, out: 3 } } })),
      /damaged at/,
    ],
    ['a key of the language', text.replace('"says"', '"__proto__": {"polluted": 1}, "says"'), /"__proto__"/],
    [
      'one further in',
      text.replace('"values": {', '"values": {"constructor": {"prototype": {"polluted": 1}}, '),
      /"constructor"/,
    ],
    ['depth', `{"format":"skip-back-recipe","version":1,"a":${'['.repeat(500)}${']'.repeat(500)}}`, /nested/],
    ['depth without end', '['.repeat(200_000), /cut off|nested/],
    ['size', `{"a":"${'x'.repeat(5_000_000)}"}`, /5.0 MB/],
  ])('with %s are refused with a sentence', (_, hostile, sentence) => {
    const read = readRecipe(hostile);
    expect(read.ok).toBe(false);
    if (!read.ok) expect(read.sentence).toMatch(sentence);
    expect(({} as Record<string, unknown>)['polluted']).toBeUndefined();
  });
});
