// What a server works on beside answering, in a thread of its own: what that holds and clears away makes nobody wait.
import { parentPort, workerData } from 'node:worker_threads';
import type { Level } from 'pino';
import { openPool } from './db/pool.ts';
import { logThrough } from './logging.ts';
import { openStore } from './media/store.ts';
import { startWork } from './workers.ts';

/** What the thread is begun with. */
export interface WorkOf {
  databaseUrl: string;
  mediaRoot: string;
  level: Level;
}
/** What it tells. */
export type FromWork = { kind: 'ready' } | { kind: 'log'; line: string };

const { databaseUrl, mediaRoot, level } = workerData as WorkOf;
const port = parentPort!;
const tell = (what: FromWork) => port.postMessage(what);

const pool = openPool(databaseUrl);
const log = logThrough((line) => tell({ kind: 'log', line }), level);
const workers = await startWork({ pool, store: openStore(mediaRoot), log }, databaseUrl);
// whatever it is told: there is nothing to tell it but to stop
port.once('message', () => {
  void workers
    .stop()
    .then(() => pool.end())
    .finally(() => process.exit());
});
tell({ kind: 'ready' });
