import { statfs } from 'node:fs/promises';
import type { DeliveryId, ProjectId } from '@mellow/contract';
import { listProjectSpace, unusedBytes } from '../db/space.ts';
import { deleteDelivery, deleteProject } from '../keeping/deletion.ts';
import type { AppServices } from '../services.ts';
import { Refused } from '../errors.ts';
import { assertId } from './ids.ts';
import type { Register } from './route.ts';

/** What takes room, and what is deleted for good. */
export function keepingRoutes(register: Register, { pool, store, keeping }: AppServices): void {
  register('space', async ({ caller }) => {
    const { bavail, blocks, bsize } = await statfs(store.root);
    return {
      projects: await listProjectSpace(pool, caller.isFree ? null : caller.person!.id),
      unusedBytes: await unusedBytes(pool),
      freeBytes: bavail * bsize,
      diskBytes: blocks * bsize,
      projectBytes: keeping.projectBytes ?? null,
      keepRemovedDays: keeping.removedDays ?? null,
      keepRendersDays: keeping.rendersDays ?? null,
    };
  });
  register('deleteProject', async ({ params, caller }) => {
    if (caller.person?.kind === 'guest')
      throw new Refused('not-allowed', 'Guests may remove a project; it is the house that deletes it for good.');
    const id = assertId('project', params.projectId) as ProjectId;
    await deleteProject(pool, store, id);
    return { id };
  });
  register('deleteDelivery', async ({ params }) => {
    const id = assertId('delivery', params.deliveryId) as DeliveryId;
    await deleteDelivery(pool, store, id);
    return { id };
  });
}
