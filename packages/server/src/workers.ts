import { LOOK_THROUGH } from './db/keyedWork.ts';
import { carryJob } from './jobs/carryJob.ts';
import { lookThroughWork, measureWork } from './jobs/measureWork.ts';
import { proxyJob } from './jobs/proxyJob.ts';
import { eachAlone, startWorkers, type JobServices, type Takes, type Workers } from './jobs/queue.ts';
import { renderJobs } from './jobs/renderJob.ts';
import { trackJob } from './jobs/trackJob.ts';
import { closeRewriter } from './media/rewriting.ts';
import { closeSharedRenderPool } from './render/renderPool.ts';
import { closeKeptLumaFrames } from './track/lumaFrames.ts';
import { closeReadyTrackThreads, readyTrackThread } from './track/trackThread.ts';

const WORK: Takes = {
  jobs: { proxy: eachAlone(proxyJob), render: renderJobs, track: eachAlone(trackJob), carry: eachAlone(carryJob) },
  keyed: { measure: measureWork },
};
const LOOKING: Takes = { keyed: { [LOOK_THROUGH]: lookThroughWork } };

/** All that there is to do, but for looking through what was measured. What it keeps ends with it. */
export const startWork = (services: JobServices, databaseUrl: string): Promise<Workers> =>
  start(services, databaseUrl, WORK);

/**
 * Looks through what was measured after each edit: short, and best done between two answers. Beside them it would be
 * done more often than anybody needs, and take the processors from them.
 */
export const startLookingThrough = (services: JobServices, databaseUrl: string): Promise<Workers> =>
  startWorkers(services, databaseUrl, LOOKING, 1);

/** All that there is to do. */
export const startAllWorkers = (services: JobServices, databaseUrl: string): Promise<Workers> =>
  start(services, databaseUrl, { ...WORK, keyed: { ...WORK.keyed, ...LOOKING.keyed } });

/** Two run at once: one may wait for its decoder while the other computes. */
async function start(services: JobServices, databaseUrl: string, takes: Takes): Promise<Workers> {
  readyTrackThread();
  const workers = await startWorkers(services, databaseUrl, takes, 2);
  return {
    stop: async () => {
      await workers.stop();
      await Promise.all([closeSharedRenderPool(), closeReadyTrackThreads(), closeRewriter()]);
      closeKeptLumaFrames();
    },
  };
}
