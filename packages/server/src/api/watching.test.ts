// What whoever runs the server sees of its requests: their ids, their log, and the measures that a monitor reads.
import { once } from 'node:events';
import express from 'express';
import type { AddressInfo } from 'node:net';
import pino from 'pino';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startHarness, type Harness } from '../testing/harness.ts';
import { signedIn } from '../testing/people.ts';
import { loggedRequests, withoutSecret } from './requests.ts';

let h: Harness;
beforeAll(async () => void (h = await startHarness({ people: true, monitorToken: 'of the monitor' })));
afterAll(() => h.close());

const scraped = (authorization: string) => fetch(`${h.url}/api/metrics`, { headers: { authorization } });
/** The value of a measure; the text format 0.0.4 has one to a line. */
const valueOf = (text: string, name: string) =>
  Number(new RegExp(`^${name.replace(/[{}"]/g, '\\$&')} (\\S+)$`, 'm').exec(text)?.[1]);

describe('measures', () => {
  it('tell of requests by operation and status, of the work, and of open pages', async () => {
    const anna = await signedIn(h, 'anna', 'member');
    const { id: projectId } = await anna.call('createProject', {}, { name: 'Film' });
    for (let i = 0; i < 3; i++) await anna.call('listNotes', { projectId });
    await anna.send('getProject', { projectId: 'none' });
    const stream = await anna.send('events', { projectId });
    const text = await (await scraped('Bearer of the monitor')).text();
    const count = (of: string) => valueOf(text, `mellow_request_seconds_count{${of}}`);
    expect(count('operation="listNotes",status="200"')).toBe(3);
    expect(count('operation="getProject",status="404"')).toBe(1);
    expect(valueOf(text, 'mellow_open_pages')).toBe(1);
    expect(valueOf(text, 'mellow_jobs_running')).toBe(0);
    expect(valueOf(text, 'process_resident_memory_bytes')).toBeGreaterThan(1e7);
    await stream.body!.cancel();
  });
  it('are for admins and the monitor', async () => {
    expect((await scraped('Bearer of another')).status).toBe(401);
    expect((await scraped('')).status).toBe(401);
    expect((await (await signedIn(h, 'ben', 'member')).send('metrics')).status).toBe(403);
    expect((await (await signedIn(h, 'cara', 'admin')).send('metrics')).status).toBe(200);
    // it opens nothing else
    const headers = { authorization: 'Bearer of the monitor' };
    expect((await fetch(`${h.url}/api/projects`, { headers })).status).toBe(401);
  });
});

describe('the log', () => {
  it('has each request that changes something or fails once, by its id, without what is secret', async () => {
    const lines: { level: number; req: { id: string; url: string }; res: object }[] = [];
    const app = express();
    app.use(loggedRequests(pino({ level: 'info' }, { write: (line: string) => void lines.push(JSON.parse(line)) })));
    app.get('/fine', (_request, response) => void response.send('x'));
    app.post('/invitations/:token', (_request, response) => void response.status(201).send('x'));
    app.get('/broken', (_request, response) => void response.status(500).send('x'));
    const server = app.listen(0, '127.0.0.1');
    await once(server, 'listening');
    const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
    const ids = [];
    for (const [method, path] of [
      ['GET', '/fine'],
      ['POST', '/invitations/secret-word?also=secret'],
      ['GET', '/broken'],
      ['GET', '/nowhere'],
    ] as const)
      ids.push((await fetch(base + path, { method })).headers.get('x-request-id'));
    server.close();
    expect(new Set(ids).size).toBe(4);
    expect(lines.map((l) => [l.level, l.req.id, l.req.url])).toEqual([
      [30, ids[1], '/invitations/…'],
      [50, ids[2], '/broken'],
      [40, ids[3], '/nowhere'],
    ]);
    expect(JSON.stringify(lines)).not.toMatch(/secret|authorization|cookie/i);
  });
  it('leaves the words out by which a link opens something', () => {
    expect(withoutSecret('/api/reviews/a-secret/files/1?x=2')).toBe('/api/reviews/…/files/1');
    expect(withoutSecret('/api/projects/1/reviews')).toBe('/api/projects/1/reviews');
  });
});

describe('a body', () => {
  it('is as large as what it is for needs, and no larger', async () => {
    const anna = await signedIn(h, 'dora', 'member');
    const { id: projectId } = await anna.call('createProject', {}, { name: 'Film' });
    const long = 'x'.repeat(2e6);
    const named = await anna.send('createProject', {}, { name: long });
    expect([named.status, await named.json()]).toMatchObject([413, { detail: 'The body is over 1 MB.' }]);
    // an edit of two megabytes is read, and refused for what is in it
    expect((await anna.send('change', { projectId }, { id: long })).status).toBe(400);
    const drawn = await anna.send('addNote', { projectId }, { drawing: [], text: 'x'.repeat(9e5) });
    expect(drawn.status).toBe(400);
  });
});
