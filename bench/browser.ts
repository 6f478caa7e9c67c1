// A control moved → the new picture on screen at 960×540 in headless Chromium, through the real interface: the hue
// label of the Recolour stage is dragged, and the application's own marks are read.
import { chromium } from '@playwright/test';
import { CHROMIUM } from '../e2e/browser.ts';
import { startServer } from '../e2e/server.ts';

export interface BrowserResult {
  medianMs: number;
  p90Ms: number;
  moves: number;
  playbackFps: number;
  dropped: number;
}

export async function benchBrowser(): Promise<BrowserResult> {
  const server = await startServer({ demo: true });
  const browser = await chromium.launch(CHROMIUM);
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const [project] = (await (await fetch(`${server.url}/api/projects`)).json()) as { id: string }[];
    const document = async () => (await (await fetch(`${server.url}/api/projects/${project!.id}`)).json()) as { proxies: Record<string, { state: string }> };
    while (Object.values((await document()).proxies).some((p) => p.state !== 'done')) await new Promise((r) => setTimeout(r, 300));
    await new Promise((r) => setTimeout(r, 8000)); // let the measuring of the seeded sighting finish
    await page.goto(`${server.url}/projects/${project!.id}/recolour`);
    await page.getByRole('combobox', { name: 'Piece' }).click();
    await page.locator('.ant-select-item').filter({ hasText: 'Scarf' }).click();
    const label = page.locator('.drag-number').filter({ hasText: 'Hue' });
    await page.waitForFunction(() => performance.getEntriesByName('mellow:shown').length > 0);
    await page.waitForTimeout(1500);
    const box = (await label.boundingBox())!;
    await page.mouse.move(box.x + 5, box.y + 5);
    await page.mouse.down();
    await page.evaluate(() => performance.clearMeasures());
    for (let i = 0; i < 120; i++) {
      await page.mouse.move(box.x + 5 + ((i * 3) % 90), box.y + 5);
      await page.waitForTimeout(60);
    }
    const times = (await page.evaluate(() => performance.getEntriesByName('mellow:shown').map((e) => e.duration))).sort((a, b) => a - b);
    await page.mouse.up();
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Play' }).click();
    await page.waitForTimeout(8000);
    const said = (await page.locator('.ruler').innerText()).match(/([\d.]+) fps, (\d+) dropped/);
    return { medianMs: times[Math.floor(times.length / 2)]!, p90Ms: times[Math.floor(times.length * 0.9)]!, moves: times.length, playbackFps: Number(said?.[1] ?? 0), dropped: Number(said?.[2] ?? 0) };
  } finally {
    await browser.close();
    await server.close();
  }
}
