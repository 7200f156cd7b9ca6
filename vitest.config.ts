import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['{core,between,words,server,screening,app,cli,demo,scripts,simulator}/**/*.test.{ts,tsx}'],
    setupFiles: ['core/testing/seed.ts'],
    testTimeout: 120_000,
    hookTimeout: 120_000,
  },
});
