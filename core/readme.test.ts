/** The examples of README.md run as they stand there: each `print` says what is written beside it. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { transformSync } from '@swc/core';

const text = readFileSync(join(__dirname, 'README.md'), 'utf8');
const examples = [...text.matchAll(/```ts\n([\s\S]*?)```/g)].map(([, code]) => code!);

it('has examples', () => expect(examples.length).toBeGreaterThan(3));

it.each(examples.map((code) => [code.trim().split('\n').at(-1)!, code]))('%s', (_, code) => {
  const meant = [...code.matchAll(/^\s*print\(.*\); \/\/ (.*)$/gm)].map(([, said]) => said);
  const { code: script } = transformSync(code, {
    jsc: { target: 'es2022', parser: { syntax: 'typescript' } },
    module: { type: 'commonjs' },
  });
  const said: string[] = [];
  // Modules of the examples are found from this file, which lies beside the page.
  new Function('require', 'exports', 'print', script)(require, {}, (words: string) => said.push(words));
  expect(said).toEqual(meant);
});
