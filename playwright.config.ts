import { defineConfig } from '@playwright/test';

/** The real interface in Debian's Chromium, against the built application on a database thrown away afterwards. */
export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.spec.ts',
  fullyParallel: false,
  workers: 1,
  retries: 0,
  timeout: 60_000,
  expect: { timeout: 10_000 },
  reporter: [['list'], ['json']],
  globalSetup: './e2e/setup.ts',
  outputDir: 'test-results',
  use: {
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    permissions: ['clipboard-read', 'clipboard-write'],
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
    },
  },
});
