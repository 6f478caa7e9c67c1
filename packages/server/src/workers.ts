import { LOOK_THROUGH } from './db/keyedWork.ts';
import { carryJob } from './jobs/carryJob.ts';
import { lookThroughWork, measureWork } from './jobs/measureWork.ts';
import { proxyJob } from './jobs/proxyJob.ts';
import { eachAlone, startWorkers, type JobServices, type Workers } from './jobs/queue.ts';
import { renderJobs } from './jobs/renderJob.ts';
import { trackJob } from './jobs/trackJob.ts';
import { closeRewriter } from './media/rewriting.ts';
import { closeSharedRenderPool } from './render/renderPool.ts';
import { closeKeptLumaFrames } from './track/lumaFrames.ts';
import { closeReadyTrackThreads, readyTrackThread } from './track/trackThread.ts';

/**
 * All kinds of work there are. Two run at once: one may wait for its decoder while the other computes. What they keep
 * ends with them.
 */
export async function startAllWorkers(services: JobServices, connectionString: string): Promise<Workers> {
  readyTrackThread();
  const workers = await startWorkers(
    services,
    connectionString,
    { proxy: eachAlone(proxyJob), render: renderJobs, track: eachAlone(trackJob), carry: eachAlone(carryJob) },
    { measure: measureWork, [LOOK_THROUGH]: lookThroughWork },
    2,
  );
  return {
    stop: async () => {
      await workers.stop();
      await Promise.all([closeSharedRenderPool(), closeReadyTrackThreads(), closeRewriter()]);
      closeKeptLumaFrames();
    },
  };
}
