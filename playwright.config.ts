import { defineConfig } from '@playwright/test';
import { chromiumPath } from './scripts/setUp.mjs';

/** The real interface in Debian's Chromium; each worker has a server over a copy of the demo data of its own. */
export default defineConfig({
  testDir: 'tests/browser',
  // It is emptied by every run; what others left beside it is not.
  outputDir: 'test-results/browser',
  // A machine that is busy with something else shows everything, only later.
  timeout: 240_000,
  expect: { timeout: 60_000 },
  globalSetup: './tests/demoData.ts',
  // Both cores: half of the time a page or a sound is waited for.
  workers: 2,
  forbidOnly: Boolean(process.env['CI']),
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    // Tracing takes a third of the time: a failure is run again with it.
    trace: process.env['BIJOU_TRACE'] ? 'retain-on-failure' : 'off',
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: chromiumPath(),
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--autoplay-policy=no-user-gesture-required',
      ],
    },
  },
});
