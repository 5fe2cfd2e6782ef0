export default {
  testEnvironment: 'node',
  roots: ['<rootDir>/core', '<rootDir>/media', '<rootDir>/server', '<rootDir>/web/src'],
  testMatch: ['**/*.test.ts'],
  transform: {
    '^.+\\.[jt]sx?$': ['@swc/jest', { jsc: { target: 'es2022', parser: { syntax: 'typescript' } } }],
  },
  transformIgnorePatterns: ['/node_modules/(?!(?:.*/)?(?:mediabunny|@zip.js|content-disposition|cookie)/)'],
};
