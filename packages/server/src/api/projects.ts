import { randomUUID } from 'node:crypto';
import { ROUTES, type ColourwayId, type Entity, type ProjectId } from '@mellow/contract';
import { applyChange, listChanges } from '../db/changes.ts';
import { stepHistory } from '../db/stepHistory.ts';
import { colourways, projects, shots } from '../db/entities.ts';
import { findMedia } from '../db/media.ts';
import { listMeasurements } from '../db/measurements.ts';
import { inTransaction } from '../db/pool.ts';
import { duplicateProject, insertPiecesOf } from '../db/duplicateProject.ts';
import { assertProject, listProjectCards, projectDocument, setProjectState } from '../db/projects.ts';
import { measurementInputs, scheduleStaleMeasurements } from '../jobs/measureWork.ts';
import { decodeAhead } from '../track/lumaFrames.ts';
import type { AppServices } from '../services.ts';
import { assertAnimatedInRange } from './animatedRanges.ts';
import { assertId } from './ids.ts';
import { assertOwnMedia, assertSees, ownProject } from '../people/caller.ts';
import { assertOnlyStates, assertStepOfReviewer, mediaOfEdits } from '../people/editRights.ts';
import { parseInput } from './parseInput.ts';
import type { Register } from './route.ts';

export function projectRoutes(register: Register, { pool, store, events }: AppServices): void {
  /** A track was drawn or changed: its first frame is decoded before it is asked for. */
  const readyToTrack = async (track: Entity<'track'>): Promise<void> => {
    const shot = await shots.find(pool, track.shotId);
    const media = shot && (await findMedia(pool, shot.value.mediaId));
    if (media) decodeAhead(store, media, track.referenceFrame);
  };
  register('listProjects', ({ caller }) => listProjectCards(pool, caller.isFree ? null : caller.person!.id));
  register('createProject', async ({ body, caller }) => {
    const id = randomUUID() as ProjectId;
    if (body.piecesOf) await assertSees(pool, caller, body.piecesOf);
    await inTransaction(pool, async (db) => {
      const plain = { tolerance: 1, referenceShotId: null, look: null, viewTable: null };
      await projects.insert(db, { id, name: body.name, ...plain }, 1);
      await ownProject(db, id, caller);
      if (body.piecesOf) return insertPiecesOf(db, body.piecesOf, id);
      await colourways.insert(db, { id: randomUUID() as ColourwayId, projectId: id, name: 'Main', position: 0 }, 1);
    });
    return { id };
  });
  register('duplicateProject', async ({ params, caller }) => {
    const id = await inTransaction(pool, async (db) => {
      await db.query('set transaction isolation level repeatable read');
      const copy = await duplicateProject(db, assertId('project', params.projectId));
      await ownProject(db, copy, caller);
      return copy;
    });
    await scheduleStaleMeasurements(pool, id);
    return { id };
  });
  register('setProjectState', async ({ params, body: { state } }) => {
    await setProjectState(pool, assertId('project', params.projectId), state);
    return { state };
  });
  register('getProject', ({ params, caller }) => {
    const looking = { personId: caller.author.id, role: caller.role! };
    return projectDocument(pool, assertId('project', params.projectId), looking);
  });
  register('change', async ({ params, body, caller }) => {
    const projectId = assertId('project', params.projectId);
    assertAnimatedInRange(body.edits);
    if (caller.role === 'reviewer') await assertOnlyStates(pool, body.edits);
    await assertOwnMedia(pool, caller, mediaOfEdits(body.edits));
    const answer = await applyChange(pool, projectId, body, caller.author);
    for (const { kind, value } of body.edits)
      if (kind === 'track' && value) void readyToTrack(value).catch(() => undefined);
    return answer;
  });
  for (const direction of ['undo', 'redo'] as const)
    register(direction, async ({ params, body, caller }) => {
      const projectId = assertId('project', params.projectId);
      const assertMay = caller.role === 'reviewer' ? assertStepOfReviewer : undefined;
      return stepHistory(pool, projectId, direction, body.id, caller.author, assertMay);
    });
  register('listChanges', async ({ params }) => {
    await assertProject(pool, assertId('project', params.projectId));
    return listChanges(pool, params.projectId!);
  });
  register('here', async ({ params, body, caller }) => {
    events.moved(assertId('project', params.projectId), body, caller.person);
    return {};
  });
  register('events', async ({ params, request, response, caller }) => {
    await assertProject(pool, assertId('project', params.projectId));
    const { page = randomUUID() } = parseInput(ROUTES.events.query, request.query);
    events.subscribe(params.projectId!, response, page, caller.person);
    return undefined;
  });
  register('listMeasurements', async ({ params }) => {
    const document = await projectDocument(pool, assertId('project', params.projectId));
    return listMeasurements(pool, document.project.value.id, measurementInputs(document));
  });
}
