import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'tests/e2e',
  // Three go side by side, each worker with a server of its own: much of a test waits, for a page or for time to pass.
  workers: 3,
  fullyParallel: true,
  timeout: 120_000,
  expect: { timeout: 20_000 },
  retries: 0,
  reporter: process.env.LANE_E2E_JSON ? [['list'], ['json', { outputFile: process.env.LANE_E2E_JSON }]] : 'list',
  globalSetup: './tests/e2e/globalsetup.ts',
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
