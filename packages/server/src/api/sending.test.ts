// Files sent in pieces, by hand as the protocol says (tus 1.0.0, tus.io/protocols/resumable-upload) and by its usual
// client.
import { execFileSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Upload as TusUpload } from 'tus-js-client';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ProjectId, UploadId } from '@mellow/contract';
import { clearForgottenUploads, listUploads } from '../media/uploads.ts';
import { uploadsFolder } from '../media/store.ts';
import { words } from '../media/words.ts';
import { startHarness, type Harness } from '../testing/harness.ts';
import { giveRole } from '../db/people.ts';
import { browser, signedIn, type Browser } from '../testing/people.ts';
import * as tus from '../testing/tus.ts';
import { base64, hashOf, OCTETS, TUS } from '../testing/tus.ts';

let h: Harness;
const work = mkdtempSync(join(tmpdir(), 'mellow-sending-'));
let film: Buffer;
beforeAll(async () => {
  h = await startHarness();
  const make = words('-v error -f lavfi -i testsrc2=size=320x180:rate=24 -frames:v 6 -c:v ffv1');
  execFileSync('ffmpeg', [...make, join(work, 'film.mkv')]);
  film = readFileSync(join(work, 'film.mkv'));
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

/** Begins to send a file, without any of it yet; its id. */
async function begun(name: string, bytes: number, headers: Record<string, string> = {}): Promise<UploadId> {
  const answer = await tus.begin(h, name, bytes, headers);
  expect(answer.status).toBe(201);
  return tus.idOf(answer);
}
const send = (id: string, from: number, body: Buffer, headers: Record<string, string> = {}): Promise<Response> =>
  tus.send(h, id, from, body, headers);
const offset = (id: string) => tus.offset(h, id);
const sent = async (name: string, bytes: Buffer): Promise<UploadId> => {
  const id = await begun(name, bytes.length);
  expect((await send(id, 0, bytes)).status).toBe(204);
  return id;
};
const newProject = async (): Promise<ProjectId> => (await h.call('createProject', {}, { name: 'Sent' })).id;
const whole = (id: UploadId, bytes: Buffer) => ({ as: 'footage' as const, files: [{ id, sha256: hashOf(bytes) }] });

/** Sends so much of a file and breaks the connection in the middle of the request, once the server has all that. */
async function brokenOff(id: string, bytes: Buffer, at: number): Promise<void> {
  const headers = { ...TUS, ...OCTETS, 'upload-offset': '0', 'content-length': String(bytes.length) };
  const sending = request(`${h.url}/api/uploads/${id}`, { method: 'PATCH', headers });
  sending.on('error', () => undefined);
  sending.write(bytes.subarray(0, at));
  const path = join(uploadsFolder(h.store, null), id);
  while (readFileSync(path).length < at) await new Promise((resolve) => setImmediate(resolve));
  sending.destroy();
}

describe('a file that is sent', () => {
  it('broken off at 60 % goes on from there, and comes in byte for byte', async () => {
    const id = await begun('film.mkv', film.length);
    const at = Math.round(film.length * 0.6);
    await brokenOff(id, film, at);
    expect(await offset(id)).toBe(at);
    expect(await h.call('listUploads')).toMatchObject([{ id, name: 'film.mkv', bytes: film.length, here: at }]);
    const projectId = await newProject();
    const early = await h.problem('importUploads', { projectId }, whole(id, film));
    expect(early).toMatchObject({ code: 'conflict', detail: expect.stringContaining(`${at} of ${film.length}`) });
    expect((await send(id, at, film.subarray(at))).status).toBe(204);
    const { mediaIds, shotIds } = await h.call('importUploads', { projectId }, whole(id, film));
    expect(shotIds).toHaveLength(1);
    const { media } = await h.call('getProject', { projectId });
    expect(media).toMatchObject([{ id: mediaIds[0], sha256: hashOf(film), name: 'film.mkv', frames: 6 }]);
    expect(readFileSync(join(h.store.root, 'store', hashOf(film), 'film.mkv')).equals(film)).toBe(true);
    expect(await h.call('listUploads')).toEqual([]);
    expect(readdirSync(uploadsFolder(h.store, null))).toEqual([]);
  });
  it('is sent so by the protocol’s usual client, whatever it is called', async () => {
    const name = `映画 café ${'ж'.repeat(110)}.mkv`;
    const url = await new Promise<string>((resolve, reject) => {
      const upload = new TusUpload(film, {
        endpoint: `${h.url}/api/uploads`,
        chunkSize: 1000,
        metadata: { filename: name, lastModified: '1700000000000' },
        onSuccess: () => resolve(upload.url!),
        onError: reject,
      });
      upload.start();
    });
    const id = url.split('/').at(-1) as UploadId;
    expect(await h.call('listUploads')).toEqual([
      { id, name, bytes: film.length, here: film.length, lastModified: 1_700_000_000_000 },
    ]);
    const projectId = await newProject();
    const { refused } = await h.call('importUploads', { projectId }, whole(id, film));
    expect(refused).toEqual([]);
    expect((await h.call('getProject', { projectId })).media[0]!.sha256).toBe(hashOf(film));
  });
  it('that was changed on its way is refused by its name, and is gone', async () => {
    const spoilt = Buffer.from(film);
    spoilt[spoilt.length >> 1]! ^= 1;
    const id = await sent('film.mkv', spoilt);
    const projectId = await newProject();
    const problem = await h.problem('importUploads', { projectId }, whole(id, film));
    expect(problem.detail).toContain('“film.mkv” is not what was sent');
    expect((await h.call('getProject', { projectId })).shots).toEqual([]);
    expect(await h.call('listUploads')).toEqual([]);
  });
  it('numbered images make one shot, a matte a plate', async () => {
    execFileSync('ffmpeg', [...words('-v error -i film.mkv -start_number 8'), 'still.%04d.png'], { cwd: work });
    const files = [];
    for (let n = 8; n < 14; n++) {
      const bytes = readFileSync(join(work, `still.${String(n).padStart(4, '0')}.png`));
      files.push({ id: await sent(`still.${String(n).padStart(4, '0')}.png`, bytes), sha256: hashOf(bytes) });
    }
    const projectId = await newProject();
    await h.call('importUploads', { projectId }, { as: 'footage', files, fps: 25 });
    const matte = await sent('matte.mkv', film);
    await h.call('importUploads', { projectId }, { ...whole(matte, film), as: 'plates' });
    const { media, shots, plates } = await h.call('getProject', { projectId });
    expect(media.find((m) => m.kind === 'sequence')).toMatchObject({ frames: 6, fps: { num: 25_000, den: 1000 } });
    expect([shots.length, plates.length]).toEqual([1, 1]);
  });
  it('that may yet come in another way stays until it has', async () => {
    const varying = words('-v error -i film.mkv -vf setpts=N*N/24/TB -fps_mode vfr -c:v ffv1 jumps.mkv');
    execFileSync('ffmpeg', varying, { cwd: work });
    const uneven = readFileSync(join(work, 'jumps.mkv'));
    const id = await sent('jumps.mkv', uneven);
    const projectId = await newProject();
    const { refused } = await h.problem('importUploads', { projectId }, whole(id, uneven));
    expect(refused![0]!.offer).not.toBeNull();
    const { timing, fps } = refused![0]!.offer!;
    const { shotIds } = await h.call('importUploads', { projectId }, { ...whole(id, uneven), timing, fps });
    expect(shotIds).toHaveLength(1);
    expect(await h.call('listUploads')).toEqual([]);
  });
  it('opens as a project where it is one', async () => {
    const saved = await fetch(`${h.url}/api/projects/${await newProject()}/archive`);
    const zip = Buffer.from(await saved.arrayBuffer());
    const id = await sent('Sent.zip', zip);
    const opened = await h.call('openSentArchive', {}, { id, sha256: hashOf(zip) });
    expect((await h.call('getProject', { projectId: opened.id })).project.value.name).toBe('Sent');
    expect(await h.call('listUploads')).toEqual([]);
    // where it is none it is refused, and need not lie here either
    const none = await sent('Film.zip', film);
    expect((await h.problem('openSentArchive', {}, { id: none, sha256: hashOf(film) })).code).toBe('invalid-input');
    expect(await h.call('listUploads')).toEqual([]);
  });
  it('can be dropped', async () => {
    const id = await sent('film.mkv', film);
    await fetch(`${h.url}/api/uploads/${id}`, { method: 'DELETE', headers: TUS });
    expect(readdirSync(uploadsFolder(h.store, null))).toEqual([]);
  });
});

describe('what is refused', () => {
  it('says why, and tells nothing of the inside', async () => {
    const id = await begun('film.mkv', film.length);
    const said = async (answer: Response) => {
      expect(answer.headers.get('access-control-allow-origin')).toBeNull();
      return (await answer.json()) as { status: number; code: string; detail: string };
    };
    expect(await said(await send(id, 5, film))).toMatchObject({ status: 409, code: 'conflict' });
    expect(await said(await send(id, 0, Buffer.alloc(film.length + 1)))).toMatchObject({ code: 'too-large' });
    expect(await said(await send('0', 0, film))).toMatchObject({ code: 'not-found' });
    const plain = { method: 'POST', headers: TUS };
    expect((await said(await fetch(`${h.url}/api/uploads`, plain))).detail).toContain('Upload-Length');
    const nameless = { method: 'POST', headers: { ...TUS, 'upload-length': '5' } };
    expect((await said(await fetch(`${h.url}/api/uploads`, nameless))).detail).toContain('filename');
    const terabyte = { 'upload-length': String(2 ** 40), 'upload-metadata': `filename ${base64('a')}` };
    const huge = { ...nameless.headers, ...terabyte };
    expect(await said(await fetch(`${h.url}/api/uploads`, { ...plain, headers: huge }))).toMatchObject({ status: 507 });
    expect(await offset(id)).toBe(0);
  });
  it('another page’s request, whatever cookies come with it', async () => {
    const id = await begun('film.mkv', film.length);
    expect((await send(id, 0, film, { origin: 'https://elsewhere.example' })).status).toBe(400);
    expect(await offset(id)).toBe(0);
  });
});

it('what nobody goes on with for a week is removed, and what a killed process has half described', async () => {
  const folder = uploadsFolder(h.store, null);
  const [old, young] = [await sent('old.mkv', film), await sent('young.mkv', film)];
  const broken = join(folder, '9a3c1c7e-3f0e-4d55-9d4b-6d8f3a1f0b11.json');
  writeFileSync(broken, '{"id":"9a3c');
  expect((await listUploads(h.store, null)).map((u) => u.name)).not.toContain('9a3c');
  const now = Date.now();
  const longAgo = new Date(now - 8 * 24 * 3600 * 1000);
  for (const path of [join(folder, old), broken]) utimesSync(path, longAgo, longAgo);
  const left = await clearForgottenUploads(h.store.root, now);
  expect(left.toSorted()).toEqual([broken, join(folder, old), join(folder, `${old}.json`)].toSorted());
  expect([existsSync(join(folder, old)), existsSync(join(folder, young))]).toEqual([false, true]);
});

describe('where people sign in', () => {
  let own: Harness;
  beforeAll(async () => void (own = await startHarness({ people: true })));
  afterAll(() => own.close());
  it('a file is its sender’s: to others it is not there, and a viewer sends none', async () => {
    const [anna, ben] = [await signedIn(own, 'anna', 'member'), await signedIn(own, 'ben', 'member')];
    const bytes = randomBytes(10);
    const described = { 'upload-length': '10', 'upload-metadata': `filename ${base64('a.mkv')}` };
    const as = (who: Browser) => ({ ...TUS, cookie: who.cookie });
    const create = (who: Browser) =>
      fetch(`${own.url}/api/uploads`, { method: 'POST', headers: { ...as(who), ...described } });
    const id = (await create(anna)).headers.get('location')!.split('/').at(-1)!;
    const patch = (who: Browser) =>
      fetch(`${own.url}/api/uploads/${id}`, {
        method: 'PATCH',
        headers: { ...as(who), ...OCTETS, 'upload-offset': '0' },
        body: new Uint8Array(bytes),
      });
    expect([(await patch(browser(own))).status, (await patch(ben)).status]).toEqual([401, 404]);
    expect(await ben.call('listUploads')).toEqual([]);
    const { id: projectId } = await ben.call('createProject', {}, { name: 'Ben’s' });
    expect((await patch(anna)).status).toBe(204);
    const taken = { as: 'footage', files: [{ id, sha256: hashOf(bytes) }] };
    expect((await ben.send('importUploads', { projectId }, taken)).status).toBe(404);
    expect((await anna.call('listUploads')).map((u) => u.here)).toEqual([10]);
    const guest = await signedIn(own, 'guest', 'guest');
    await giveRole(own.pool, projectId, guest.person.id, 'viewer');
    expect((await create(guest)).status).toBe(403);
    await giveRole(own.pool, projectId, guest.person.id, 'editor');
    expect((await create(guest)).status).toBe(201);
  });
});
