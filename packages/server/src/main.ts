// The server process: API, web app, and the workers of this machine. `--worker` runs the workers only.
import { join } from 'node:path';
import type pg from 'pg';
import type { Logger } from 'pino';
import { createApp, VERSION } from './app.ts';
import { EventHub } from './api/events.ts';
import { closeBodyReader } from './api/largeBody.ts';
import { loggedRequests } from './api/requests.ts';
import { readConfig, type Config } from './config.ts';
import { prepareDatabase } from './db/migrate.ts';
import { listPeople } from './db/people.ts';
import { openPool } from './db/pool.ts';
import { httpServer } from './listening.ts';
import { openLog } from './logging.ts';
import { ensureFloatProxies } from './jobs/addShots.ts';
import { scheduleAllStaleMeasurements } from './jobs/measureWork.ts';
import type { Workers } from './jobs/queue.ts';
import { keepHouse } from './keeping/keeping.ts';
import { diskFaultOf } from './media/diskFaults.ts';
import { assertOwnMedia } from './media/identity.ts';
import { openStore, type MediaStore } from './media/store.ts';
import { openProvider } from './people/provider.ts';
import { keptSecret } from './people/secret.ts';
import { openSignIn, type SignIn } from './people/signIn.ts';
import { closeRewriter } from './media/rewriting.ts';
import { startAllWorkers, startLookingThrough } from './workers.ts';
import { startWorkApart } from './workApart.ts';

/** How often it is looked for what can be cleared away. */
const KEEPING_MS = 3600 * 1000;

async function main(): Promise<void> {
  const config = readConfig(process.env);
  const workerOnly = process.argv.includes('--worker');
  const { log, take } = openLog(workerOnly ? 'worker' : 'server', config.log);
  endLoudly(log);
  log.info({ version: VERSION, node: process.version }, 'starting');
  const pool = openPool(config.databaseUrl);
  const migrated = await prepareDatabase(pool, () => log.info({}, 'waiting for the database'));
  const store = openedStore(config.mediaRoot);
  await assertOwnMedia(pool, store);
  const keep = () =>
    void keepHouse(pool, store, config.keeping).then(
      (kept) => Object.values(kept).flat().length > 0 && log.info(kept, 'cleared away'),
      (error: unknown) => log.error({ error }, 'keeping'),
    );
  keep();
  setInterval(keep, KEEPING_MS).unref();
  const { databaseUrl, mediaRoot } = config;
  const services = { pool, store, log };
  const beginning: Promise<Workers[]> = workerOnly
    ? Promise.all([startAllWorkers(services, databaseUrl)])
    : Promise.all([
        startLookingThrough(services, databaseUrl),
        startWorkApart({ databaseUrl, mediaRoot, level: config.log.level }, take),
      ]);
  // waited for last: a thread takes as long to be there as the rest to get ready
  beginning.catch(() => undefined);
  // what a migration made stale is measured anew
  if (migrated.length > 0) await scheduleAllStaleMeasurements(pool);
  await ensureFloatProxies({ pool, store });
  const closers: (() => Promise<unknown>)[] = [
    async () => Promise.all((await beginning).map((workers) => workers.stop())),
    closeBodyReader,
    closeRewriter,
  ];
  if (!workerOnly) {
    const events = new EventHub(databaseUrl);
    await events.open();
    const signIn = await signInOf(pool, config);
    if (signIn) sayWhatIsMissing(config, log, (await listPeople(pool)).length);
    const { url, proxies, monitorToken, keeping } = config;
    const web = join(import.meta.dirname, '../../web/dist');
    const app = createApp(
      { ...services, events, url, signIn, proxies, monitorToken, keeping, requestLog: loggedRequests(log) },
      web,
    );
    const server = httpServer(app).listen(config.port, config.host);
    await new Promise<void>((resolve, reject) => {
      server.once('listening', () => resolve());
      server.once('error', (error: NodeJS.ErrnoException) =>
        reject(
          error.code === 'EADDRINUSE'
            ? new Error(`Port ${config.port} is taken. Set PORT to another one, or end what uses it.`)
            : error,
        ),
      );
    });
    await beginning;
    const address = server.address();
    process.stdout.write(
      `READY http://${config.host}:${typeof address === 'object' && address ? address.port : config.port}\n`,
    );
    closers.unshift(async () => {
      await events.close();
      server.close();
      server.closeAllConnections();
    });
  } else {
    await beginning;
    process.stdout.write('READY worker\n');
  }

  let stopping = false;
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    log.info({}, 'stopping');
    for (const close of closers) await close().catch((error: unknown) => log.error({ error }, 'closing'));
    await pool.end().catch(() => undefined);
    process.exit(0);
  };
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());
}

/** The media folder. Throws a plain sentence where its disk does not let it be opened. */
function openedStore(root: string): MediaStore {
  try {
    return openStore(root);
  } catch (error) {
    const fault = diskFaultOf(error);
    throw fault ? new Error(`${fault.detail} It was ${(error as NodeJS.ErrnoException).path ?? root}.`) : error;
  }
}

function signInOf(pool: pg.Pool, { url, signIn }: Config): Promise<SignIn> | undefined {
  if (!signIn) return undefined;
  const { secretFile, provider } = signIn;
  return openSignIn(pool, { url, secret: keptSecret(secretFile), provider: provider && openProvider(provider) });
}

/** What whoever runs the server should know before others come. */
function sayWhatIsMissing({ url, host }: Config, log: Logger, people: number): void {
  if (people === 0) process.stdout.write(`Nobody has an account yet. Make the first: npm run invite -- LOGIN "NAME"\n`);
  if (url.protocol === 'https:' || url.hostname === 'localhost') return;
  log.warn({ url: url.href, host }, 'passwords and pictures cross the network without TLS');
}

/** What nobody foresaw is written down before the process ends; the start script begins it anew. */
function endLoudly(log: Logger): void {
  for (const event of ['uncaughtException', 'unhandledRejection'] as const)
    process.on(event, (error: unknown) => {
      log.fatal({ error: error instanceof Error ? { message: error.message, stack: error.stack } : error }, event);
      process.stderr.write(`Unforeseen: ${error instanceof Error ? error.message : String(error)}\n`);
      // the log's stream has until then to reach the file
      setTimeout(() => process.exit(1), 200);
    });
}

main().catch((error: unknown) => {
  process.stderr.write(
    `Mellow Hue could not start: ${error instanceof Error ? error.message || String(error) : String(error)}\n`,
  );
  process.exit(1);
});
