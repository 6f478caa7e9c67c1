// Mattes that hold for whole shots, made as a colorist makes them: key, loose shape, a track, the shape follows it.
// Then frames of all the shot are computed as the renderer does and compared with the ground truth.
import { expect, test, type Page } from '@playwright/test';
import { Driver, type Place } from './driving.ts';
import { finished } from './going.ts';
import { startServer, type TestServer } from './server.ts';
import { JOBS, makeTracked } from './jobs.ts';
import { throughShot, follow, section, trackRegion } from './tracking.ts';

// the longest file: its shots go to whichever worker is free, each with a server of its own
test.describe.configure({ mode: 'parallel' });
let server: TestServer;
test.beforeAll(async () => void (server = await startServer()));
test.afterAll(() => server.close());

/** The figures over time, read off the panel: threads of a fringe flicker some, and the matte stays on its track. */
async function checkHold(page: Page): Promise<void> {
  await section(page, 'Clean-up');
  const check = page.getByRole('button', { name: 'Check how it holds' });
  await check.click();
  await finished(
    async () => ({ isBack: await check.isVisible(), panel: await page.locator('.panel').innerText() }),
    ({ isBack }) => isBack,
  );
  const worst = async (figure: string) =>
    Number(/([\d.]+)(?: px)? worst/.exec(await page.getByLabel(figure, { exact: true }).first().innerText())![1]);
  // a motion gone astray would lay fringe over gap: half of the band and more
  expect(await worst('Chatter')).toBeLessThan(0.3);
  expect(await worst('Slip')).toBeLessThan(2);
  await finished(
    () => page.locator('[data-strip]').evaluateAll((strips) => strips.map((s) => s.ariaLabel)),
    (told) => told.includes('Chatter: 47 of 48 frames') && told.includes('Slip: 48 of 48 frames'),
  );
}

/** Strokes over the suitcase on the platform, and beside it. */
const STROKES: ['in' | 'out', Place[]][] = [
  [
    'in',
    [
      [264, 325],
      [281, 527],
      [387, 650],
      [501, 615],
      [492, 352],
      [352, 334],
    ],
  ],
  [
    'out',
    [
      [197, 281],
      [202, 686],
    ],
  ],
  [
    'out',
    [
      [559, 352],
      [571, 668],
    ],
  ],
  [
    'out',
    [
      [264, 243],
      [510, 243],
    ],
  ],
  [
    'out',
    [
      [325, 703],
      [527, 689],
    ],
  ],
];
test(
  'a scribble that follows a track holds for the whole shot, and stays where it is when it ' + 'follows no longer',
  async ({ page }) => {
    const d = new Driver(page, server);
    await d.open();
    await d.stage('Isolate');
    await d.piece('Lark suitcase');
    await d.shot('1 Platform');
    for (const { name } of (await d.sighting('Lark suitcase', '1 Platform'))?.layers ?? [])
      await d.step(`Remove ${name}`, () => page.getByRole('button', { name: `Remove ${name}`, exact: true }).click());
    await d.goTo(24);
    await d.shown();
    for (const [sign, points] of STROKES) {
      await page.getByRole('button', { name: new RegExp(`^Scribble over what is ${sign}`) }).click();
      await d.step(new RegExp(`^Scribble ${sign} on`), () => d.draw(points));
    }
    await follow(
      d,
      page,
      'Scribble 1',
      await trackRegion(
        d,
        page,
        [
          [290, 290],
          [545, 690],
        ],
        ['perspective'],
      ),
    );
    const { mean, least, frames } = await throughShot(d, 'Lark suitcase', '1 Platform', 'shot-1-platform', 'suitcase');
    expect(frames).toBe(12);
    expect(mean).toBeGreaterThanOrEqual(0.95);
    expect(least).toBeGreaterThanOrEqual(0.9);

    const strokesNow = async () =>
      (await d.sighting('Lark suitcase', '1 Platform'))!.layers.flatMap((l) =>
        l.kind === 'scribble' ? l.strokes : [],
      );
    const before = await strokesNow();
    await d.goTo(2);
    await d.step('Scribble 1 no longer follows', () =>
      page.getByRole('button', { name: 'Stop, as on this frame' }).click(),
    );
    // by frame 2 the camera has moved the suitcase by some dozens of pixels: so far do the strokes go
    const moved = (await strokesNow())[0]!.points[0]![0] - before[0]!.points[0]![0];
    expect(Math.abs(moved)).toBeGreaterThan(10);
    await section(page, 'Layer');
    await d.step('Remove a stroke of Scribble 1', () =>
      page.getByRole('button', { name: 'Remove stroke out 4' }).click(),
    );
    expect((await strokesNow()).length).toBe(4);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await strokesNow()).length).toBe(5);

    // a page that is left before it knows what a stroke lies on keeps it all the same
    await page.getByRole('button', { name: /^Scribble over what is out/ }).click();
    await d.draw(STROKES[0]![1]);
    await page.reload();
    await expect.poll(async () => (await strokesNow()).length).toBe(6);
  },
);

/** The other shots' mattes, made the same way, are in the finished demo: `demo/finished.test.ts` compares them. */
const SHOT = '5 Gate';
test(`${SHOT}: key, loose shape and track hold for the whole shot`, async ({ page }) => {
  const d = new Driver(page, server);
  await d.open();
  await d.stage('Isolate');
  for (const job of JOBS.filter((j) => j.shot === SHOT)) {
    await makeTracked(d, page, job);
    const { mean, least, frames } = await throughShot(d, job.piece, job.shot, job.file, job.matte);
    expect(frames).toBe(12);
    expect(mean).toBeGreaterThanOrEqual(0.95);
    expect(least).toBeGreaterThanOrEqual(0.9);
  }
  await checkHold(page);
});
