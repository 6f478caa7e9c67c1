// Takes the README's pictures from a running `npm start` with the demo loaded: one of each main view.
//   npm run screenshots -- [address]
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { CHROMIUM } from '../e2e/browser.ts';

const base = process.argv[2] ?? 'http://127.0.0.1:5280';
const only = process.argv[3];
const out = join(import.meta.dirname, '../docs/screenshots');
const browser = await chromium.launch(CHROMIUM);
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('pageerror', (e) => console.error('page error:', e.message));
page.on('console', (m) => m.type() === 'error' && console.error('console:', m.text()));
const [project] = (await (await fetch(`${base}/api/projects`)).json()) as { id: string }[];
const pictures: [string, string][] = [
  ['projects', '/'],
  ...['shots', 'isolate', 'recolour', 'lineup', 'deliver'].map((stage): [string, string] => [stage, `/projects/${project!.id}/${stage}`]),
];
for (const [name, path] of pictures.filter(([n]) => !only || n === only)) {
  await page.goto(base + path);
  await page.waitForLoadState('networkidle', { timeout: 4000 }).catch(() => undefined);
  await page.waitForTimeout(1500);
  await page.screenshot({ path: join(out, `${name}.png`) });
  console.log(name);
}
await browser.close();
