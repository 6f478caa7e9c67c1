// A media folder whose disk cannot be written to, as a system mounts one that fails: what is there is shown, edits are
// kept, and all else is refused with a reason. Needs Linux and its root, for a view of the disks of its own.
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Problem, type Delivery, type Job, type ProjectDocument } from '@mellow/contract';
import { until } from '../testing/harness.ts';
import { ownDatabase, type OwnDatabase } from '../testing/ownDatabase.ts';
import { words } from './words.ts';

/** Without a path. */
const CANNOT = /^The media folder cannot be written to[^/]*$/;
const ROOT = join(import.meta.dirname, '../../../..');

interface Answer<T> {
  status: number;
  body: T;
}

function canMount(): boolean {
  try {
    execFileSync('unshare', [...words('--mount --pid --mount-proc --fork sh -c'), 'mount --bind /tmp /tmp'], {
      stdio: 'ignore',
    });
  } catch {
    return false;
  }
  return true;
}

describe.skipIf(!canMount())('a media folder that is read-only', () => {
  const work = mkdtempSync(join(tmpdir(), 'mellow-read-only-'));
  const media = join(work, 'media');
  const inbox = join(media, 'inbox');
  let database: OwnDatabase;
  let server: ChildProcess;
  let url = '';

  /** A server that sees its media folder as it is mounted for it alone; each line it is given is run there first. */
  const start = (before: string): ChildProcess =>
    spawn(
      'unshare',
      [
        ...words('--mount --pid --mount-proc --kill-child --fork sh -c'),
        `mount --bind "$0" "$0"; ${before}; "$1" --import tsx packages/server/src/main.ts & ` +
          'while read -r line; do eval "$line" && echo DONE; done; wait',
        media,
        process.execPath,
      ],
      {
        cwd: ROOT,
        env: {
          ...process.env,
          DATABASE_URL: database.url,
          MELLOW_MEDIA: media,
          MELLOW_LOGS: join(work, 'logs'),
          PORT: '0',
        },
        stdio: ['pipe', 'pipe', 'pipe'],
      },
    );
  const heard = async (what: RegExp, from = server.stdout!): Promise<string> => {
    let said = '';
    const hear = (text: Buffer) => (said += text.toString());
    from.on('data', hear);
    const found = await until(String(what), async () => what.exec(said)?.[0]);
    from.off('data', hear);
    return found;
  };
  const remount = async (how: 'ro' | 'rw') => {
    const done = heard(/DONE/);
    server.stdin!.write(`mount -o remount,bind,${how} "$0"\n`);
    await done;
  };
  const ask = async <T>(method: string, path: string, body?: unknown): Promise<Answer<T>> => {
    const response = await fetch(url + path, {
      method,
      headers: { connection: 'close', ...(body !== undefined && { 'content-type': 'application/json' }) },
      ...(body !== undefined && { body: JSON.stringify(body) }),
    });
    const text = await response.text();
    return { status: response.status, body: JSON.parse(text || 'null') as T };
  };
  const expectRefused = async (asked: Promise<Answer<unknown>>) => {
    const { status, body } = await asked;
    expect(Problem.parse(body)).toMatchObject({
      code: 'unavailable',
      detail: expect.stringMatching(CANNOT),
    });
    expect(status).toBe(503);
    expect(JSON.stringify(body)).not.toContain(work);
  };

  beforeAll(async () => {
    database = await ownDatabase();
    mkdirSync(inbox, { recursive: true });
    const film = words('-v error -f lavfi -i testsrc2=size=64x36:rate=24 -frames:v 4 -c:v ffv1');
    execFileSync('ffmpeg', [...film, join(inbox, 'a.mkv')]);
    server = start('mount --bind "$0/inbox" "$0/inbox"; mount -o remount,bind,ro "$0/inbox"');
    url = (await heard(/READY \S+/)).split(' ')[1]!;
  });
  afterAll(async () => {
    const closed = once(server, 'close');
    server.kill('SIGKILL');
    await closed;
    await database.drop();
    rmSync(work, { recursive: true, force: true });
  });

  let project = '';
  const document = async () => (await ask<ProjectDocument>('GET', project)).body;
  const jobOf = async (id: string): Promise<Job> =>
    (await ask<Delivery[]>('GET', `${project}/deliveries`)).body.find((d) => d.id === id)!.job;
  const render = async () => {
    const { shots, colourways } = await document();
    const wanted = { shotIds: [shots[0]!.value.id], colourwayIds: [colourways[0]!.value.id], preset: 'ffv1' };
    const [asked] = (await ask<Delivery[]>('POST', `${project}/deliveries`, wanted)).body;
    return until('its end', async () => {
      const job = await jobOf(asked!.id);
      return ['done', 'failed'].includes(job.state) && job;
    });
  };
  const rename = (name: string) =>
    document().then(({ colourways: [main] }) =>
      ask('POST', `${project}/changes`, {
        id: randomUUID(),
        label: 'Rename',
        edits: [{ kind: 'colourway', id: main!.value.id, revision: main!.revision, value: { ...main!.value, name } }],
      }),
    );
  const form = () => {
    const body = new FormData();
    body.append('files', new Blob([new Uint8Array(1000)]), 'b.mkv');
    return fetch(`${url}${project}/media`, { method: 'POST', body, headers: { connection: 'close' } }).then(
      async (response) => ({ status: response.status, body: (await response.json()) as unknown }),
    );
  };
  const upload = () =>
    fetch(`${url}/api/uploads`, {
      method: 'POST',
      headers: {
        connection: 'close',
        'tus-resumable': '1.0.0',
        'upload-length': '10',
        'upload-metadata': `filename ${Buffer.from('b.mkv').toString('base64')}`,
      },
    });

  it('where it is only the inbox: what lies there is brought in all the same', async () => {
    const { id } = (await ask<{ id: string }>('POST', '/api/projects', { name: 'Film' })).body;
    project = `/api/projects/${id}`;
    expect((await ask('POST', `${project}/media/from-folder`, { paths: ['a.mkv'] })).status).toBe(201);
    await until('proxies', async () => Object.values((await document()).proxies).every((p) => p.state === 'done'));
    expect((await render()).state).toBe('done');
  });
  it('says so where something is to be written, shows what is there, and keeps every edit', async () => {
    await remount('ro');
    await expectRefused(ask('GET', '/api/health/ready'));
    await expectRefused(form());
    await expectRefused(upload().then(async (answer) => ({ status: answer.status, body: await answer.json() })));
    await expectRefused(ask('POST', `${project}/media/from-folder`, { paths: ['a.mkv'] }));
    expect(await render()).toMatchObject({ state: 'failed', message: expect.stringMatching(CANNOT) });
    const { media: all } = await document();
    expect((await fetch(`${url}/api/media/${all[0]!.id}/frames/proxy/2`)).status).toBe(200);
    expect((await rename('Kept')).status).toBe(200);
    expect((await document()).colourways[0]!.value.name).toBe('Kept');
    expect((await ask('GET', '/api/health/live')).status).toBe(200);
  });
  it('goes on when it can be written to again', async () => {
    await remount('rw');
    expect((await ask('GET', '/api/health/ready')).status).toBe(200);
    expect((await upload()).status).toBe(201);
    expect((await render()).state).toBe('done');
  });
  it('keeps a server from starting, which says why', async () => {
    const second = start('mount -o remount,bind,ro "$0"');
    const said = await heard(/could not start.*/, second.stderr!);
    expect(said).toMatch(/could not start: The media folder cannot be written to\. It was \S+\./);
    second.kill('SIGKILL');
    await once(second, 'close');
  });
});
