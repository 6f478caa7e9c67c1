// What is done in the page when the server tells something of the open project.
import type { Job } from '@mellow/contract';
import type { AppDispatch } from '../app/store.ts';
import { api } from '../data/api.ts';
import { addCarried, addFound, withJob } from '../data/arrivals.ts';
import type { EventHandlers } from '../data/events.ts';
import { measuringEnded, measuringWent, presentTold } from '../view/traySlice.ts';
import { toldJobs, toldTracks } from '../data/pending.ts';

export type Tag = Parameters<typeof api.util.invalidateTags>[0][number];
/** All that a page holds of a project. */
export const EVERYTHING: Tag[] = ['Project', 'Measurements', 'Jobs', 'Deliveries', 'Tracks', 'Reviews', 'Verdicts'];

/** What of the project a job's news may have changed. */
function touchedBy({ kind, state }: Job): Tag[] {
  if (kind === 'render') return ['Deliveries', 'Reviews'];
  if (kind === 'proxy') return ['Project'];
  const isUnderWay = state === 'queued' || state === 'running';
  return isUnderWay ? [] : ['Tracks', 'Project', 'Measurements'];
}

/** What is done when the server tells something. `hasUnsent`: do edits of this page wait for the server? */
export function handlersOf(
  projectId: string,
  dispatch: AppDispatch,
  refetch: (tags: Tag[]) => void,
  hasUnsent: () => boolean,
): EventHandlers {
  return {
    // one's own edits are in the document already, and what others did comes after them; but what was measured before
    // any edit is not fresh any more, nor need what was decided before it still hold
    change: () =>
      refetch(hasUnsent() ? ['Measurements', 'Verdicts'] : ['Project', 'Measurements', 'Tracks', 'Verdicts']),
    reviewed: () => refetch(['Reviews', 'Verdicts']),
    job: (job) => {
      toldJobs.remember(job);
      dispatch(api.util.updateQueryData('jobs', projectId, (jobs) => withJob(jobs, job)));
      refetch(touchedBy(job));
    },
    measuring: (progress) => void dispatch(measuringWent(progress)),
    measured({ sightingId }) {
      dispatch(measuringEnded(sightingId));
      refetch(['Measurements']);
    },
    present: (told) => void dispatch(presentTold(told)),
    tracking: (found) => {
      toldTracks.remember(found);
      dispatch(api.util.updateQueryData('tracks', projectId, (runs) => addFound(runs, found)));
    },
    carrying: (found) => {
      const missed: Tag[] = [];
      dispatch(
        api.util.updateQueryData('getProject', projectId, (document) => {
          if (!addCarried(document.carried, found)) missed.push('Project');
        }),
      );
      if (missed.length > 0) refetch(missed);
    },
    missed: () => refetch(EVERYTHING),
  };
}
