import { createHash } from 'node:crypto';
import { LRUCache } from 'lru-cache';
import { isScribbled, platesOf, type SightingRender } from '@mellow/core';
import type { BoxedMatte } from './boxedMatte.ts';
import type { FrameTask } from './renderProtocol.ts';

/** What tells the mattes of a frame from those of others, beside its picture. */
export interface MattesOf extends Pick<FrameTask, 'encoding' | 'scale' | 'balance' | 'sightings'> {
  /** The frames around, by how many frames they lie off. */
  around?: readonly { off: number; frame: { sightings: readonly SightingRender[] } }[] | undefined;
}

/**
 * What a sighting's matte on a frame depends on, in short. `picture`: what tells the decoded frame, and those around
 * it, from all others. Undefined where it depends on more than that: plates are other footage, and what strokes select
 * may have been carried.
 */
export function matteKey(picture: string, task: MattesOf, index: number): string | undefined {
  const { encoding, scale, balance, around } = task;
  const stack = ({ layers, cleanUp }: SightingRender) => [layers, cleanUp];
  const sighting = task.sightings[index]!;
  const steadyFrames = sighting.steadyFrames ?? 0;
  const near = (around ?? []).filter(({ off }) => Math.abs(off) <= steadyFrames);
  const stacks = [sighting, ...near.map(({ frame }) => frame.sightings[index]!)];
  if (stacks.some(({ layers }) => isScribbled(layers) || platesOf(layers).length > 0)) return undefined;
  const all = [picture, encoding, scale, balance, near.map(({ off }) => off), stacks.map(stack)];
  return createHash('sha256').update(JSON.stringify(all)).digest('base64url');
}

/** What an empty matte takes here, about. */
const LEAST_BYTES = 256;
/** Mattes by their keys; those that were not wanted for the longest are let go first. */
export const keptMattes = (mostBytes: number): LRUCache<string, BoxedMatte> =>
  new LRUCache({ maxSize: mostBytes, sizeCalculation: ({ alpha }) => LEAST_BYTES + alpha.byteLength });

/**
 * Those that pieces are measured with: no recipe changes a matte, and to make it takes longer than to measure. About a
 * fifth of the frame is a piece, 100 kB at 480 × 270.
 */
export const measuredMattes = keptMattes(64 * 2 ** 20);
