// The server process: API, web app, and the workers of this machine. `--worker` runs the workers only.
import { join } from 'node:path';
import pino from 'pino';
import { createApp } from './app.ts';
import { EventHub } from './api/events.ts';
import { readConfig } from './config.ts';
import { prepareDatabase } from './db/migrate.ts';
import { openPool } from './db/pool.ts';
import { openStore } from './media/store.ts';
import { closeSharedRenderPool } from './render/renderPool.ts';
import { closeKeptLumaFrames } from './track/lumaFrames.ts';
import { closeReadyTrackThreads } from './track/trackThread.ts';
import { startAllWorkers } from './workers.ts';

const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' });

async function main(): Promise<void> {
  const config = readConfig(process.env);
  const workerOnly = process.argv.includes('--worker');
  const pool = openPool(config.databaseUrl);
  await prepareDatabase(pool, config.databaseUrl);
  const store = openStore(config.mediaRoot);
  const workers = await startAllWorkers({ pool, store, log }, config.databaseUrl);
  const closers: (() => Promise<unknown>)[] = [
    workers.stop,
    closeSharedRenderPool,
    closeReadyTrackThreads,
    async () => closeKeptLumaFrames(),
  ];
  if (!workerOnly) {
    const events = new EventHub(config.databaseUrl);
    await events.open();
    const app = createApp({ pool, store, events, log }, join(import.meta.dirname, '../../web/dist'));
    const server = app.listen(config.port, config.host);
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
    const address = server.address();
    process.stdout.write(
      `READY http://${config.host}:${typeof address === 'object' && address ? address.port : config.port}\n`,
    );
    closers.unshift(async () => {
      await events.close();
      server.close();
      server.closeAllConnections();
    });
  } else process.stdout.write('READY worker\n');

  let stopping = false;
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    for (const close of closers) await close().catch((error: unknown) => log.error({ error }, 'closing'));
    await pool.end().catch(() => undefined);
    process.exit(0);
  };
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());
}

main().catch((error: unknown) => {
  process.stderr.write(
    `Mellow Hue could not start: ${error instanceof Error ? error.message || String(error) : String(error)}\n`,
  );
  process.exit(1);
});
