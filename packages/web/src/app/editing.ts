import type { ChangeAnswer, ChangeId, Edit, Problem } from '@mellow/contract';
import { api } from './api.ts';
import { acknowledge, applyEdit, revisionOf, type PlainEdit } from './optimistic.ts';
import { pending } from './pending.ts';
import { readOutbox, writeOutbox, type Unsent } from './outbox.ts';
import { store } from './store.ts';
import { draftDropped, savingChanged } from './viewSlice.ts';

/** Tells the user what could not be saved; set by the frame once messages can be shown. */
let say: (text: string) => void = () => undefined;
export const onEditProblem = (listener: (text: string) => void): void => void (say = listener);
/** Tells why something asked for could not be done. */
export const tellProblem = (error: unknown): void => say(error instanceof Error ? error.message : String(error));

let outbox: Unsent[] = readOutbox(localStorage);
pending.unsent = outbox;
let sending = false;
const keep = (list: Unsent[]) => {
  outbox = pending.unsent = list;
  writeOutbox(localStorage, list);
};

/**
 * The one way to edit: shown at once, queued where a closed page cannot lose it, sent in order, acknowledged. A stale
 * edit is dropped with a message and the server's state shown.
 */
export function edit(projectId: string, label: string, edits: PlainEdit[]): void {
  store.dispatch(
    api.util.updateQueryData('getProject', projectId, (document) => void edits.forEach((e) => applyEdit(document, e))),
  );
  store.dispatch(draftDropped());
  const request = {
    id: crypto.randomUUID() as ChangeId,
    label,
    edits: edits.map((e) => ({ ...e, revision: null }) as Edit),
  };
  keep([...outbox, { projectId, request }]);
  void send();
}

/** The project as it is now, edits just made included: for work that began before other edits were made. */
export const documentOf = (projectId: string) => api.endpoints.getProject.select(projectId)(store.getState()).data;
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Sends what is queued, oldest first; goes on trying while the server is away. */
export async function send(): Promise<void> {
  if (sending) return;
  sending = true;
  try {
    for (let next = outbox[0]; next; next = outbox[0]) {
      store.dispatch(savingChanged('saving'));
      const { projectId, request } = next;
      if (!documentOf(projectId))
        await store.dispatch(api.endpoints.getProject.initiate(projectId, { subscribe: false }));
      const document = documentOf(projectId);
      const edits = request.edits.map((e) => ({
        ...e,
        revision: document ? revisionOf(document, e.kind, e.id) : e.revision,
      }));
      const response = await fetch(`/api/projects/${projectId}/changes`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ ...request, edits }),
      }).catch(() => undefined);
      if (!response || response.status >= 500) {
        store.dispatch(savingChanged('offline'));
        await pause(1500);
        continue;
      }
      pending.acknowledged++;
      keep(outbox.slice(1));
      if (response.ok) {
        const answer = (await response.json()) as ChangeAnswer;
        store.dispatch(api.util.updateQueryData('getProject', projectId, (d) => acknowledge(d, answer)));
      } else {
        say(`“${request.label}” was not saved. ${((await response.json()) as Problem).detail}`);
        store.dispatch(api.util.invalidateTags(['Project']));
      }
    }
    store.dispatch(savingChanged('saved'));
  } finally {
    sending = false;
  }
}

/** Once every edit made so far has been answered by the server. */
export async function settled(): Promise<void> {
  while (outbox.length > 0) await pause(30);
}

/** True while an edit waits for the server: what others changed is then fetched after it. */
export const hasUnsent = (): boolean => outbox.length > 0;

export async function stepHistory(projectId: string, direction: 'undo' | 'redo'): Promise<void> {
  await settled();
  const response = await fetch(`/api/projects/${projectId}/${direction}`, { method: 'POST' }).catch(() => undefined);
  if (!response?.ok) say(response ? ((await response.json()) as Problem).detail : 'The server did not answer.');
  await store.dispatch(api.endpoints.getProject.initiate(projectId, { forceRefetch: true, subscribe: false }));
}
