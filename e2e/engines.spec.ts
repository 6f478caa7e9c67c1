// The preview is computed by the browser and the file by the server: both give the same bytes.
import { expect, test } from '@playwright/test';
import { fileURLToPath } from 'node:url';
import { build, type Rolldown } from 'vite';
import { renders } from './renders.ts';

test('the core gives the same bytes in the browser and on the server', async ({ page }) => {
  const bundled = (await build({
    configFile: false,
    logLevel: 'error',
    build: {
      write: false,
      minify: false,
      lib: {
        entry: fileURLToPath(new URL('./renders.ts', import.meta.url)),
        formats: ['iife'],
        name: 'core',
        fileName: 'core',
      },
    },
  })) as Rolldown.RolldownOutput[];
  await page.addScriptTag({ content: bundled[0]!.output[0].code });
  const inBrowser = await page.evaluate<Record<string, string>>('core.renders()');
  const here = renders();
  expect(inBrowser).toEqual(here);
  // different renders give different bytes, or the digests would tell nothing
  expect(new Set(Object.values(here)).size).toBe(Object.keys(here).length);
});
