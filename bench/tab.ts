// What a tab of the browser takes while somebody works in the demo: `npm run tab -- [MINUTES]`. One who plays, scrubs,
// turns hues, draws strokes and shapes and takes them back, in every shot and stage, without a pause. Told each few
// minutes: memory of the tab's process, workers included, without the browser's own program, at most and once garbage
// has been collected; and what the page said that was an error.
import { chromium, type Page } from '@playwright/test';
import { CHROMIUM } from '../e2e/browser.ts';
import { Driver } from '../e2e/driving.ts';
import { startServer } from '../e2e/server.ts';
import { ownMegabytes } from './measures.ts';

const MINUTES = Number(process.argv[2] ?? 60);
const TOLD_EVERY_MS = 5 * 60_000;
const SHOTS = ['1 Platform', '2 Café', '3 Street', '4 Turn', '5 Gate'];
const PLAYED_MS = 4000;

/** What somebody does with a shot; `round` says which numbers. */
async function workOn(d: Driver, page: Page, shot: string, round: number): Promise<void> {
  await d.stage('Recolour');
  await d.shot(shot);
  await d.shown();
  await page.getByRole('button', { name: 'Play' }).click();
  await page.waitForTimeout(PLAYED_MS);
  await page.getByRole('button', { name: 'Pause' }).click();
  await d.goTo(7 + (round % 40));
  // a hue that it has not had, which then goes on or is taken back
  await d.number('Hue', String(((37 * round) % 340) - 170));
  await d.shown();
  if (round % 2 === 0) await undo(d, page);

  await d.stage('Isolate');
  await d.shown();
  await page.getByRole('button', { name: /^Scribble over what is in/ }).click();
  const [x, y] = [300 + ((53 * round) % 600), 200 + ((31 * round) % 300)];
  await d.step(/^Scribble in on/, () => d.draw([[x, y], [x + 60, y + 20], [x + 90, y + 70]])); // prettier-ignore
  await undo(d, page);
  await page.getByRole('button', { name: 'Rectangle', exact: true }).click();
  await d.step(/^Draw /, () => d.drag([x, y], [x + 150, y + 120]));
  await undo(d, page);

  await d.stage('Line-up');
  await page.waitForTimeout(1500);
}
async function undo(d: Driver, page: Page): Promise<void> {
  const before = (await d.steps()).length;
  await page.keyboard.press('Control+z');
  while ((await d.steps()).length >= before) await page.waitForTimeout(100);
}

/** Collects the garbage of a page and of its workers, those that it starts from now on. */
async function collector(page: Page): Promise<() => Promise<void>> {
  const cdp = await page.context().newCDPSession(page);
  const workers: string[] = [];
  cdp.on('Target.attachedToTarget', ({ sessionId }) => workers.push(sessionId));
  await cdp.send('Target.setAutoAttach', { autoAttach: true, waitForDebuggerOnStart: false, flatten: false });
  const message = JSON.stringify({ id: 1, method: 'HeapProfiler.collectGarbage' });
  return async () => {
    const answers = workers.map(
      (worker) =>
        new Promise<void>((resolve) => {
          const heard = (said: { sessionId: string; message: string }) => {
            if (said.sessionId !== worker || !said.message.includes('"id":1')) return;
            cdp.off('Target.receivedMessageFromTarget', heard);
            resolve();
          };
          cdp.on('Target.receivedMessageFromTarget', heard);
        }),
    );
    await Promise.all([
      cdp.send('HeapProfiler.collectGarbage'),
      ...workers.map((sessionId) => cdp.send('Target.sendMessageToTarget', { sessionId, message })),
    ]);
    await Promise.all(answers);
  };
}

const server = await startServer();
const browser = await chromium.launch(CHROMIUM);
try {
  await server.rest();
  const cdp = await browser.newBrowserCDPSession();
  /** Of all processes that show a page, MB. */
  const taken = async (): Promise<number> => {
    const { processInfo } = await cdp.send('SystemInfo.getProcessInfo');
    return Math.max(...processInfo.filter((p) => p.type === 'renderer').map((p) => ownMegabytes(p.id)));
  };
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  const collected = await collector(page);
  const d = new Driver(page, server);
  await d.open(/^Slow Morning(?!, from)/);
  const begun = Date.now();
  const told = async (what: string) => {
    await collected();
    console.log(`${Math.round((Date.now() - begun) / 60_000)} min, ${what}: ${Math.round(await taken())} MB held`);
  };
  await d.stage('Recolour');
  await d.shown();
  await told('opened');
  let most = 0;
  let rounds = 0;
  for (let next = begun + TOLD_EVERY_MS; Date.now() < begun + MINUTES * 60_000; rounds++) {
    await workOn(d, page, SHOTS[rounds % SHOTS.length]!, rounds);
    most = Math.max(most, await taken());
    if (Date.now() < next) continue;
    next += TOLD_EVERY_MS;
    await told(`${rounds + 1} rounds, ${Math.round(most)} MB at most`);
  }
  await told(`${rounds} rounds at the end, ${Math.round(most)} MB at most; errors: ${errors.join('; ') || 'none'}`);
} finally {
  await browser.close();
  await server.close();
}
process.exit(0);
