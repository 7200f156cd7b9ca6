import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,between,words,server,screening,app,cli,demo,scripts,simulator}/**/*.test.{ts,tsx}'],
    setupFiles: ['core/testing/seed.ts'],
    // One for each core of a small machine: the default would leave one of two idle.
    maxWorkers: 2,
    testTimeout: 120_000,
    hookTimeout: 120_000,
  },
});
