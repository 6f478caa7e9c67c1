import { join } from 'node:path';
import type { NewNote, Review, ReviewPage, SentPage } from '@mellow/contract';
import type { AppServices } from '../services.ts';
import { approvedFilms } from '../db/approvedFilms.ts';
import { findDelivery } from '../db/deliveries.ts';
import { addNote, listNotes, listNotesOfReview, settleNote } from '../db/notes.ts';
import { notify } from '../db/notify.ts';
import { inTransaction, type Queryable } from '../db/pool.ts';
import { assertProject, projectDocument } from '../db/projects.ts';
import { endReview, findOpenReview, listReviews } from '../db/reviews.ts';
import { insertVerdict, lastVerdictsOfReview } from '../db/verdicts.ts';
import { sendReview } from '../jobs/sendReview.ts';
import { standingVerdicts } from '../jobs/standingVerdicts.ts';
import { deliveryFolder } from '../media/store.ts';
import { NotFound, Refused } from '../errors.ts';
import { assertId } from './ids.ts';
import type { Register } from './route.ts';
import { sendKept } from './sendFile.ts';

interface Opened {
  review: Review;
  page: SentPage;
}
/** The review that a link opens. Throws Refused. */
async function opened(db: Queryable, token: string | undefined): Promise<Opened> {
  const found = await findOpenReview(db, token ?? '');
  if (!found) throw new Refused('not-found', 'This link opens nothing, or nothing any more. Ask for a new one.');
  return found;
}
async function pageOf(db: Queryable, { review, page }: Opened): Promise<ReviewPage> {
  return {
    ...page,
    name: review.name,
    expiresAt: review.expiresAt,
    files: review.files,
    approved: await approvedFilms(db, review.id),
    notes: await listNotesOfReview(db, review.id),
    verdicts: await lastVerdictsOfReview(db, review.id),
  };
}
/** Throws Refused where a client's note is about what was not sent. */
function assertSent({ shots, colourways }: SentPage, { shotId, colourwayId, frame }: NewNote): void {
  const shot = shots.find((s) => s.id === shotId);
  if (!shot) throw new NotFound('shot of this review', shotId);
  if (colourwayId !== null && !colourways.some((c) => c.id === colourwayId))
    throw new NotFound('colourway of this review', colourwayId);
  const last = shot.firstFrame + shot.frames - 1;
  if (frame < shot.firstFrame || frame > last)
    throw new Refused('invalid-input', `frame: ${shot.name} has the frames ${shot.firstFrame} to ${last}.`, [
      { path: 'frame', message: `must be ${shot.firstFrame} to ${last}` },
    ]);
}

/** What the house does: sends, withdraws, reads what was said, writes notes of its own. */
function houseRoutes(register: Register, { pool }: AppServices): void {
  const assertedProject = async (id: string | undefined): Promise<string> => {
    await assertProject(pool, assertId('project', id));
    return id!;
  };
  const reviewOf = async (projectId: string, id: string): Promise<Review> => {
    const review = (await listReviews(pool, projectId)).find((r) => r.id === id);
    if (!review) throw new NotFound('review', id);
    return review;
  };
  register('listReviews', async ({ params }) => listReviews(pool, await assertedProject(params.projectId)));
  register('sendReview', async ({ params, body }) => {
    const document = await projectDocument(pool, assertId('project', params.projectId));
    const projectId = document.project.value.id;
    const id = await inTransaction(pool, async (db) => {
      await notify(db, projectId, 'reviewed', {});
      return sendReview(db, document, body);
    });
    return reviewOf(projectId, id);
  });
  register('withdrawReview', async ({ params }) => {
    const [projectId, id] = [assertId('project', params.projectId), assertId('review', params.reviewId)];
    if (!(await endReview(pool, projectId, id))) throw new NotFound('review', id);
    await notify(pool, projectId, 'reviewed', {});
    return reviewOf(projectId, id);
  });
  register('listVerdicts', async ({ params }) => {
    const document = await projectDocument(pool, assertId('project', params.projectId));
    return standingVerdicts(pool, document);
  });
  register('listNotes', async ({ params }) => listNotes(pool, await assertedProject(params.projectId)));
  register('addNote', async ({ params, body, caller }) => {
    const document = await projectDocument(pool, assertId('project', params.projectId));
    if (!document.shots.some((s) => s.value.id === body.shotId)) throw new NotFound('shot', body.shotId);
    const signed = caller.person ? { ...body, who: caller.person.name } : body;
    const note = await addNote(pool, document.project.value.id, null, signed);
    await notify(pool, document.project.value.id, 'reviewed', {});
    return note;
  });
  register('settleNote', async ({ params, body }) => {
    const [projectId, id] = [assertId('project', params.projectId), assertId('note', params.noteId)];
    const note = await settleNote(pool, projectId, id, body.isSettled);
    await notify(pool, projectId, 'reviewed', {});
    return note;
  });
}

/** What who has the link may do: look at what was sent, write notes, decide. */
function clientRoutes(register: Register, { pool, store }: AppServices): void {
  register('openReview', async ({ params }) => pageOf(pool, await opened(pool, params.token)));
  register('reviewFile', async ({ params, response }) => {
    const { review } = await opened(pool, params.token);
    const isWanted = (f: { deliveryId: string }) => f.deliveryId === params.deliveryId;
    const file = review.files.find(isWanted) ?? (await approvedFilms(pool, review.id)).find(isWanted);
    const delivery = file && (await findDelivery(pool, file.deliveryId));
    if (!delivery) throw new NotFound('film of this review', String(params.deliveryId));
    if (delivery.job.state !== 'done') throw new Refused('conflict', 'This film is not finished.');
    const path = join(deliveryFolder(store, delivery.id), delivery.fileName);
    await sendKept(response, path);
  });
  register('addReviewNote', async ({ params, body }) => {
    const { review, page } = await opened(pool, params.token);
    assertSent(page, body);
    const note = await addNote(pool, review.projectId, review.id, body);
    await notify(pool, review.projectId, 'reviewed', {});
    return note;
  });
  register('addVerdict', async ({ params, body }) => {
    const found = await opened(pool, params.token);
    const { review, page } = found;
    const isSent = page.shots.some((shot) => shot.sightings.some((s) => s.id === body.sightingId));
    if (!isSent) throw new NotFound('sighting of this review', body.sightingId);
    if (!page.colourways.some((c) => c.id === body.colourwayId))
      throw new NotFound('colourway of this review', body.colourwayId);
    await insertVerdict(pool, review.id, body);
    await notify(pool, review.projectId, 'reviewed', {});
    return pageOf(pool, found);
  });
}

export function reviewRoutes(register: Register, services: AppServices): void {
  houseRoutes(register, services);
  clientRoutes(register, services);
}
