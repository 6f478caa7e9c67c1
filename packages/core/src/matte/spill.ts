import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { maskDistanceInto } from '../shape/nearestSite.ts';
import { gaussianInPlace } from './gaussian.ts';

/**
 * What to do with the piece's old colour outside its matte: the bounce on the floor, the fringe round the edge.
 * `follow` carries the recolour there in proportion, `remove` takes the old colour out.
 */
export const SPILL_MODES = ['off', 'follow', 'remove'] as const;
export interface Spill {
  mode: (typeof SPILL_MODES)[number];
  /** How far from the matte it is looked for, full-resolution pixels. */
  reachPx: number;
  /** 0..1 on what is found. */
  amount: number;
  /** How far a colour may lie off the way between surroundings and piece, OKLab a,b; beyond it belongs to something else. */
  tolerance: number;
}
export const NO_SPILL: Spill = { mode: 'off', reachPx: 40, amount: 1, tolerance: 0.03 };

/** What spill was found: its share in each pixel, and the colour of the piece and of the surroundings there (OKLab a, b). */
export interface SpillMap {
  /** 0..1: how much of the piece's colour the pixel carries, times the distance fall-off; 0 inside the matte and far from it. */
  share: Float32Array;
  pieceA: Float32Array;
  pieceB: Float32Array;
  surroundA: Float32Array;
  surroundB: Float32Array;
}

/** A piece and surroundings closer than this in a,b (OKLab) cannot be told apart, so nothing is called spill. */
const LEAST_CONTRAST = 0.02;
/** Shares under this are noise. */
const LEAST_SHARE = 0.02;

/** Mean of a plane over the neighbourhood, each pixel counting by its weight (normalised convolution, H. Knutsson, C.-F. Westin 1993). */
function localMean(plane: Float32Array, weight: Float32Array, blurredWeight: Float32Array, width: number, height: number, sigma: number, fallback: number): Float32Array {
  const out = new Float32Array(plane.length);
  for (let i = 0; i < out.length; i++) out[i] = plane[i]! * weight[i]!;
  gaussianInPlace(out, width, height, sigma);
  for (let i = 0; i < out.length; i++) out[i] = blurredWeight[i]! > 1e-4 ? out[i]! / blurredWeight[i]! : fallback;
  return out;
}

function weightedMean(plane: Float32Array, weight: Float32Array): number {
  let [sum, total] = [0, 0];
  for (let i = 0; i < plane.length; i++) {
    sum += plane[i]! * weight[i]!;
    total += weight[i]!;
  }
  return total > 0 ? sum / total : 0;
}

/**
 * Finds the spill of a matte. Near the matte each pixel's colour is set on the way from the local colour of the
 * surroundings (the pixels further out) to the local colour of the piece (the pixels well inside): its place on that way, 0..1, is
 * its share; a colour off the way by more than the tolerance is something else. Only a and b of OKLab are looked at:
 * bounce on a dark floor is dark. Undefined when the matte selects nothing or everything. Lengths are scaled by `scale`.
 */
export function findSpill(alpha: Float32Array, { a, b }: OklabPlanes, width: number, height: number, spill: Spill, scale: number): SpillMap | undefined {
  const n = alpha.length;
  const mask = Uint8Array.from(alpha, (v) => (v >= 0.5 ? 1 : 0));
  const solid = mask.reduce((sum, v) => sum + v, 0);
  const reach = spill.reachPx * scale;
  if (solid === 0 || solid === n || reach < 0.5) return undefined;
  const distance = new Float32Array(n);
  maskDistanceInto(distance, mask, width, height);
  const inside = new Float32Array(n);
  const outside = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    inside[i] = alpha[i]! >= 0.95 ? 1 : 0;
    const far = Math.min(distance[i]! / reach, 1.5);
    outside[i] = alpha[i]! > 0.02 ? 0 : far * far;
  }
  const sigma = Math.max(reach, 2);
  const [blurredInside, blurredOutside] = [inside.slice(), outside.slice()];
  gaussianInPlace(blurredInside, width, height, sigma);
  gaussianInPlace(blurredOutside, width, height, sigma);
  const local = (plane: Float32Array, weight: Float32Array, blurred: Float32Array) => localMean(plane, weight, blurred, width, height, sigma, weightedMean(plane, weight));
  const map: SpillMap = {
    share: new Float32Array(n),
    pieceA: local(a, inside, blurredInside),
    pieceB: local(b, inside, blurredInside),
    surroundA: local(a, outside, blurredOutside),
    surroundB: local(b, outside, blurredOutside),
  };
  for (let i = 0; i < n; i++) {
    const d = distance[i]!;
    if (d > reach || alpha[i]! >= 1) continue;
    const [wayA, wayB] = [map.pieceA[i]! - map.surroundA[i]!, map.pieceB[i]! - map.surroundB[i]!];
    const squared = wayA * wayA + wayB * wayB;
    if (squared < LEAST_CONTRAST * LEAST_CONTRAST) continue;
    const [x, y] = [a[i]! - map.surroundA[i]!, b[i]! - map.surroundB[i]!];
    const along = (x * wayA + y * wayB) / squared;
    if (along <= LEAST_SHARE) continue;
    const off = Math.hypot(x - along * wayA, y - along * wayB);
    const belongs = Math.min(Math.max(2 - off / spill.tolerance, 0), 1);
    // from the matte's edge the hold is full for half the reach, then lets go
    const fade = Math.min(Math.max(2 - (2 * d) / reach, 0), 1);
    // what the matte already takes is the recolour's; only the rest can be spill
    map.share[i] = Math.min(along, 1) * belongs * fade * (1 - alpha[i]!) * spill.amount;
  }
  return map;
}
