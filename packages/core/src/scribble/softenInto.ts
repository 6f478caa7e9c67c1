import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { markEdgeBand } from '../matte/edgeBand.ts';
import { cutOut } from '../matte/bounds.ts';
import { boxOf } from '../track/planeTracker.ts';
import { closedFormMatte } from './closedFormMatte.ts';
import { colourGuide } from './colourGuidedFilter.ts';
import { edgeBlur } from './edgeBlur.ts';
import { nearestSamples, type SizedPicture } from './preparedPicture.ts';
import { enlarged } from './resized.ts';

/** The guided filter that makes the outline soft: as wide as the picture is blurred along it, samples. */
const SOFT_RADIUS = 2;
const MOST_SOFT_RADIUS = 8;
const softRadius = (sigma: number | undefined): number =>
  sigma === undefined ? SOFT_RADIUS : Math.min(Math.round(0.7 + 1.5 * sigma), MOST_SOFT_RADIUS);
const SOFT_EPSILON = 4e-4;

/** How soft an outline is made. */
export interface Softness {
  /** From out to in, samples of the fine picture; 0: hard; left out: as the picture's own edge. */
  softPx?: number;
  /** At the fine size, where the picture is only partly in, to be found out from the picture itself: 1, else 0. */
  unsure?: Uint8Array;
}
/** By how much a hard edge is steeper than one over a sample of the filter. */
const HARD = 6;

/** α from 0 or 1 at the fine size: as soft as the picture's own edge along the outline, exact elsewhere. */
export function softenInto(
  out: Float32Array,
  mask: Float32Array,
  fine: SizedPicture,
  oklab: OklabPlanes,
  width: number,
  height: number,
  { softPx, unsure }: Softness = {},
): void {
  const radius =
    softPx === undefined
      ? softRadius(edgeBlur(mask, fine.oklab, fine.width, fine.height))
      : Math.max(Math.round(softPx / 2), 1);
  const near = new Uint8Array(mask.length);
  markEdgeBand(near, mask, fine.width, fine.height, radius);
  const across = nearestSamples(width, fine.width);
  const down = nearestSamples(height, fine.height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0, row = down[y]! * fine.width; x < width; x++, i++) out[i] = mask[row + across[x]!]!;
  guideInto(out, mask, near, radius, fine, oklab, width, height);
  if (softPx === 0) for (let i = 0; i < out.length; i++) out[i] = clamped((out[i]! - 0.5) * HARD + 0.5);
  if (!unsure) return;
  guideInto(out, closedFormMatte(fine, mask, unsure), unsure, 1, fine, oklab, width, height);
}
const clamped = (v: number): number => Math.min(Math.max(v, 0), 1);

/** Puts α of the fine size where `near` says so, by the colours of the full picture (see `colourGuide`). */
function guideInto(
  out: Float32Array,
  alpha: Float32Array,
  near: Uint8Array,
  radius: number,
  fine: SizedPicture,
  oklab: OklabPlanes,
  width: number,
  height: number,
): void {
  const edge = boxOf({ width: fine.width, height: fine.height, inside: near });
  if (edge.x1 <= edge.x0) return;
  // as far round it as the filter's two means reach
  const margin = 2 * radius + 1;
  const box = {
    x0: Math.max(edge.x0 - margin, 0),
    y0: Math.max(edge.y0 - margin, 0),
    x1: Math.min(edge.x1 + margin, fine.width),
    y1: Math.min(edge.y1 + margin, fine.height),
  };
  const [w, h] = [box.x1 - box.x0, box.y1 - box.y0];
  const part = (plane: Float32Array) => cutOut(plane, fine.width, box);
  const { L, a, b } = fine.oklab;
  const guide = colourGuide(part(alpha), { L: part(L), a: part(a), b: part(b) }, w, h, radius, SOFT_EPSILON);
  const whole = (plane: Float32Array) => {
    const laid = new Float32Array(fine.width * fine.height);
    for (let y = 0; y < h; y++) laid.set(plane.subarray(y * w, (y + 1) * w), (y + box.y0) * fine.width + box.x0);
    return enlarged(laid, fine.width, fine.height, width, height);
  };
  const [aL, aA, aB, c] = [whole(guide.aL), whole(guide.aA), whole(guide.aB), whole(guide.c)];
  const across = nearestSamples(width, fine.width);
  const down = nearestSamples(height, fine.height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0, row = down[y]! * fine.width; x < width; x++, i++)
      if (near[row + across[x]!])
        out[i] = clamped(aL[i]! * oklab.L[i]! + aA[i]! * oklab.a[i]! + aB[i]! * oklab.b[i]! + c[i]!);
}
