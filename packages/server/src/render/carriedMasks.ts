import { carriedId, carriedOf, maskOfBytes, type CarriedMask, type SightingRender } from '@mellow/core';
import { listCarriedMasks } from '../db/carryRuns.ts';
import type { Queryable } from '../db/pool.ts';

/** The masks that selections were carried to, as the stacks of a frame name them, by core's `carriedId`. */
export async function carriedMasks(
  db: Queryable,
  sightings: readonly Pick<SightingRender, 'layers'>[],
): Promise<Record<string, CarriedMask>> {
  const found = await listCarriedMasks(
    db,
    sightings.flatMap((s) => carriedOf(s.layers)),
  );
  return Object.fromEntries(found.map(({ mask, ...from }) => [carriedId(from), maskOfBytes(mask)]));
}
