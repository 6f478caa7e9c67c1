import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { markEdgeBand } from '../matte/edgeBand.ts';
import { boxOf } from '../track/planeTracker.ts';
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

/** α from 0 or 1 at the fine size: as soft as the picture's own edge along the outline, exact elsewhere. */
export function softenInto(
  out: Float32Array,
  mask: Float32Array,
  fine: SizedPicture,
  oklab: OklabPlanes,
  width: number,
  height: number,
): void {
  const radius = softRadius(edgeBlur(mask, fine.oklab, fine.width, fine.height));
  const near = new Uint8Array(mask.length);
  markEdgeBand(near, mask, fine.width, fine.height, radius);
  const across = nearestSamples(width, fine.width);
  const down = nearestSamples(height, fine.height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0, row = down[y]! * fine.width; x < width; x++, i++) out[i] = mask[row + across[x]!]!;
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
  const part = (plane: Float32Array) => {
    const cut = new Float32Array(w * h);
    for (let y = 0; y < h; y++)
      cut.set(plane.subarray((y + box.y0) * fine.width + box.x0, (y + box.y0) * fine.width + box.x1), y * w);
    return cut;
  };
  const guide = colourGuide(
    part(mask),
    { L: part(fine.oklab.L), a: part(fine.oklab.a), b: part(fine.oklab.b) },
    w,
    h,
    radius,
    SOFT_EPSILON,
  );
  const whole = (plane: Float32Array) => {
    const laid = new Float32Array(fine.width * fine.height);
    for (let y = 0; y < h; y++) laid.set(plane.subarray(y * w, (y + 1) * w), (y + box.y0) * fine.width + box.x0);
    return enlarged(laid, fine.width, fine.height, width, height);
  };
  const [aL, aA, aB, c] = [whole(guide.aL), whole(guide.aA), whole(guide.aB), whole(guide.c)];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0, row = down[y]! * fine.width; x < width; x++, i++)
      if (near[row + across[x]!])
        out[i] = Math.min(Math.max(aL[i]! * oklab.L[i]! + aA[i]! * oklab.a[i]! + aB[i]! * oklab.b[i]! + c[i]!, 0), 1);
}
