import { LOOK_THROUGH } from './db/keyedWork.ts';
import { carryJob } from './jobs/carryJob.ts';
import { lookThroughWork, measureWork } from './jobs/measureWork.ts';
import { proxyJob } from './jobs/proxyJob.ts';
import { eachAlone, startWorkers, type JobServices, type Workers } from './jobs/queue.ts';
import { readyTrackThread } from './track/trackThread.ts';
import { renderJobs } from './jobs/renderJob.ts';
import { trackJob } from './jobs/trackJob.ts';

/** All kinds of work there are. Two run at once: one may wait for its decoder while the other computes. */
export const startAllWorkers = (services: JobServices, connectionString: string): Promise<Workers> => {
  readyTrackThread();
  return startWorkers(
    services,
    connectionString,
    { proxy: eachAlone(proxyJob), render: renderJobs, track: eachAlone(trackJob), carry: eachAlone(carryJob) },
    { measure: measureWork, [LOOK_THROUGH]: lookThroughWork },
    2,
  );
};
