import { availableParallelism } from 'node:os';
import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: '.',
  testMatch: '**/*.journey.ts',
  // Generous: how long a journey takes is the machine's doing.
  timeout: 240_000,
  expect: { timeout: 30_000 },
  // A journey alone leaves a quarter of two cores idle. Each of those beside it has its own server, browser and folder;
  // more than four would need more memory than a small machine has.
  fullyParallel: true,
  workers: Math.min(4, availableParallelism()),
  retries: 0,
  outputDir: '.work/results',
});
