import { Worker } from 'node:worker_threads';
import type { Workers } from './jobs/queue.ts';
import type { FromWork, WorkOf } from './workThread.ts';

const THREAD = new URL('./workThread.mjs', import.meta.url);

/**
 * Begins what there is to do (`startWork`) in a thread of its own. What it logs comes to `take` line by line. Should it
 * end before it is stopped, this process ends too (an uncaught exception): nothing that is queued would be done.
 */
export async function startWorkApart(of: WorkOf, take: (line: string) => void): Promise<Workers> {
  const thread = new Worker(THREAD, { workerData: of });
  const ended = new Promise<number>((resolve) => thread.once('exit', resolve));
  let isStopping = false;
  await new Promise<void>((resolve, reject) => {
    let isReady = false;
    thread.on('message', (told: FromWork) => {
      if (told.kind === 'log') return take(told.line);
      isReady = true;
      resolve();
    });
    const fail = (error: Error) => {
      if (isReady && !isStopping) throw error;
      reject(error);
    };
    thread.on('error', fail);
    thread.on('exit', (code) => fail(new Error(`the thread that works ended (${code})`)));
  });
  return {
    stop: async () => {
      isStopping = true;
      thread.postMessage('stop');
      await ended;
    },
  };
}
