import { randomUUID } from 'node:crypto';
import type { Router } from 'express';
import type { ColourwayId, Entity, ProjectId } from '@mellow/contract';
import { applyChange, listChanges, stepHistory } from '../db/changes.ts';
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
import { register } from './route.ts';

/** Nobody signs in yet: the server answers on loopback only, and all edits are this person's. */
const WHO = 'local';

export function projectRoutes(router: Router, { pool, store, events }: AppServices): void {
  /** A track was drawn or changed: its first frame is decoded before it is asked for. */
  const readyToTrack = async (track: Entity<'track'>): Promise<void> => {
    const shot = await shots.find(pool, track.shotId);
    const media = shot && (await findMedia(pool, shot.value.mediaId));
    if (media) decodeAhead(store, media, track.referenceFrame);
  };
  register(router, 'listProjects', () => listProjectCards(pool));
  register(router, 'createProject', async ({ body }) => {
    const id = randomUUID() as ProjectId;
    await inTransaction(pool, async (db) => {
      const plain = { tolerance: 1, referenceShotId: null, look: null, viewTable: null };
      await projects.insert(db, { id, name: body.name, ...plain }, 1);
      if (body.piecesOf) return insertPiecesOf(db, body.piecesOf, id);
      await colourways.insert(db, { id: randomUUID() as ColourwayId, projectId: id, name: 'Main', position: 0 }, 1);
    });
    return { id };
  });
  register(router, 'duplicateProject', async ({ params }) => {
    const id = await inTransaction(pool, async (db) => {
      await db.query('set transaction isolation level repeatable read');
      return duplicateProject(db, assertId('project', params.projectId));
    });
    await scheduleStaleMeasurements(pool, id);
    return { id };
  });
  register(router, 'setProjectState', async ({ params, body: { state } }) => {
    await setProjectState(pool, assertId('project', params.projectId), state);
    return { state };
  });
  register(router, 'getProject', ({ params }) =>
    inTransaction(pool, async (db) => {
      await db.query('set transaction isolation level repeatable read');
      return projectDocument(db, assertId('project', params.projectId));
    }),
  );
  register(router, 'change', async ({ params, body }) => {
    const projectId = assertId('project', params.projectId);
    assertAnimatedInRange(body.edits);
    const answer = await applyChange(pool, projectId, { ...body, id: body.id }, WHO);
    await scheduleStaleMeasurements(pool, projectId);
    for (const { kind, value } of body.edits)
      if (kind === 'track' && value) void readyToTrack(value).catch(() => undefined);
    return answer;
  });
  for (const direction of ['undo', 'redo'] as const)
    register(router, direction, async ({ params, body }) => {
      const projectId = assertId('project', params.projectId);
      const answer = await stepHistory(pool, projectId, direction, body.id, WHO);
      await scheduleStaleMeasurements(pool, projectId);
      return answer;
    });
  register(router, 'listChanges', async ({ params }) => {
    await assertProject(pool, assertId('project', params.projectId));
    return listChanges(pool, params.projectId!);
  });
  register(router, 'events', async ({ params, response }) => {
    await assertProject(pool, assertId('project', params.projectId));
    events.subscribe(params.projectId!, response);
  });
  register(router, 'listMeasurements', async ({ params }) => {
    const document = await projectDocument(pool, assertId('project', params.projectId));
    return listMeasurements(pool, document.project.value.id, measurementInputs(document));
  });
}
