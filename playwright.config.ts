import { defineConfig } from '@playwright/test';

const port = Number(process.env['BIJOU_TEST_PORT'] ?? 4390);

/** The real interface in Debian's Chromium, over a copy of the demo data of its own. */
export default defineConfig({
  testDir: 'tests/browser',
  timeout: 60_000,
  workers: 1,
  forbidOnly: Boolean(process.env['CI']),
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    trace: 'retain-on-failure',
    launchOptions: {
      executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
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
  webServer: {
    command: `node scripts/demoServer.mjs ${port}`,
    url: `http://127.0.0.1:${port}/api/projects`,
    timeout: 120_000,
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 5_000 },
  },
});
