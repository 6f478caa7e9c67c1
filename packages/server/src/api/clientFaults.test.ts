// What is the client's fault is said so, as problem details, whichever library finds it.
import { randomUUID } from 'node:crypto';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { request as rawRequest, type IncomingMessage } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ChangeId, Edit, MediaId, PieceId, ProjectId, ShotId, SightingId, TrackId } from '@mellow/contract';
import { createApp } from '../app.ts';
import { framesFolder } from '../media/store.ts';
import { shots } from '../db/entities.ts';
import { keepMedia } from '../db/media.ts';
import { insertRun } from '../db/trackRuns.ts';
import { startHarness, type Harness } from '../testing/harness.ts';

let h: Harness;
let projectId: ProjectId;
const web = mkdtempSync(join(tmpdir(), 'mellow-web-'));
beforeAll(async () => {
  h = await startHarness();
  projectId = (await h.call('createProject', {}, { name: 'Faults' })).id;
  mkdirSync(join(web, 'assets'));
  writeFileSync(join(web, 'index.html'), '<p>the page</p>');
  writeFileSync(join(web, 'assets', 'a.js'), '1');
});
afterAll(async () => {
  await h.close();
  rmSync(web, { recursive: true, force: true });
});

interface Answer {
  status: number;
  type: string;
  body: { code?: string; detail?: string; errors?: { path: string }[] };
}
async function ask(path: string, init: RequestInit = {}, base = h.url): Promise<Answer> {
  const response = await fetch(base + path, {
    ...init,
    headers: { connection: 'close', ...(init.headers as Record<string, string>) },
  });
  const text = await response.text();
  const type = response.headers.get('content-type') ?? '';
  return { status: response.status, type, body: type.includes('json') ? (JSON.parse(text) as Answer['body']) : {} };
}
const post = (path: string, body: string | Uint8Array, contentType = 'application/json') =>
  ask(path, { method: 'POST', body: body as BodyInit, headers: { 'content-type': contentType } });
const expectProblem = (answer: Answer, status: number) => {
  expect([answer.status, answer.type.split(';')[0]]).toEqual([status, 'application/problem+json']);
  expect(answer.body.detail).not.toContain('unexpected');
};

describe('texts that cannot be stored', () => {
  it.each([
    ['NUL', '{"name":"a\\u0000b"}'],
    ['half of a surrogate pair', '{"name":"a\\ud800b"}'],
  ])('%s is refused with its path', async (_, body) => {
    const answer = await post('/api/projects', body);
    expectProblem(answer, 400);
    expect(answer.body.errors).toMatchObject([{ path: 'name' }]);
  });
  it('deep inside an edit is refused with its path, and nothing is changed', async () => {
    const id = randomUUID();
    const value = { id, projectId, name: 'x', kind: 'prop', position: 0, partOf: null };
    const edits = [{ kind: 'piece', id, revision: null, value: { ...value, name: 'nul \u0000' } }];
    const answer = await post(
      `/api/projects/${projectId}/changes`,
      JSON.stringify({ id: randomUUID(), label: 'x', edits }),
    );
    expectProblem(answer, 400);
    expect(answer.body.errors).toMatchObject([{ path: 'edits.0.value.name' }]);
    expect((await h.call('getProject', { projectId })).pieces).toEqual([]);
  });
  it('whole characters of any script are stored as they are', async () => {
    const { id } = await h.call('createProject', {}, { name: '𝔐ellow 👩‍🎨 橙' });
    expect((await h.call('getProject', { projectId: id })).project.value.name).toBe('𝔐ellow 👩‍🎨 橙');
  });
});

describe('bodies', () => {
  it('of an unknown charset', async () =>
    expectProblem(await post('/api/projects', '{"name":"x"}', 'application/json; charset=klingon'), 415));
  it('that are no JSON', async () => expectProblem(await post('/api/projects', '{"name":'), 400));
  it('over the limit', async () => expectProblem(await post('/api/projects', `{"name":"${'x'.repeat(9e6)}"}`), 413));
  it.each([
    ['without a boundary', 'multipart/form-data', 'x'],
    [
      'that end in the middle',
      'multipart/form-data; boundary=b',
      '--b\r\nContent-Disposition: form-data; name="files"; filename="a.mp4"\r\n\r\nabc',
    ],
    ['of another kind', 'application/octet-stream', 'x'],
    [
      'of a field that is not awaited',
      'multipart/form-data; boundary=b',
      '--b\r\nContent-Disposition: form-data; name="other"; filename="a.mp4"\r\n\r\nabc\r\n--b--\r\n',
    ],
  ])('uploads %s', async (_, type, body) => {
    for (const path of [`/api/projects/${projectId}/media`, '/api/archives'])
      expectProblem(await post(path, body, type), 400);
  });
});

describe('addresses and headers', () => {
  it.each([
    ['a percent sign that is none', '/api/projects/%E0%A4%A', 400],
    ['no such route', '/api/nothing', 404],
    ['no such id', `/api/projects/${randomUUID()}`, 404],
    ['what is no id', '/api/projects/x/jobs', 404],
  ])('%s', async (_, path, status) => expectProblem(await ask(path), status));
  it('Range and If-Match that cannot be met', async () => {
    const id = randomUUID() as MediaId;
    const folder = framesFolder(h.store, id, 'proxy');
    mkdirSync(folder, { recursive: true });
    writeFileSync(join(folder, '000000.png'), 'picture');
    const path = `/api/media/${id}/frames/proxy/0.png`;
    expect((await ask(path)).status).toBe(200);
    expectProblem(await ask(path, { headers: { range: 'bytes=100-200' } }), 416);
    expectProblem(await ask(path, { headers: { 'if-match': '"other"' } }), 412);
  });
  it('of the page: what is not there is a problem, not the page and no 500', async () => {
    const log = { error: () => undefined };
    const plain = { events: undefined as never, log, url: new URL(h.url), keeping: {} };
    const services = { pool: h.pool, store: h.store, ...plain };
    const server = createApp(services, web).listen(0, '127.0.0.1');
    await new Promise((resolve) => server.once('listening', resolve));
    const base = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
    expect((await ask('/assets/a.js', {}, base)).status).toBe(200);
    expect((await ask('/projects/anything/isolate', {}, base)).type).toContain('text/html');
    expectProblem(await ask('/assets/gone.js', {}, base), 404);
    expectProblem(await ask('/assets/%00', {}, base), 400);
    expectProblem(await ask('/projects', { method: 'POST' }, base), 404);
    server.close();
    server.closeAllConnections();
  });
});

describe('who may ask', () => {
  /** fetch sets Host itself. */
  const asHost = (host: string) =>
    new Promise<IncomingMessage>((resolve, reject) => {
      const { hostname, port } = new URL(h.url);
      rawRequest({ hostname, port, path: '/api/health', headers: { host, connection: 'close' } }, resolve)
        .on('error', reject)
        .end();
    });
  it('a page of another name for this machine may not: its own names only', async () => {
    expect((await asHost('evil.example')).statusCode).toBe(400);
    expect((await asHost('evil.example:5280')).statusCode).toBe(400);
    for (const host of ['127.0.0.1:5280', 'localhost', '[::1]:5280']) expect((await asHost(host)).statusCode).toBe(200);
  });
  it('a page of another site may look but not edit', async () => {
    const from = (site: string, method: string) =>
      ask('/api/projects', {
        method,
        headers: { 'sec-fetch-site': site, 'content-type': 'application/json' },
        ...(method === 'POST' && { body: '{"name":"x"}' }),
      });
    expectProblem(await from('cross-site', 'POST'), 400);
    expectProblem(await from('same-site', 'POST'), 400);
    expect((await from('same-origin', 'POST')).status).toBe(201);
    expect((await from('cross-site', 'GET')).status).toBe(200);
  });
});

describe('entities of another project', () => {
  it('cannot be named by an edit: not as piece, shot, reference, colourway, track, nor run', async () => {
    const other = (await h.call('createProject', {}, { name: 'Other' })).id;
    const colourways = (await h.call('getProject', { projectId: other })).colourways;
    const mediaId = randomUUID() as MediaId;
    const described = {
      width: 1,
      height: 1,
      fps: { num: 24, den: 1 },
      frames: 1,
      codec: 'x',
      pixelFormat: 'gbrp',
      bitDepth: 8,
      range: 'full' as const,
      matrix: 'gbr',
      primaries: 'bt709',
      transfer: 'bt709',
      timecode: null,
      fields: 'progressive' as const,
      turnedDeg: 0 as const,
      pixelAspect: { num: 1, den: 1 },
      isDeinterlaced: false,
      stated: null,
      proposedEncoding: 'rec709' as const,
      notes: [],
    };
    await keepMedia(h.pool, {
      media: { id: mediaId, sha256: 'a'.repeat(64), name: 'x', kind: 'video', ...described },
      files: { folder: 'x', input: 'x', startNumber: null },
    });
    const [shotId, pieceId, trackId, runId] = [
      randomUUID() as ShotId,
      randomUUID() as PieceId,
      randomUUID() as TrackId,
      randomUUID(),
    ];
    const shot = {
      id: shotId,
      projectId: other,
      mediaId,
      name: 'S',
      position: 0,
      encoding: 'rec709' as const,
      balance: null,
      light: null,
      patches: [],
      span: null,
      look: null,
    };
    await shots.insert(h.pool, shot, 1);
    await insertRun(h.pool, runId, other);
    const freedom = { move: true, turn: true, scale: true, shear: true, perspective: true };
    const region = { form: 'rectangle' as const, cx: 5, cy: 5, width: 5, height: 5, turnDeg: 0 };
    const track = {
      id: trackId,
      projectId: other,
      shotId,
      name: 'T',
      referenceFrame: 0,
      region,
      freedom,
      holdOuts: [],
      manual: [],
      runs: [],
    };
    const piece = (of: ProjectId, id: PieceId): Edit => ({
      kind: 'piece',
      id,
      revision: null,
      value: { id, projectId: of, name: 'P', kind: 'prop', position: 0, partOf: null },
    });
    await h.call(
      'change',
      { projectId: other },
      {
        id: randomUUID() as ChangeId,
        label: 'x',
        edits: [piece(other, pieceId), { kind: 'track', id: trackId, revision: null, value: track }],
      },
    );

    const own = randomUUID() as PieceId;
    const ownShot = { ...shot, id: randomUUID() as ShotId, projectId };
    await shots.insert(h.pool, ownShot, 1);
    await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'x', edits: [piece(projectId, own)] });
    const ownColourway = (await h.call('getProject', { projectId })).colourways[0]!.value.id;
    const sighting = {
      id: randomUUID() as SightingId,
      projectId,
      pieceId: own,
      shotId: ownShot.id,
      layers: [],
      cleanUp: null,
      spill: null,
      animated: {},
      steadyFrames: 0,
    };
    const shape = {
      id: randomUUID(),
      name: 'L',
      on: true,
      mode: 'add',
      invert: false,
      strength: 1,
      kind: 'shape',
      geometry: region,
      feather: { innerPx: 0, outerPx: 0, falloff: 'linear' },
    };
    const recipe = {
      id: randomUUID(),
      projectId,
      pieceId: own,
      colourwayId: ownColourway,
      shift: { exposureStops: 0, hueDeg: 0, saturation: 1, density: 0 },
      strength: 1,
      animated: {},
    };
    const follow = { ...freedom, trackId };
    const { project } = await h.call('getProject', { projectId });
    const attempts: [string, object][] = [
      ['piece', { kind: 'sighting', value: { ...sighting, pieceId } }],
      ['shot', { kind: 'sighting', value: { ...sighting, shotId } }],
      ['track', { kind: 'sighting', value: { ...sighting, layers: [{ ...shape, follow }] } }],
      [
        'track',
        {
          kind: 'sighting',
          value: { ...sighting, layers: [{ ...shape, kind: 'group', layers: [{ ...shape, follow }] }] },
        },
      ],
      [
        'track',
        {
          kind: 'sighting',
          value: {
            ...sighting,
            spill: {
              mode: 'off',
              reachPx: 1,
              amount: 1,
              tolerance: 0.1,
              within: { geometry: region, feather: shape.feather, follow },
            },
          },
        },
      ],
      ['colourway', { kind: 'recipe', value: { ...recipe, colourwayId: colourways[0]!.value.id } }],
      [
        'shot',
        {
          kind: 'recipe',
          value: { ...recipe, animated: { [shotId]: { strength: [{ frame: 0, value: 1, ease: 'linear' }] } } },
        },
      ],
      ['shot', { kind: 'track', value: { ...track, id: randomUUID(), projectId } }],
      [
        'run',
        {
          kind: 'track',
          value: {
            ...track,
            id: randomUUID(),
            projectId,
            shotId: ownShot.id,
            runs: [{ id: runId, from: 0, to: 1, first: 0, last: 1 }],
          },
        },
      ],
      ['shot', { kind: 'project', revision: project.revision, value: { ...project.value, referenceShotId: shotId } }],
    ];
    for (const [what, edit] of attempts) {
      const full = { revision: null, id: (edit as { value: { id: string } }).value.id, ...edit };
      const problem = await h.problem('change', { projectId }, { id: randomUUID(), label: 'x', edits: [full] });
      expect([problem.status, problem.detail]).toEqual([400, expect.stringContaining(`The ${what} `)]);
      expect(problem.detail).toContain('belongs to another project');
    }
    const ids = { kind: 'sighting', id: sighting.id, revision: null, value: { ...sighting, layers: [shape] } };
    await h.call(
      'change',
      { projectId },
      { id: randomUUID() as ChangeId, label: 'own', edits: [ids as unknown as Edit] },
    );
  });
});
