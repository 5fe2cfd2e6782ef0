import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

/** What each room may not import: arrows run web -> media -> core, server -> core. */
const ARROWS = [
  {
    files: ['core/**/*.ts'],
    forbidden: ['@skipback/*', 'react', 'react-*', '@mui/*', 'mediabunny', 'dexie', 'fastify', 'node:*'],
  },
  {
    files: ['media/**/*.ts'],
    forbidden: ['@skipback/web*', '@skipback/server*', 'react', 'react-*', '@mui/*', 'fastify', 'node:*'],
  },
  {
    files: ['web/src/**/*.{ts,tsx}'],
    forbidden: ['@skipback/server*', 'fastify', 'node:*', 'mediabunny', 'dexie'],
  },
  {
    files: ['server/**/*.ts'],
    forbidden: ['@skipback/web*', '@skipback/media*', 'react', 'mediabunny', 'dexie'],
  },
];

export default tseslint.config(
  {
    ignores: [
      '**/dist/**',
      '**/dist-test/**',
      'build/**',
      'core/pixels/kernels/assembly.ts',
      'core/pixels/kernels/motion.ts',
      'core/pixels/kernels/along.ts',
      'core/pixels/kernels/placing.ts',
      'core/pixels/kernels/colouring.ts',
      'core/pixels/kernels/sizing.ts',
      'core/pixels/kernels/masks.ts',
      'core/pixels/kernels/mattes.ts',
      'core/pixels/kernels/laying.ts',
      'core/pixels/kernels/tape.ts',
      'core/pixels/kernels/padding.ts',
      'core/pixels/kernels/mirrored.ts',
      'core/pixels/kernels/bytes.ts',
      'e2e/.work/**',
      'node_modules/**',
    ],
  },
  ...tseslint.configs.recommended,
  {
    rules: {
      eqeqeq: 'error',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-expressions': ['error', { allowTernary: true, allowShortCircuit: true }],
    },
  },
  {
    files: ['web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      // What React Compiler relies on.
      'react-hooks/globals': 'error',
      'react-hooks/immutability': 'error',
      'react-hooks/preserve-manual-memoization': 'error',
      'react-hooks/purity': 'error',
      'react-hooks/refs': 'error',
      'react-hooks/static-components': 'error',
      'react-hooks/use-memo': 'error',
    },
  },
  ...ARROWS.map(({ files, forbidden }) => ({
    files,
    ignores: ['**/*.test.ts'],
    rules: {
      '@typescript-eslint/no-restricted-imports': [
        'error',
        { patterns: [{ group: forbidden, message: 'Arrows run web -> media -> core, server -> core.' }] },
      ],
    },
  })),
);
