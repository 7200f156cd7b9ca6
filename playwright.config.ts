import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './scripts/lib/system.mjs';

/** The real interface in Debian's Chromium, against the built application on a database thrown away afterwards. */
export default defineConfig({
  testDir: 'e2e',
  fullyParallel: true,
  workers: 2,
  retries: 0,
  timeout: 180_000,
  expect: { timeout: 30_000 },
  reporter: [['list'], ['json']],
  globalSetup: './e2e/setup.ts',
  outputDir: 'test-results',
  // Shutting the door to the database would disturb the others, so it comes after them.
  projects: [
    { name: 'main', testIgnore: 'away.spec.ts' },
    { name: 'away', testMatch: 'away.spec.ts', dependencies: ['main'] },
  ],
  use: {
    actionTimeout: 45_000,
    navigationTimeout: 60_000,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    // Nothing moves where nobody watches: drawing each step of it takes a good part of the time.
    contextOptions: { reducedMotion: 'reduce' },
    permissions: ['clipboard-read', 'clipboard-write'],
    launchOptions: CHROMIUM,
  },
});
