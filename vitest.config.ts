import { defineConfig } from 'vitest/config';

/** Tests that put other modules in the place of ours, which files that share their modules would not see. */
const REPLACING = [
  'app/features/check/camera.test.tsx',
  ...['ahead', 'purse', 'serverPurse', 'usePlan'].map((name) => `app/features/fund/${name}.test.tsx`),
  'app/features/market/strike.test.tsx',
];
const SCREENS = { environment: 'jsdom', setupFiles: ['app/ui/testing/dom.ts'] };

export default defineConfig({
  test: {
    maxWorkers: Number(process.env.BM_TEST_WORKERS ?? 2),
    setupFiles: ['core/testing/seed.ts'],
    // Which branches of the core its tests reach, where `npm test` asks for it.
    coverage: {
      provider: 'v8',
      include: ['core/**/*.ts'],
      exclude: ['**/*.test.ts', 'core/testing/**'],
      reporter: ['json-summary'],
      reportOnFailure: true,
    },
    testTimeout: 120_000,
    hookTimeout: 120_000,
    projects: [
      {
        extends: true,
        test: {
          name: 'core',
          include: ['{core,between,words,demo,simulator,cli,scripts,screening,app}/**/*.test.ts'],
          exclude: ['app/routes/**'],
          isolate: false,
        },
      },
      {
        extends: true,
        test: {
          ...SCREENS,
          name: 'screens',
          include: ['app/**/*.test.tsx'],
          exclude: REPLACING,
          isolate: false,
        },
      },
      { extends: true, test: { ...SCREENS, name: 'screens apart', include: REPLACING } },
      {
        extends: true,
        test: {
          name: 'database',
          include: ['{server,app/routes}/**/*.test.ts'],
          setupFiles: ['server/testing/ownDatabase.ts'],
          env: { BM_WAITS: '0.4' },
        },
      },
    ],
  },
});
