import type { MediaId } from '@mellow/contract';
import { plateId, platesOf, type SightingRender } from '@mellow/core';
import { findMedia } from '../db/media.ts';
import type { Queryable } from '../db/pool.ts';
import { PlateReader } from '../media/plate.ts';
import type { MediaStore } from '../media/store.ts';

/** α of every plate that a shot's stacks name, frame by frame. */
export interface ShotPlates {
  frame(frame: number): Promise<Record<string, Float32Array>>;
  close(): Promise<void>;
}

/** Opens the plates of some stacks at the shot's size. Throws when a plate's footage is gone. */
export async function openPlates(
  db: Queryable,
  store: MediaStore,
  sightings: readonly Pick<SightingRender, 'layers'>[],
  size: { width: number; height: number },
  signal: AbortSignal,
): Promise<ShotPlates> {
  const readers = new Map<string, PlateReader>();
  for (const layer of sightings.flatMap((s) => platesOf(s.layers))) {
    const key = plateId(layer);
    if (readers.has(key)) continue;
    const stored = await findMedia(db, layer.mediaId as MediaId);
    if (!stored) throw new Error('the footage of a plate matte is no longer there');
    readers.set(key, new PlateReader(store, stored, layer, size, signal));
  }
  return {
    async frame(frame) {
      const result: Record<string, Float32Array> = {};
      for (const [key, reader] of readers) {
        const alpha = await reader.frame(frame);
        if (alpha) result[key] = alpha;
      }
      return result;
    },
    async close() {
      for (const reader of readers.values()) await reader.close();
    },
  };
}
