// Attacks that only a browser shows: names that are scripts, pages of others that act in a signed-in person's name,
// read what is theirs or show the application in themselves, and names of other sites that lead here. Those that need
// none are beside what they attack: guesses and stolen sessions (people/signIn.test), ways out of the media folder and
// playlists that name other files (media/media.test), zips (archive/archive.test).
import { randomUUID } from 'node:crypto';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { chromium, expect, test, type Page } from '@playwright/test';
import { CHROMIUM } from './browser.ts';
import { ownFolder } from './ownFolder.ts';
import { startServer, type TestServer } from './server.ts';

const SCRIPT = '<img src=x onerror="window.attacked = 1"><script>window.attacked = 1</script>';
const secrets = ownFolder();
let server: TestServer;
/** A site of somebody else: on the same machine, so that the browser sends the same cookies to it and from it. */
let theirs: Server;
let page: Page;
test.beforeAll(async ({ browser }) => {
  server = await startServer({ MELLOW_SIGN_IN: 'on', MELLOW_SECRET_FILE: secrets('secret') });
  theirs = createServer((_request, response) => {
    response.writeHead(200, { 'content-type': 'text/html' }).end('<!doctype html><title>Prizes</title>');
  }).listen(0, '127.0.0.1');
  page = await (await browser.newContext()).newPage();
  const link = await server.invite('admin', 'Admin', 'admin');
  await page.goto(server.url + link);
  await page.getByLabel('Password').fill('a password of some length');
  await page.getByRole('button', { name: 'Come in' }).click();
  await page.getByRole('link', { name: 'Slow Morning', exact: true }).waitFor();
});
test.afterAll(async () => {
  theirs.close();
  await server.close();
});

const attacked = () => page.evaluate(() => (window as { attacked?: number }).attacked);
/** Asks in the signed-in person's name, as the application's own pages do. */
const ask = <T>(method: string, path: string, body?: unknown): Promise<T> =>
  page.evaluate(
    async ([how, where, what]) => {
      const headers = { 'content-type': 'application/json' };
      const response = await fetch(where, { method: how, ...(what && { headers, body: what }) });
      return (await response.json()) as never;
    },
    [method, path, body === undefined ? undefined : JSON.stringify(body)] as const,
  );

test('a name that is a script is a name', async () => {
  const { id: projectId } = await ask<{ id: string }>('POST', '/api/projects', { name: SCRIPT });
  const id = randomUUID();
  const piece = { id, projectId, name: SCRIPT, kind: 'product', position: 0, partOf: null };
  const edits = [{ kind: 'piece', id, revision: null, value: piece }];
  await ask('POST', `/api/projects/${projectId}/changes`, { id: randomUUID(), label: SCRIPT, edits });
  await page.reload();
  await expect(page.getByRole('link', { name: SCRIPT })).toBeVisible();
  await page.getByRole('link', { name: SCRIPT }).click();
  await expect(page.locator('.topbar').getByText(SCRIPT).first()).toBeVisible();
  for (const stage of ['Isolate', 'Recolour', 'Line-up', 'Deliver', 'Shots']) {
    await page.getByRole('link', { name: stage, exact: true }).click();
    await expect(page).toHaveURL(new RegExp(stage.toLowerCase().replace('-', '-?')));
  }
  expect(await attacked()).toBeUndefined();
});
test('nor does a script run that got into the page all the same', async () => {
  await page.evaluate(() => {
    const script = document.createElement('script');
    script.textContent = 'window.attacked = 1';
    document.head.append(script);
  });
  expect(await attacked()).toBeUndefined();
});

test('a page of others can neither act nor read in one’s name, nor show the application in itself', async () => {
  const before = await ask<{ id: string; name: string }[]>('GET', '/api/projects');
  const own = page.url();
  await page.goto(`http://127.0.0.1:${(theirs.address() as AddressInfo).port}/`);
  const victim = before.find((p) => p.name === 'Slow Morning')!.id;
  const outcomes = await page.evaluate(
    async ([url, projectId]) => {
      const tried: Record<string, string> = {};
      const attempt = async (what: string, path: string, init: RequestInit) => {
        const asked = fetch(url + path, { credentials: 'include', ...init });
        tried[what] = await asked.then(
          (response) => `${response.type} ${response.status}`,
          () => 'refused by the browser',
        );
      };
      const body = JSON.stringify({ name: 'Theirs' });
      // what a browser sends to anybody without asking: a form, and JSON that passes for plain text
      await attempt('plain text', '/api/projects', { method: 'POST', mode: 'no-cors', body });
      const form = new FormData();
      form.append('files', new Blob(['x']), 'x.mp4');
      await attempt('a form', `/api/projects/${projectId}/media`, { method: 'POST', mode: 'no-cors', body: form });
      // what it asks about first
      const json = { 'content-type': 'application/json' };
      await attempt('JSON', '/api/projects', { method: 'POST', headers: json, body });
      await attempt('a deletion', `/api/projects/${projectId}`, { method: 'DELETE' });
      await attempt('an upload', '/api/uploads', { method: 'POST', headers: { 'tus-resumable': '1.0.0' } });
      await attempt('reading', '/api/projects', {});
      tried.listening = await new Promise((resolve) => {
        const events = new EventSource(`${url}/api/projects/${projectId}/events`, { withCredentials: true });
        events.onopen = () => resolve('opened');
        events.onerror = () => resolve('refused by the browser');
      });
      return tried;
    },
    [server.url, victim] as const,
  );
  // what was sent all the same was answered with a refusal, which the page cannot read either
  expect([...new Set(Object.values(outcomes))]).toEqual(['refused by the browser']);
  // a form that takes the page along
  await page.evaluate((url) => {
    const form = Object.assign(document.createElement('form'), { method: 'post', enctype: 'text/plain' });
    form.action = `${url}/api/projects`;
    const field = Object.assign(document.createElement('input'), { name: '{"name":"Theirs","x":"', value: '"}' });
    form.append(field);
    document.body.append(form);
    form.submit();
  }, server.url);
  await expect(page.getByText('own pages only')).toBeVisible();

  await page.goto(`http://127.0.0.1:${(theirs.address() as AddressInfo).port}/`);
  await page.evaluate((url) => {
    document.body.append(Object.assign(document.createElement('iframe'), { src: url }));
  }, own);
  await expect.poll(() => page.frames().map((frame) => frame.url())).toContain('chrome-error://chromewebdata/');

  await page.goto(own);
  const after = await ask<{ id: string }[]>('GET', '/api/projects');
  expect(after.map((p) => p.id).toSorted()).toEqual(before.map((p) => p.id).toSorted());
});

test('under the name of another site, which leads here, nothing is answered', async () => {
  const rebound = await chromium.launch({
    ...CHROMIUM,
    args: [...CHROMIUM.args, '--host-resolver-rules=MAP prizes.example 127.0.0.1'],
  });
  try {
    const elsewhere = await rebound.newPage();
    const { port } = new URL(server.url);
    for (const path of ['/', '/api/projects', '/api/me']) {
      const response = await elsewhere.goto(`http://prizes.example:${port}${path}`);
      expect([path, response?.status()]).toEqual([path, 400]);
      await expect(elsewhere.getByText('own address only')).toBeVisible();
    }
  } finally {
    await rebound.close();
  }
});
