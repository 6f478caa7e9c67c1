// Does the whole demo through the interface and keeps it as `demo/finished.json`: `npm run demo:finish`.
import { defineConfig } from '@playwright/test';
import journeys from './playwright.config.ts';

export default defineConfig({ ...journeys, testMatch: 'finishDemo.ts', workers: 1, timeout: 1_800_000 });
