import { planeOf, type LinearPlanes } from '../colour/planes.ts';
import type { ShapeMatte } from '../document/geometry.ts';
import { boundsOfMatte } from '../matte/bounds.ts';
import { gaussianInPlace } from '../matte/gaussian.ts';
import { maskDistanceInto } from '../shape/nearestSite.ts';
import { shapeMatteInto } from '../shape/shapeMatte.ts';

/** What a bounce of full amount is of the change in the piece: a fifth is usual on a floor. */
const MOST = 0.3;
/** α from which something of the piece is there, and its least share in a mean. */
const THERE = 0.02;
/** A floor seen at a slant is nearer than it looks: distance in the picture over this. */
const SLANT = 0.6;

/**
 * Carries the change of a piece's colour onto a floor or wall that is marked, as the light it throws there does:
 * out = I·(1 + k·½(1 − X/√(X² + H²))·D̄), with X the distance from the piece, H its height (the form factor of a wall
 * above a floor), D̄ the change of the piece's light, blurred by a fifth of its height. In place. `before`: the picture
 * before the piece was recolored. `amount` is 0..1 of the most a floor gives back. Gives the indices it has changed.
 */
export function bounceInto(
  { r, g, b }: LinearPlanes,
  before: LinearPlanes,
  alpha: Float32Array,
  width: number,
  { within, amount }: { within: ShapeMatte; amount: number },
  scale: number,
): Float32Array | undefined {
  const height = alpha.length / width;
  const bounds = boundsOfMatte(alpha, width, height);
  if (!bounds) return undefined;
  const tall = bounds.y1 - bounds.y0;
  const distance = new Float32Array(alpha.length);
  maskDistanceInto(
    distance,
    Uint8Array.from(alpha, (a) => (a > THERE ? 1 : 0)),
    width,
    height,
  );
  const marked = new Float32Array(alpha.length);
  shapeMatteInto(marked, width, height, within, scale);
  const blurred = (of: (i: number) => number) => {
    const out = planeOf(alpha.length, of);
    gaussianInPlace(out, width, height, Math.max(tall / 5, 0.5));
    return out;
  };
  const weight = blurred((i) => alpha[i]!);
  const at = planeOf(alpha.length, (i) => {
    if (marked[i] === 0 || alpha[i]! > THERE) return 0;
    const X = distance[i]! / SLANT;
    return amount * MOST * marked[i]! * 0.5 * (1 - X / Math.hypot(X, tall));
  });
  for (const [plane, was] of [
    [r, before.r],
    [g, before.g],
    [b, before.b],
  ] as const) {
    const change = blurred((i) => alpha[i]! * (plane[i]! - was[i]!));
    for (let i = 0; i < at.length; i++)
      if (at[i]! !== 0) plane[i] = Math.max(plane[i]! * (1 + (at[i]! * change[i]!) / Math.max(weight[i]!, THERE)), 0);
  }
  return at;
}
