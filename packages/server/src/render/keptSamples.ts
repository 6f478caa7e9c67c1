import { LRUCache } from 'lru-cache';
import type { FrameSample } from '@mellow/core';
import { matteKey, type MattesOf } from './keptMattes.ts';

/**
 * What a sighting's sample on a frame depends on, in short: its own matte, and those of all the others, which it may
 * not meet. `picture` as for `matteKey`. Undefined where one of them depends on more than that.
 */
export function sampleKey(picture: string, of: MattesOf, index: number): string | undefined {
  const keys = of.sightings.map((_, k) => matteKey(picture, of, k));
  return keys.every(Boolean) ? `${index} ${keys.join(' ')}` : undefined;
}

/** What an empty sample takes here, about. */
const LEAST_BYTES = 256;
/** Of an edge: where it is, its own colours, and chroma that has strayed there. */
const EDGE_PLANES = 7;
function bytesOf(sample: FrameSample): number {
  if (sample === 'nothing') return LEAST_BYTES;
  const { codes, alpha, clipped, edge } = sample;
  const edgeBytes = (edge?.index.byteLength ?? 0) * EDGE_PLANES;
  return LEAST_BYTES + 3 * codes.r.byteLength + alpha.byteLength + clipped.byteLength + edgeBytes;
}
/** Samples by their keys; those that were not wanted for the longest are let go first. */
export const keptSamples = (mostBytes: number): LRUCache<string, FrameSample> =>
  new LRUCache({ maxSize: mostBytes, sizeCalculation: bytesOf });

/**
 * Those that pieces are measured by after an edit of their recipe: to decode, to isolate and to find edges takes four
 * times as long as to recolour and to measure. At 480 × 270 and 16 bits a piece that fills a third of the picture has
 * 0.5 MB of it a frame.
 */
export const measuredSamples = keptSamples(96 * 2 ** 20);
