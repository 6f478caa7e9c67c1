// How long the demo takes to open: from the address, and from its link in the list of projects, to the first picture in
// hand. Each time with an empty cache, the server and the browser having been at work for a while.
import { chromium, type Page } from '@playwright/test';
import { CHROMIUM } from '../e2e/browser.ts';
import { startServer } from '../e2e/server.ts';

export interface OpeningResult {
  /** Seconds, rising. */
  byAddress: number[];
  fromList: number[];
}
const TIMES = 7;
const PROJECT = 'Slow Morning';
/** A browser that has just begun has work of its own. */
const BEGUN_MS = 5000;

/** When the first picture was drawn, ms since the page began. */
async function pictureAt(page: Page): Promise<number> {
  const marks = `performance.getEntriesByName('mellow:first-picture').map((m) => m.startTime)`;
  for (;;) {
    const [at] = await page.evaluate<number[]>(marks);
    if (at !== undefined) return at;
    await page.waitForTimeout(50);
  }
}
async function byAddress(page: Page, address: string): Promise<number> {
  await page.goto(address, { waitUntil: 'commit' });
  return (await pictureAt(page)) / 1000;
}
async function fromList(page: Page, address: string): Promise<number> {
  await page.goto(address);
  const link = page.getByRole('link', { name: PROJECT, exact: true });
  await link.waitFor();
  await page.waitForLoadState('networkidle');
  await page.evaluate(`addEventListener('click', () => { window.clickedAt = performance.now(); }, true)`);
  await link.click();
  const at = await pictureAt(page);
  return (at - (await page.evaluate<number>('window.clickedAt'))) / 1000;
}

export async function benchOpening(): Promise<OpeningResult> {
  const server = await startServer();
  const browser = await chromium.launch(CHROMIUM);
  try {
    await server.rest();
    const projects = (await (await fetch(`${server.url}/api/projects`)).json()) as { id: string; name: string }[];
    const { id } = projects.find((p) => p.name === PROJECT)!;
    const seconds = async (open: (page: Page) => Promise<number>): Promise<number[]> => {
      const all: number[] = [];
      // the first is not counted: the server's code and files come with it
      for (let i = 0; i <= TIMES; i++) {
        const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
        all.push(await open(await context.newPage()));
        await context.close();
      }
      return all.slice(1).sort((a, b) => a - b);
    };
    await new Promise((resolve) => setTimeout(resolve, BEGUN_MS));
    return {
      byAddress: await seconds((page) => byAddress(page, `${server.url}/projects/${id}/recolour`)),
      fromList: await seconds((page) => fromList(page, server.url)),
    };
  } finally {
    await browser.close();
    await server.close();
  }
}
