// A film on its way to the server: paused, gone on with, broken off by a reload, and sent on from where it was.
import { execFileSync } from 'node:child_process';
import { statSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { words } from '../packages/server/src/media/words.ts';
import { ownFolder } from './ownFolder.ts';
import { startServer, type TestServer } from './server.ts';

const work = ownFolder();
const film = () => work('film.mkv');
let server: TestServer;
test.beforeAll(async () => {
  const noise = words('-v error -f lavfi -i testsrc2=size=640x360:rate=24,noise=alls=60:allf=t -frames:v 24 -c:v ffv1');
  execFileSync('ffmpeg', [...noise, film()]);
  server = await startServer();
});
test.afterAll(async () => {
  await server.close();
});

test('a film is sent, held, broken off and sent on', async ({ page }) => {
  const offsets: number[] = [];
  page.on('request', (request) => {
    if (request.method() === 'PATCH') offsets.push(Number(request.headers()['upload-offset']));
  });
  await page.goto(server.url);
  await page.getByRole('link', { name: 'Slow Morning, from the start', exact: true }).click();
  await page.getByRole('link', { name: 'Shots', exact: true }).click();
  const choose = () => page.locator('input[type="file"][multiple]').first().setInputFiles(film());
  const network = await page.context().newCDPSession(page);
  await network.send('Network.enable');
  const slowly = (uploadThroughput: number) =>
    network.send('Network.emulateNetworkConditions', {
      ...{ offline: false, latency: 0, downloadThroughput: -1, uploadThroughput },
    });
  // some thirty seconds for the whole of it
  await slowly(statSync(film()).size / 30);
  const bar = page.getByRole('progressbar').first();
  const share = async () => Number(await bar.getAttribute('aria-valuenow'));

  await test.step('it is paused, and goes on', async () => {
    await choose();
    await expect.poll(share).toBeGreaterThan(9);
    await page.getByRole('button', { name: 'Pause' }).click();
    await expect(page.getByText('film.mkv is paused')).toBeVisible();
    const held = await share();
    await page.getByRole('button', { name: 'Go on' }).click();
    await expect.poll(share).toBeGreaterThan(held);
  });
  await test.step('after a reload it is known, and chosen again it goes on from there', async () => {
    await expect.poll(share).toBeGreaterThan(40);
    await page.reload();
    await expect(page.getByText(/Sent, and not brought in: film\.mkv \d+ %/)).toBeVisible();
    await slowly(-1);
    offsets.length = 0;
    await choose();
    await expect(page.getByText('film', { exact: true }).first()).toBeVisible();
    expect(offsets).toHaveLength(1);
    expect(offsets[0]).toBeGreaterThan(0.3 * statSync(film()).size);
    await expect(page.getByText(/Sent, and not brought in/)).toHaveCount(0);
  });
  await test.step('what is stopped leaves nothing behind', async () => {
    // the pictures of the film that came in before may still be made, which shows a bar and can be cancelled as well
    const onItsWay = page.getByRole('group', { name: 'On its way' });
    const cancel = async () => {
      await onItsWay.getByRole('button', { name: 'Cancel' }).click();
      await expect(page.getByText('The upload was stopped; nothing was imported.')).toBeVisible();
    };
    const listed = async () => (await fetch(`${server.url}/api/uploads`)).text();
    await slowly(statSync(film()).size / 30);
    await choose();
    const sent = async () => Number(await onItsWay.getByRole('progressbar').getAttribute('aria-valuenow'));
    await expect.poll(sent).toBeGreaterThan(9);
    await cancel();
    await expect.poll(listed).toBe('[]');

    // nor does what is stopped before the server has said where it may be sent to
    let make = (): void => undefined;
    const isAsked = new Promise<void>((resolve) => (make = resolve));
    let answer = (): void => undefined;
    const isLate = new Promise<void>((resolve) => (answer = resolve));
    await page.route('**/api/uploads', async (route) => {
      if (route.request().method() !== 'POST') return route.continue();
      const response = await route.fetch();
      make();
      await isLate;
      await route.fulfill({ response });
    });
    await choose();
    await isAsked;
    expect(await listed()).not.toBe('[]');
    await cancel();
    answer();
    await expect.poll(listed).toBe('[]');
  });
});

test('what is deleted is gone for good, and nothing else', async ({ page }) => {
  let answer = (): void => undefined;
  const isLate = new Promise<void>((resolve) => (answer = resolve));
  await page.route('**/api/projects', async (route) => {
    await isLate;
    await route.continue();
  });
  await page.goto(server.url);
  await expect(page.getByRole('button', { name: 'New project' })).toBeVisible();
  // what stands under the projects is not there to be pressed before they push it away
  const onDisk = page.getByRole('button', { name: 'Space on the disk' });
  await expect(onDisk).toHaveCount(0);
  answer();
  await onDisk.click();
  const space = page.getByRole('dialog', { name: /Space/ });
  await expect(space.getByRole('row', { name: /^Slow Morning, from the start/ })).toBeVisible();
  await page.keyboard.press('Escape');
  const name = 'Slow Morning, from the start';
  const more = () => page.getByRole('button', { name: `More of ${name}`, exact: true });
  await more().click();
  await page.getByRole('menuitem', { name: 'Remove' }).click();
  await page.getByText('Removed', { exact: true }).click();
  await more().click();
  await page.getByRole('menuitem', { name: /Delete for good/ }).click();
  await page.getByRole('button', { name: 'Delete for good' }).click();
  await expect(page.getByText(/No project was removed/)).toBeVisible();
  await page.getByText('Open', { exact: true }).click();
  // its footage is the other's too
  await page.getByRole('link', { name: 'Slow Morning', exact: true }).click();
  await expect(page.getByRole('img', { name: /^1 Platform, frame 0/ })).toBeVisible();
});
