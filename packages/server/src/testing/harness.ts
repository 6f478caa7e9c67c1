import { mkdtempSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type pg from 'pg';
import { ROUTES, type AnswerOf, type BodyOf, type Problem, type Route, type RouteName } from '@mellow/contract';
import { createApp } from '../app.ts';
import { EventHub } from '../api/events.ts';
import { closeBodyReader } from '../api/largeBody.ts';
import { httpServer } from '../listening.ts';
import { prepareDatabase } from '../db/migrate.ts';
import type { KeepingRules } from '../keeping/rules.ts';
import { openStore, type MediaStore } from '../media/store.ts';
import type { Provider } from '../people/provider.ts';
import { openSignIn } from '../people/signIn.ts';
import { closeRewriter } from '../media/rewriting.ts';
import { closeSharedRenderPool } from '../render/renderPool.ts';
import { closeKeptLumaFrames } from '../track/lumaFrames.ts';
import { closeReadyTrackThreads } from '../track/trackThread.ts';
import { startAllWorkers } from '../workers.ts';
import { preparedDatabase, type OwnDatabase } from './ownDatabase.ts';

export interface Harness {
  pool: pg.Pool;
  store: MediaStore;
  url: string;
  databaseUrl: string;
  /** Calls a contract route and checks its answer against the contract. */
  call: <N extends RouteName>(name: N, params?: Record<string, string>, body?: BodyOf<N>) => Promise<AnswerOf<N>>;
  /** Calls a route that must fail, and checks that it answers with problem details. */
  problem: (name: RouteName, params: Record<string, string>, body?: unknown) => Promise<Problem>;
  /** Stops the workers, so that what is queued waits; starts them again. */
  pause: () => Promise<void>;
  resume: () => Promise<void>;
  close: () => Promise<void>;
}

interface HarnessOn {
  workers?: boolean;
  /** People sign in; left out: everything is one person's. */
  people?: boolean;
  monitorToken?: string;
  /** Where people find it, behind a proxy on this machine; left out: where it is. */
  behind?: string;
  changesAMinute?: { signedIn: number; without: number };
  provider?: Provider;
  keeping?: KeepingRules;
  /** What it runs on, removed with it; left out: new ones. */
  database?: OwnDatabase;
  root?: string;
}
/** A server of its own on a new database and media folder: real PostgreSQL, real ffmpeg, real workers. */
export async function startHarness({ workers = false, people = false, ...on }: HarnessOn = {}): Promise<Harness> {
  const { pool, url: databaseUrl, drop } = on.database ?? (await preparedDatabase());
  await prepareDatabase(pool);
  const root = on.root ?? mkdtempSync(join(tmpdir(), 'mellow-'));
  const store = openStore(root);
  const events = new EventHub(databaseUrl);
  await events.open();
  const log = { info: () => undefined, error: (o: object, m: string) => console.error(m, o) };
  const startRunning = () => startAllWorkers({ pool, store, log }, databaseUrl);
  let running = workers ? await startRunning() : undefined;
  const address = new URL(on.behind ?? 'http://127.0.0.1');
  const options = {
    url: address,
    secret: 'of a test that nobody else sees',
    provider: on.provider,
    changesAMinute: on.changesAMinute,
  };
  const signIn = people ? await openSignIn(pool, options) : undefined;
  const services = {
    pool,
    store,
    events,
    log,
    url: address,
    signIn,
    monitorToken: on.monitorToken,
    proxies: 'loopback',
    keeping: on.keeping ?? {},
  };
  const server = httpServer(createApp(services)).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const { port } = server.address() as AddressInfo;
  const url = `http://127.0.0.1:${port}`;
  if (!on.behind) address.port = String(port);
  // a connection of its own for every call: one that is kept may be closed by the server just as the next call takes it
  const send = (route: Route, params: Record<string, string>, body: unknown) =>
    fetch(url + route.path.replaceAll(/\{(\w+)\}/g, (_, key: string) => params[key] ?? ''), {
      method: route.method.toUpperCase(),
      headers: { connection: 'close', ...(body !== undefined && { 'content-type': 'application/json' }) },
      ...(body !== undefined && { body: JSON.stringify(body) }),
    });
  return {
    pool,
    store,
    url,
    databaseUrl,
    call: async (name, params = {}, body) => {
      const route: Route = ROUTES[name];
      const response = await send(route, params, body);
      if (response.status !== (route.status ?? 200))
        throw new Error(`${name} answered ${response.status}: ${await response.text()}`);
      return route.answer!.parse(await response.json()) as never;
    },
    problem: async (name, params, body) => {
      const response = await send(ROUTES[name], params, body);
      const type = response.headers.get('content-type') ?? '';
      if (!type.startsWith('application/problem+json')) throw new Error(`${name} answered ${response.status} ${type}`);
      return (await response.json()) as Problem;
    },
    pause: async () => {
      await running?.stop();
      running = undefined;
    },
    resume: async () => {
      running ??= await startRunning();
    },
    close: async () => {
      await running?.stop();
      closeKeptLumaFrames();
      await closeSharedRenderPool();
      await closeReadyTrackThreads();
      await closeBodyReader();
      await closeRewriter();
      await events.close();
      server.close();
      server.closeAllConnections();
      await drop();
      rmSync(root, { recursive: true, force: true });
    },
  };
}

/** Waits until `probe` gives something; throws with `what` after the time a loaded machine may need. */
export async function until<T>(
  what: string,
  probe: () => Promise<T | undefined | false>,
  limitMs = 40_000,
): Promise<T> {
  const end = Date.now() + limitMs;
  for (;;) {
    const value = await probe();
    if (value) return value;
    if (Date.now() > end) throw new Error(`waited in vain for ${what}`);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}
