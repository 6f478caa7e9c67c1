// What a monitor reads, in Prometheus' text format.
import { timingSafeEqual } from 'node:crypto';
import type { Request, RequestHandler } from 'express';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import type { RouteName } from '@mellow/contract';
import type { AppServices } from '../services.ts';
import { workOf } from './health.ts';

export interface Metrics {
  registry: Registry;
  /** Times the requests of a route. */
  timed: (route: RouteName) => RequestHandler;
}

/** Measures of the process, of its requests, and of the work of the installation as the database has it. */
export function openMetrics({ pool, events }: Pick<AppServices, 'pool' | 'events'>): Metrics {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const requests = new Histogram({
    name: 'mellow_request_seconds',
    help: 'Time to answer, by operation and status',
    labelNames: ['operation', 'status'],
    buckets: [0.005, 0.02, 0.1, 0.25, 0.5, 1, 5, 30],
    registers: [registry],
  });
  const gauge = (name: string, help: string, read: () => number | Promise<number>) =>
    registry.registerMetric(
      new Gauge({
        name: `mellow_${name}`,
        help,
        registers: [],
        async collect() {
          this.set(await read());
        },
      }),
    );
  let asked: ReturnType<typeof workOf> | undefined;
  /** What is collected at one time is asked for once. */
  const work = () => (asked ??= workOf(pool).finally(() => (asked = undefined)));
  gauge('jobs_running', 'Jobs under way, of all machines', async () => (await work()).running);
  gauge('jobs_queued', 'Jobs that wait', async () => (await work()).queued);
  gauge('oldest_job_seconds', 'Longest wait of a job', async () => (await work()).oldestQueuedSeconds ?? 0);
  gauge('workers', 'Workers heard of lately', async () => (await work()).workers);
  gauge('open_pages', 'Pages that have a project open', () => events.listening);
  return {
    registry,
    timed: (operation) => (_request, response, next) => {
      const end = requests.startTimer({ operation });
      response.once('finish', () => end({ status: String(response.statusCode) }));
      next();
    },
  };
}

/** Does a monitor that cannot sign in show the token that it was given? */
export function hasMonitorToken(request: Request, token: string | undefined): boolean {
  const shown = Buffer.from(request.get('authorization') ?? '');
  const wanted = Buffer.from(`Bearer ${token ?? ''}`);
  return token !== undefined && shown.length === wanted.length && timingSafeEqual(shown, wanted);
}
