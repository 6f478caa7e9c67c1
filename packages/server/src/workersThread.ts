// The workers of a server, in a thread of their own: what they hold and clear away keeps nobody waiting for an answer.
import { parentPort, workerData } from 'node:worker_threads';
import type { Level } from 'pino';
import { openPool } from './db/pool.ts';
import { logThrough } from './logging.ts';
import { openStore } from './media/store.ts';
import { startAllWorkers } from './workers.ts';

/** What the thread is begun with. */
export interface WorkersOf {
  databaseUrl: string;
  mediaRoot: string;
  level: Level;
}
/** What it tells. */
export type FromWorkers = { kind: 'ready' } | { kind: 'log'; line: string };

const { databaseUrl, mediaRoot, level } = workerData as WorkersOf;
const port = parentPort!;
const tell = (what: FromWorkers) => port.postMessage(what);

const pool = openPool(databaseUrl);
const log = logThrough((line) => tell({ kind: 'log', line }), level);
const workers = await startAllWorkers({ pool, store: openStore(mediaRoot), log }, databaseUrl);
// whatever it is told: there is nothing to tell it but to stop
port.once('message', () => {
  void workers
    .stop()
    .then(() => pool.end())
    .finally(() => process.exit());
});
tell({ kind: 'ready' });
