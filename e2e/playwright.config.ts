import { defineConfig } from '@playwright/test';

/** Drives the built application on Debian's Chromium; each worker has a server and a database of its own. */
export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  timeout: 120_000,
  expect: { timeout: 30_000 },
  workers: 1,
  // Sound is captured in real time: on a machine that stalls, a test is tried once more and listed as flaky.
  retries: process.env.CI ? 1 : 0,
  reporter: [['list'], ['json', { outputFile: '../.state/playwright.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    },
  },
});
