import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './browser.ts';

export default defineConfig({
  testDir: '.',
  // the longest file first, so that the others fill the time beside it
  projects: [
    { name: 'longest', testMatch: 'lineup.spec.ts' },
    { name: 'others', testMatch: '*.spec.ts', testIgnore: 'lineup.spec.ts' },
  ],
  globalSetup: './loadDemo.ts',
  fullyParallel: false,
  // files side by side, each with a server and a database of its own
  workers: 2,
  retries: 0,
  // what hangs is told of by its own wait, long before
  timeout: 1_500_000,
  expect: { timeout: 20_000 },
  reporter: [['list']],
  // a control that is not there is told of soon, not when the journey's time is over
  use: {
    actionTimeout: 60_000,
    viewport: { width: 1280, height: 800 },
    launchOptions: CHROMIUM,
    screenshot: 'only-on-failure',
  },
});
