import { defineConfig } from '@playwright/test';
import { CHROMIUM } from './browser.ts';

export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  fullyParallel: false,
  workers: 1,
  retries: 0,
  timeout: 240_000,
  expect: { timeout: 20_000 },
  reporter: [['list']],
  use: { viewport: { width: 1280, height: 800 }, launchOptions: CHROMIUM, screenshot: 'only-on-failure' },
});
