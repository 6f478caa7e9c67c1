// First hints: a place that grows as far as one lets it, and a line round what is looked for.
import type { Stroke } from '../document/layer.ts';
import { differences2 } from './cutPatches.ts';
import { geodesicDistances } from './geodesic.ts';
import { signedDistance } from './signedDistance.ts';
import { markedByStrokes } from './strokes.ts';
import type { Superpixels } from './superpixels.ts';

/** What a grown place says at its middle, as log-odds; nothing at its reach, the opposite at twice that. */
const MOST_BY_GROWTH = 4;
/** Its colours are those up to this share of its reach; those of the surroundings lie beyond that one. */
const TAUGHT_WITHIN = 0.7;
const TAUGHT_BEYOND = 1.4;
/** What a step from patch to patch costs at least, OKLab. */
const LEAST_STEP = 0.004;
/** Of the inside of a line, what lies so deep, by its deepest, is taken for what is looked for. */
const DEEP = 0.5;

/** What grown places say of a picture's patches. */
export interface Growth {
  /** Log-odds of each patch being in. */
  odds: Float64Array;
  /** No other stroke takes in or leaves out. */
  alone: boolean;
  /** Marks with those that the growth adds where strokes say nothing. */
  taught: (marks: Int8Array) => Int8Array;
}

/** Undefined where no stroke has a reach. `scale`: the patches' picture over the full resolution. */
export function growthOf(patches: Superpixels, strokes: readonly Stroke[], scale: number): Growth | undefined {
  const growing = strokes.filter((s) => s.sign === 'in' && s.reach !== undefined);
  if (growing.length === 0) return undefined;
  const { count, pairs, labels, width, height } = patches;
  const cost = differences2(patches).map((d) => Math.sqrt(d) + LEAST_STEP);
  /** How far off each patch is, in reaches, of the place that it is nearest to. */
  const away = new Float64Array(count).fill(Infinity);
  for (const stroke of growing) {
    const seeds = new Set<number>();
    markedByStrokes([stroke], width, height, scale).forEach((m, i) => m > 0 && seeds.add(labels[i]!));
    const distance = geodesicDistances(count, pairs, cost, [...seeds]);
    for (let k = 0; k < count; k++) away[k] = Math.min(away[k]!, distance[k]! / Math.max(stroke.reach!, 1e-6));
  }
  return {
    odds: away.map((d) => MOST_BY_GROWTH * Math.max(1 - d, -1)),
    alone: strokes.every((s) => growing.includes(s) || s.sign === 'unsure'),
    taught: (marks) => {
      const hasOut = marks.includes(-1);
      return marks.map((m, i) => {
        const d = away[labels[i]!]!;
        if (m !== 0 || d < TAUGHT_WITHIN) return m === 0 ? 1 : m;
        return d > TAUGHT_BEYOND && !hasOut ? -1 : 0;
      });
    },
  };
}

/**
 * Where strokes only go round something, the middle of what they go round: 1, else 0. `marks` are −1 beyond them.
 * Undefined where they mark nothing.
 */
export function middleOf(marks: Int8Array, width: number, height: number): Uint8Array | undefined {
  if (!marks.includes(-1) || !marks.includes(0)) return undefined;
  const inside = Float32Array.from(marks, (m) => (m === 0 ? 1 : 0));
  const depth = signedDistance(inside, width, height);
  const deepest = depth.reduce((most, d) => Math.max(most, d), 0);
  return Uint8Array.from(depth, (d) => (d >= DEEP * deepest ? 1 : 0));
}
