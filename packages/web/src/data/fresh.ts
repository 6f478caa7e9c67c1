import type { ProjectDocument, RunResult } from '@mellow/contract';
import { addFound } from './arrivals.ts';
import { applyEdit } from '../editing/optimistic.ts';
import { toldSince, toldSoFar, type Pending } from './pending.ts';

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

/** What is known of a project's tracks, with the frames that were found while it was fetched. */
export async function freshTracks<E>(load: () => Promise<Loaded<RunResult[], E>>): Promise<Loaded<RunResult[], E>> {
  const before = toldSoFar();
  const loaded = await load();
  if (!loaded.data) return loaded;
  const runs = structuredClone(loaded.data);
  for (const result of toldSince(before)) addFound(runs, result);
  return { data: runs };
}
