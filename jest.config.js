export default {
  testEnvironment: 'node',
  // Two cores are what there is; Jest would leave one of them idle.
  maxWorkers: 2,
  // What inner loops reach for: looked up in the sandbox's global object each time, it is several times slower.
  sandboxInjectedGlobals: ['Math', 'Number', 'Array', 'Object', 'Float32Array', 'Float64Array', 'Uint8Array'],
  roots: ['<rootDir>/core', '<rootDir>/media', '<rootDir>/server', '<rootDir>/web/src'],
  testMatch: ['**/*.test.ts'],
  transform: {
    '^.+\\.[jt]sx?$': ['@swc/jest', { jsc: { target: 'es2022', parser: { syntax: 'typescript' } } }],
  },
  transformIgnorePatterns: ['/node_modules/(?!(?:.*/)?(?:mediabunny|@zip.js|content-disposition|cookie)/)'],
};
