import type { Job, ProjectDocument, RunResult } from '@mellow/contract';
import { addFound, withJob } from './arrivals.ts';
import { applyEdit } from '../editing/optimistic.ts';
import { toldJobs, toldTracks, type Pending, type Told } from './pending.ts';

type Loaded<D, E> = { data: D; error?: undefined } | { data?: undefined; error: E };

/**
 * A project as the server has it with all that this page has edited since: what was fetched while an edit was being
 * saved may or may not hold that edit, and is fetched again; edits that still wait are laid over it.
 */
export async function freshDocument<E>(
  load: () => Promise<Loaded<ProjectDocument, E>>,
  edits: Pending,
  projectId: string,
): Promise<Loaded<ProjectDocument, E>> {
  for (;;) {
    const before = edits.acknowledged;
    const loaded = await load();
    if (!loaded.data) return loaded;
    if (edits.acknowledged !== before) continue;
    const document = structuredClone(loaded.data);
    for (const { projectId: of, request } of edits.unsent)
      for (const edit of of === projectId ? request.edits : []) {
        edits.onLaidOver?.(document, edit);
        applyEdit(document, edit);
      }
    return { data: document };
  }
}

/** A list as it is fetched, with what was told meanwhile. */
async function freshList<T, E>(load: () => Promise<Loaded<T[], E>>, told: Told<T>, take: (list: T[], news: T) => void) {
  const before = told.soFar();
  const loaded = await load();
  if (!loaded.data) return loaded;
  const list = structuredClone(loaded.data);
  for (const news of told.since(before)) take(list, news);
  return { data: list };
}
/** What is known of a project's tracks, with the frames that were found while it was fetched. */
export const freshTracks = <E>(load: () => Promise<Loaded<RunResult[], E>>): Promise<Loaded<RunResult[], E>> =>
  freshList(load, toldTracks, addFound);
/** A project's jobs, of which one may have ended while they were fetched. */
export const freshJobs = <E>(load: () => Promise<Loaded<Job[], E>>): Promise<Loaded<Job[], E>> =>
  freshList(load, toldJobs, withJob);
