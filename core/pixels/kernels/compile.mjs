/**
 * Compiles the kernels to one module of WebAssembly and writes it as `bytes.ts`, so that browsers, workers and tests load the same
 * module without a request. `npm run kernels`; `kernels.test.ts` says when it was forgotten.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import asc from 'assemblyscript/asc';

const here = import.meta.dirname;
const SOURCES = [
  'assembly.ts',
  'motion.ts',
  'along.ts',
  'placing.ts',
  'colouring.ts',
  'incoming.ts',
  'sizing.ts',
  'masks.ts',
  'mattes.ts',
  'laying.ts',
  'tape.ts',
];
/** What they share, and export nothing of. */
const SHARED = ['padding.ts', 'mirrored.ts'];

/** The module compiled from the source as it is now, in base64. */
export async function compiled() {
  let binary;
  const files = Object.fromEntries(
    [...SOURCES, ...SHARED].map((name) => [name, readFileSync(join(here, name), 'utf8')]),
  );
  const { error, stderr } = await asc.main(
    [
      ...SOURCES,
      '--outFile',
      'out.wasm',
      '-O3',
      '--runtime',
      'stub',
      '--enable',
      'simd',
      '--importMemory',
      '--noAssert',
    ],
    {
      readFile: (name) => files[name] ?? null,
      writeFile: (name, contents) => {
        if (name === 'out.wasm') binary = contents;
      },
      listFiles: () => [],
    },
  );
  if (error) throw new Error(`${error.message}\n${stderr.toString()}`);
  return Buffer.from(binary).toString('base64');
}

export const written = (base64) =>
  `/** Made by \`npm run kernels\` from \`assembly.ts\`; not to be edited. */\nexport const KERNELS =\n  '${base64}';\n`;

if (process.argv[2] === 'write') writeFileSync(join(here, 'bytes.ts'), written(await compiled()));
if (process.argv[2] === 'print') process.stdout.write(written(await compiled()));
