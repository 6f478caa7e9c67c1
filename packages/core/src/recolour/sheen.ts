import type { LinearPlanes } from '../colour/planes.ts';
import type { Triple } from '../colour/matrix3.ts';
import { luminanceOf } from '../colour/xyz.ts';
import type { SheenBody } from '../document/recipe.ts';
import { guidedFilterInPlace } from '../matte/guidedFilter.ts';

// Dichromatic reflection (S. A. Shafer, "Using color to separate reflection components", 1985): a pixel is the body's
// light, in the body's colour, and sheen in the colour of the light. In log chromaticity lights move along one line (G.
// D. Finlayson, M. S. Drew, C. Lu, "Intrinsic images by entropy minimization", 2004); across it lies an invariant that
// shading and the colour of the light leave alone and sheen does not: it is what tells how much sheen a pixel has.

/** Sheen leaves at least this much of every channel to the body. */
export const MOST_OF_CHANNEL = 0.95;
/** Full-resolution pixels, and the variance of luminance that counts as smooth, of the filter against grain. */
const FILTER_PX = 3;
const FILTER_EPSILON = 5e-4;

/** I = K·ln(R/G) + ln(B/G). */
export const invariantOf = (slope: number, r: number, g: number, b: number): number =>
  slope * Math.log(r / g) + Math.log(b / g);

/** What tells sheen from body, but for the body's own invariant. */
export type Way = Omit<SheenBody, 'invariant'>;
/** Signed sheen s with which x − s·e has the invariant: less than none where a pixel lies on the other side. */
export function signedSheen(
  [r, g, b]: Triple,
  { light: [er, eg, eb], slope, direction }: Way,
  invariant: number,
): number {
  const most = MOST_OF_CHANNEL * Math.min(r / er, g / eg, b / eb);
  let [lo, hi] = [-4 * luminanceOf([r, g, b]), most];
  // the way sheen moves it, the invariant rises with s
  for (let k = 0; k < 30; k++) {
    const s = (lo + hi) / 2;
    const off = direction * (invariantOf(slope, r - s * er, g - s * eg, b - s * eb) - invariant);
    if (off < 0) lo = s;
    else hi = s;
  }
  return (lo + hi) / 2;
}

/**
 * How much of a pixel's luminance is sheen, at every pixel of the piece: the first s ≥ 0 along the way for which x −
 * s·e has the body's invariant, read from a picture whose grain has been smoothed (guided by luminance), times the
 * confidence. `scale` is this size over the full resolution. 0 where α is 0.
 */
export function sheenOf(
  { r, g, b }: LinearPlanes,
  alpha: Float32Array,
  width: number,
  height: number,
  body: SheenBody,
  scale: number,
): Float32Array {
  const out = new Float32Array(alpha.length);
  if (body.confidence === 0) return out;
  const Y = r.map((v, i) => luminanceOf([v, g[i]!, b[i]!]));
  const quiet = (plane: Float32Array) => {
    const copy = plane.slice();
    guidedFilterInPlace(copy, Y, width, height, Math.max(Math.round(FILTER_PX * scale), 1), FILTER_EPSILON);
    return copy;
  };
  const [R, G, B] = [quiet(r), quiet(g), quiet(b)];
  const { light, slope, direction, invariant, confidence } = body;
  for (let i = 0; i < alpha.length; i++) {
    if (alpha[i] === 0) continue;
    const x: Triple = [R[i]!, G[i]!, B[i]!];
    if (!(Math.min(...x) > 1e-5)) continue;
    // on the body's side of it, or on it: no sheen
    if (direction * (invariantOf(slope, ...x) - invariant) >= 0) continue;
    const most = MOST_OF_CHANNEL * Math.min(r[i]! / light[0], g[i]! / light[1], b[i]! / light[2]);
    out[i] = Math.min(Math.max(confidence * signedSheen(x, body, invariant), 0), Math.max(most, 0));
  }
  return out;
}
