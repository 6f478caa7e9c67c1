// What a server process takes, as it and the system tell.
import { readFileSync } from 'node:fs';
import { Worker } from 'node:worker_threads';

/** Memory of a process that is in use, MB. */
export const megabytes = (pid: number): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;

/** A value of Prometheus' text format. */
export const measure = (metrics: string, name: string): number =>
  Number(new RegExp(`^${name} (\\S+)`, 'm').exec(metrics)![1]);

/** The longest that the server's event loop was held between two such texts, ms. */
export const heldMs = (metrics: string): number => 1000 * measure(metrics, 'nodejs_eventloop_lag_max_seconds');

export const mean = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length;

/**
 * A thread that does nothing, and for how long it was held all the same since it was last asked, ms: by the machine.
 */
export function idleThread(): { heldMs: () => Promise<number>; end: () => Promise<unknown> } {
  const doing = `
    const { monitorEventLoopDelay } = require('node:perf_hooks');
    const held = monitorEventLoopDelay({ resolution: 10 });
    held.enable();
    require('node:worker_threads').parentPort.on('message', function () {
      this.postMessage(held.max / 1e6);
      held.reset();
    });`;
  const thread = new Worker(doing, { eval: true });
  return {
    heldMs: () => {
      thread.postMessage('');
      return new Promise((resolve) => thread.once('message', resolve));
    },
    end: () => thread.terminate(),
  };
}
