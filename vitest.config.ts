import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,between,words,server,screening,app,cli,demo,scripts,simulator}/**/*.test.{ts,tsx}'],
    setupFiles: ['core/testing/seed.ts'],
    // One file after the other: tests of the database share its queue, and a worker that one of them starts takes the
    // work of all.
    maxWorkers: 1,
    testTimeout: 120_000,
    hookTimeout: 120_000,
  },
});
