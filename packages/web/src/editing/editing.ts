// The one way to edit: shown at once, queued where a closed page cannot lose it, sent in order, acknowledged.
import type { ChangeId, ProjectDocument, Shot } from '@mellow/contract';
import { current } from '@reduxjs/toolkit';
import pRetry from 'p-retry';
import { store } from '../app/store.ts';
import { api } from '../data/api.ts';
import { pageId } from '../data/page.ts';
import { me } from '../data/people.ts';
import { pending } from '../data/pending.ts';
import { ask, problemText, type Failure } from '../data/requests.ts';
import { draftDropped } from '../view/draftSlice.ts';
import { asideChanged, savingChanged, type Saving } from '../view/savingSlice.ts';
import type { Change } from './change.ts';
import { MadeMeanwhile } from './madeMeanwhile.ts';
import { acknowledge, applyEdit } from './optimistic.ts';
import { Outbox, pagesWithEdits, type Outcome, type Unsent } from './outbox.ts';
import { RemovedRevisions } from './removed.ts';
import { whyNotEdit } from './rights.ts';
import { UnderWay } from './underWay.ts';

/** Tells the user what could not be done; set by the frame once messages can be shown. */
let say: (text: string) => void = () => undefined;
export const onEditProblem = (listener: (text: string) => void): void => void (say = listener);
/** Tells why something asked for could not be done. */
export const tellProblem = (error: unknown): void => say(error instanceof Error ? error.message : String(error));

/** The project as it is now, edits just made included: for work that began before other edits were made. */
export const documentOf = (projectId: string) => api.endpoints.getProject.select(projectId)(store.getState()).data;

/** A shot as it is now. */
export const shotNow = (shot: Shot): Shot =>
  documentOf(shot.projectId)?.shots.find((s) => s.value.id === shot.id)?.value ?? shot;

/** Who is signed in here, as far as the page knows; undefined where nobody signs in. */
const whoIsHere = (): string | undefined => me.select()(store.getState()).data?.person?.id;

/** Sends one edit against the revisions the page now holds: those of edits before it are known by then. */
async function send({ projectId, request, by }: Unsent): Promise<Outcome> {
  if (step) await step;
  if (by !== undefined && by !== (await signedInHere()))
    return { kind: 'refused', reason: 'It was made by somebody else who was signed in in this browser.' };
  if (request.edits.some((e) => madeMeanwhile.isLost(e)))
    return { kind: 'refused', reason: 'What it changes was undone or redone just before.' };
  if (!documentOf(projectId)) await store.dispatch(api.endpoints.getProject.initiate(projectId, { subscribe: false }));
  const document = documentOf(projectId);
  const edits = request.edits.map((e) => ({
    ...e,
    revision: document ? removed.revisionFor(document, e) : e.revision,
  }));
  const { data, error } = await ask('change', { params: { projectId }, body: { ...request, edits } });
  return data ? { kind: 'saved', answer: data } : outcomeOf(error);
}
/** Asked once for a page: whoever signs in begins another. */
async function signedInHere(): Promise<string | undefined> {
  await store.dispatch(me.initiate(undefined, { subscribe: false }));
  return whoIsHere();
}
function outcomeOf(failure: Failure): Outcome {
  // 503: the server stands, its database does not; 401: signed out, and soon in again; 429: too fast
  if (failure.status === 'away' || [401, 429, 503].includes(failure.status)) return { kind: 'away' };
  const reason = problemText(failure);
  return failure.status >= 500 ? { kind: 'failed', reason } : { kind: 'refused', reason };
}

let sending: Saving = 'saved';
const tellSaving = (): void => {
  store.dispatch(savingChanged(sending === 'saved' && underWay.isWaiting ? 'saving' : sending));
};
/** What is shown and not yet an edit is not saved. */
export const underWay = new UnderWay(tellSaving, tellProblem);

const removed = new RemovedRevisions();
/** A step of the history that is on its way, until the page knows what it left; edits wait for it. */
let step: Promise<void> | undefined;
const madeMeanwhile = new MadeMeanwhile();
pending.onLaidOver = (document, edit) => {
  if (!step) return;
  removed.keep(document, [edit]);
  madeMeanwhile.rebase(document, edit);
};

export const outbox = new Outbox({
  storage: localStorage,
  pageId,
  send,
  onWaiting: (unsent) => (pending.unsent = unsent),
  onState: (state) => {
    sending = state;
    tellSaving();
  },
  onSaved: ({ projectId }, answer) => {
    pending.acknowledged++;
    removed.acknowledge(answer);
    store.dispatch(api.util.updateQueryData('getProject', projectId, (d) => acknowledge(d, answer)));
  },
  onAside: (all, latest) => {
    store.dispatch(asideChanged(all));
    if (!latest) return;
    pending.acknowledged++;
    say(`“${latest.request.label}” was not saved. ${latest.reason}`);
    store.dispatch(api.util.invalidateTags(['Project']));
  },
});

/** Begins sending: first what pages that have been closed left behind. A page that is open holds its lock. */
export function startSaving(): void {
  store.dispatch(asideChanged([...outbox.aside]));
  void navigator.locks.request(`mellow:page:${pageId}`, () => new Promise(() => undefined));
  for (const left of pagesWithEdits(localStorage))
    void navigator.locks.request(`mellow:page:${left}`, { ifAvailable: true }, (lock) => {
      if (lock) outbox.adopt(left);
    });
  addEventListener('pagehide', () => underWay.makeAll());
  void outbox.run();
}

/** Makes a change: one named step of the history. */
export function edit(projectId: string, { label, edits }: Change): void {
  if (edits.length === 0) return;
  const document = documentOf(projectId);
  const why = document && whyNotEdit(document, edits);
  if (why) {
    store.dispatch(draftDropped());
    return say(why);
  }
  if (document) removed.keep(document, edits);
  const request = {
    id: crypto.randomUUID() as ChangeId,
    label: label.slice(0, 200),
    edits: edits.map((e) => ({ ...e, revision: null })),
  };
  const show = (document: ProjectDocument) => {
    for (const one of request.edits) {
      if (step) madeMeanwhile.note(current(document), one);
      applyEdit(document, one);
    }
  };
  store.dispatch(api.util.updateQueryData('getProject', projectId, show));
  store.dispatch(draftDropped());
  outbox.add({ projectId, request, by: whoIsHere() });
}

/** Once every edit made so far has been answered by the server. */
export async function settled(): Promise<void> {
  await underWay.made();
  await outbox.run();
}

/** True while an edit waits for the server: what others changed is then fetched after it. */
export const hasUnsent = (): boolean => outbox.waiting.length > 0;

/**
 * Undoes or redoes one step, after what was done before it. What is edited until the page knows what the step left
 * comes after it.
 */
export async function stepHistory(projectId: string, direction: 'undo' | 'redo'): Promise<void> {
  await settled();
  while (step) {
    await step;
    await settled();
  }
  step = takeStep(projectId, direction).finally(() => {
    step = undefined;
    madeMeanwhile.forget();
    outbox.keepChanged();
  });
  await step;
}
/** An answer that was lost is asked for again under the same id: it is one step all the same. */
async function takeStep(projectId: string, direction: 'undo' | 'redo'): Promise<void> {
  const id = crypto.randomUUID() as ChangeId;
  const take = async () => {
    const { error } = await ask(direction, { params: { projectId }, body: { id } });
    if (error && (error.status === 'away' || error.status >= 500)) throw new Error(problemText(error));
    if (error) say(problemText(error));
    // what was fetched meanwhile may be older
    else pending.acknowledged++;
  };
  await pRetry(take, { retries: 4, minTimeout: 300 }).catch(tellProblem);
  await store.dispatch(api.endpoints.getProject.initiate(projectId, { forceRefetch: true, subscribe: false }));
}
