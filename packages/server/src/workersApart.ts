import { Worker } from 'node:worker_threads';
import type { Workers } from './jobs/queue.ts';
import type { FromWorkers, WorkersOf } from './workersThread.ts';

const THREAD = new URL('./workersThread.mjs', import.meta.url);

/**
 * Begins all workers in a thread of their own. What it logs comes to `take` line by line. Should it end before it is
 * stopped, this process ends too (an uncaught exception): without it nothing that is queued would be done.
 */
export async function startWorkersApart(of: WorkersOf, take: (line: string) => void): Promise<Workers> {
  const thread = new Worker(THREAD, { workerData: of });
  const ended = new Promise<number>((resolve) => thread.once('exit', resolve));
  let isStopping = false;
  await new Promise<void>((resolve, reject) => {
    let isReady = false;
    thread.on('message', (told: FromWorkers) => {
      if (told.kind === 'log') return take(told.line);
      isReady = true;
      resolve();
    });
    const fail = (error: Error) => {
      if (isReady && !isStopping) throw error;
      reject(error);
    };
    thread.on('error', fail);
    thread.on('exit', (code) => fail(new Error(`the thread of the workers ended (${code})`)));
  });
  return {
    stop: async () => {
      isStopping = true;
      thread.postMessage('stop');
      await ended;
    },
  };
}
