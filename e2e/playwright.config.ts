import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  testMatch: '**/*.journey.ts',
  // Generous: how long a journey takes is the machine's doing, and one journey keeps both cores busy.
  timeout: 240_000,
  expect: { timeout: 30_000 },
  fullyParallel: false,
  workers: 1,
  retries: 0,
  outputDir: '.work/results',
});
