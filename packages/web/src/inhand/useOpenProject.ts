import { useEffect } from 'react';
import { useParams } from 'react-router';
import type { Job, ProjectDocument } from '@mellow/contract';
import { openProject, useAppDispatch, type AppDispatch } from '../app/store.ts';
import { api, useGetProjectQuery } from '../data/api.ts';
import { addFound, withJob } from '../data/arrivals.ts';
import { hearEvents, type EventHandlers } from '../data/events.ts';
import { remember } from '../data/pending.ts';
import { hasUnsent } from '../editing/editing.ts';

type Tag = Parameters<typeof api.util.invalidateTags>[0][number];
const EVERYTHING: Tag[] = ['Project', 'Measurements', 'Jobs', 'Deliveries', 'Tracks'];

/** What of the project a job's news may have changed. */
function touchedBy({ kind, state }: Job): Tag[] {
  if (kind === 'render') return ['Deliveries'];
  if (kind === 'proxy') return ['Project'];
  const isUnderWay = state === 'queued' || state === 'running';
  return isUnderWay ? [] : ['Tracks', 'Project', 'Measurements'];
}

/** What the server tells, taken into what the page has. */
function handlersOf(projectId: string, dispatch: AppDispatch, refetch: (tags: Tag[]) => void): EventHandlers {
  return {
    // one's own edits are in the document already; what others did comes after them
    change() {
      if (!hasUnsent()) refetch(['Project', 'Measurements', 'Tracks']);
    },
    job: (job) => {
      dispatch(api.util.updateQueryData('jobs', projectId, (jobs) => withJob(jobs, job)));
      refetch(touchedBy(job));
    },
    measuring: () => undefined,
    measured: () => refetch(['Measurements']),
    tracking: (found) => {
      remember(found);
      dispatch(api.util.updateQueryData('tracks', projectId, (runs) => addFound(runs, found)));
    },
    missed: () => refetch(EVERYTHING),
  };
}

/** The project of the address, kept up to date by what the server tells. */
export function useOpenProject(): { document: ProjectDocument | undefined; error: unknown } {
  const projectId = useParams().projectId!;
  const dispatch = useAppDispatch();
  const { data: document, error } = useGetProjectQuery(projectId);
  useEffect(() => openProject(projectId), [projectId]);
  useEffect(() => {
    const refetch = (tags: Tag[]) => dispatch(api.util.invalidateTags(tags));
    return hearEvents(projectId, handlersOf(projectId, dispatch, refetch), () => refetch(EVERYTHING));
  }, [dispatch, projectId]);
  return { document, error };
}
