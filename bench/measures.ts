// What a server process takes, as it and the system tell.
import { readFileSync } from 'node:fs';
import { Worker } from 'node:worker_threads';

const inStatus = (pid: number, field: string): number =>
  Number(new RegExp(`${field}:\\s+(\\d+)`).exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;
/** Memory of a process that is in use, MB. */
export const megabytes = (pid: number): number => inStatus(pid, 'VmRSS');
/** The same without what is only mapped from files, as a program's own code is. */
export const ownMegabytes = (pid: number): number => inStatus(pid, 'RssAnon') + inStatus(pid, 'RssShmem');

/** A value of Prometheus' text format. */
export const measure = (metrics: string, name: string): number =>
  Number(new RegExp(`^${name} (\\S+)`, 'm').exec(metrics)![1]);

/** The longest that the server's event loop was held between two such texts, ms. */
export const heldMs = (metrics: string): number => 1000 * measure(metrics, 'nodejs_eventloop_lag_max_seconds');

export const mean = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length;

/** From when until when the machine let a thread that does nothing wait; ms since 1970. */
export type Stall = readonly [from: number, to: number];
/** So long, and longer, a thread waits for nothing but the machine: that its host gives to others, say. ms */
const STALL_MS = 50;

/** A thread that does nothing but look whether it is let. */
export function idleThread(): { stalls: () => Promise<Stall[]>; end: () => Promise<unknown> } {
  const doing = `
    let stalls = [];
    let last = performance.timeOrigin + performance.now();
    setInterval(() => {
      const now = performance.timeOrigin + performance.now();
      if (now - last > ${STALL_MS}) stalls.push([last, now]);
      last = now;
    }, 5);
    require('node:worker_threads').parentPort.on('message', function () {
      this.postMessage(stalls);
      stalls = [];
    });`;
  const thread = new Worker(doing, { eval: true });
  return {
    stalls: () => {
      thread.postMessage('');
      return new Promise((resolve) => thread.once('message', resolve));
    },
    end: () => thread.terminate(),
  };
}
export const longestMs = (stalls: readonly Stall[]): number => Math.max(0, ...stalls.map(([from, to]) => to - from));
