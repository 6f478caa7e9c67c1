// The kit page: every shared part in all three rooms, photographed, without a hue of its own and without a violation.
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { expect, test } from '@playwright/test';
import { createServer, type ViteDevServer } from 'vite';

let vite: ViteDevServer;
test.beforeAll(async () => {
  const root = join(import.meta.dirname, '../packages/web');
  // what it makes ready stands apart from any other server's
  const cacheDir = join(import.meta.dirname, '../.data/vite-kit');
  // a build in the same process, of a file that ran before, leaves it at production, in which there is no kit
  process.env.NODE_ENV = 'development';
  vite = await createServer({ root, cacheDir, logLevel: 'error', server: { port: 0, host: '127.0.0.1' } });
  await vite.listen();
});
test.afterAll(() => vite.close());

/** More than this between the channels of a pixel is a hue; antialiased text has none in a headless browser. */
const HUE = 6;

test('is neutral and without a violation in every room', async ({ page }, info) => {
  for (const [room, textStep] of [
    ['dim', 0],
    ['mid', 1],
    ['bright', 2],
  ] as const) {
    await page.addInitScript(
      (kept) => localStorage.setItem('mellow:room', kept),
      JSON.stringify({ surround: room, textStep }),
    );
    await page.goto(`${vite.resolvedUrls!.local[0]}kit`);
    await expect(page.getByRole('heading', { name: 'Kit' })).toBeVisible();
    const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag22aa']).analyze();
    expect(violations.map((v) => `${room}: ${v.id} ${v.nodes.map((n) => n.html).join(' ')}`.slice(0, 400))).toEqual([]);
    const photograph = await page.screenshot({ path: info.outputPath(`kit-${room}.png`) });
    expect(photograph.length).toBeGreaterThan(10_000);
    // colour is for what is measured or required: without swatches and fields nothing on the page has a hue
    await page.addStyleTag({ content: '.chip-face svg, .tint-field { visibility: hidden }' });
    const neutral = await page.screenshot();
    const coloured = await page.evaluate(
      async ([url, limit]) => {
        const picture = await createImageBitmap(await (await fetch(url)).blob());
        const g = new OffscreenCanvas(picture.width, picture.height).getContext('2d')!;
        g.drawImage(picture, 0, 0);
        const { data } = g.getImageData(0, 0, picture.width, picture.height);
        let found = 0;
        for (let i = 0; i < data.length; i += 4) {
          const rgb = [data[i]!, data[i + 1]!, data[i + 2]!];
          if (Math.max(...rgb) - Math.min(...rgb) > limit) found++;
        }
        return found;
      },
      [`data:image/png;base64,${neutral.toString('base64')}`, HUE] as const,
    );
    expect(coloured, `${room} room`).toBe(0);
  }
});
