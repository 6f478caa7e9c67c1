import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './browser.ts';

/** For so long nothing may be asked of the page in vain, in ms. */
const HANGS = 120_000;

const LONGEST = ['lineup.spec.ts', 'suitcase.spec.ts', 'hands.spec.ts', 'reel.spec.ts'];

export default defineConfig({
  testDir: '.',
  // the longest files first, so that the others fill the time beside them
  projects: [
    { name: 'longest', testMatch: LONGEST },
    { name: 'others', testMatch: '*.spec.ts', testIgnore: LONGEST },
  ],
  globalSetup: './loadDemo.ts',
  fullyParallel: false,
  // files side by side, each with a server and a database of its own
  workers: 2,
  retries: 0,
  // what hangs is told of by its own wait, long before
  timeout: 1_500_000,
  // how long a thing takes is the machine's affair: these tell what hangs
  expect: { timeout: HANGS },
  reporter: [['list']],
  use: {
    actionTimeout: HANGS,
    viewport: { width: 1280, height: 800 },
    launchOptions: CHROMIUM,
    screenshot: 'only-on-failure',
  },
});
