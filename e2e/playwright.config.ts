import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  testMatch: '**/*.journey.ts',
  timeout: 240_000,
  expect: { timeout: 30_000 },
  fullyParallel: true,
  // Those that watch or play in real time are tagged @alone and run after the others, one at a time.
  workers: 2,
  retries: 0,
  outputDir: '.work/results',
});
