import { nearestSite } from '../shape/nearestSite.ts';

/** Levels of α that are moved one by one; a soft edge keeps its profile to within half a level. */
const LEVELS = 8;

/**
 * Grows (positive) or shrinks (negative) a matte by a round, fractional radius in samples, in place.
 *
 * Threshold decomposition (P. Maragos, R. Schafer 1987): a grey matte is the mean of its level sets {α ≥ λ}; each is
 * moved outwards by the radius along its own signed distance, found to a fraction of a pixel from α itself, and drawn
 * with an edge one sample wide. That is dilation and erosion by a disc, so soft edges stay as soft, corners become
 * round, and what is thinner than twice the radius is gone after shrinking. The distance transform makes the cost
 * independent of the radius. Only the neighbourhood of what can change is computed.
 */
export function moveEdgeInPlace(alpha: Float32Array, width: number, height: number, radius: number): void {
  if (radius === 0 || !Number.isFinite(radius)) return;
  const box = changingBox(alpha, width, height, Math.abs(radius) + 2);
  if (!box) return;
  const { x0, y0, w, h } = box;
  const part = new Float32Array(w * h);
  for (let y = 0; y < h; y++) part.set(alpha.subarray((y + y0) * width + x0, (y + y0) * width + x0 + w), y * w);
  const sum = new Float32Array(w * h);
  for (let k = 0; k < LEVELS; k++) addMovedLevel(sum, part, w, h, (k + 0.5) / LEVELS, radius);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = y * w + x;
      const moved = sum[i]! / LEVELS;
      // growing never takes away and shrinking never adds, whatever the rounding of the levels
      alpha[(y + y0) * width + x + x0] = radius > 0 ? Math.max(moved, part[i]!) : Math.min(moved, part[i]!);
    }
}

/** The part of the picture within `reach` of any change of α; undefined when α is the same everywhere. */
function changingBox(alpha: Float32Array, width: number, height: number, reach: number): { x0: number; y0: number; w: number; h: number } | undefined {
  let [x0, y0, x1, y1] = [width, height, -1, -1];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const a = alpha[y * width + x]!;
      if ((x + 1 < width && alpha[y * width + x + 1]! !== a) || (y + 1 < height && alpha[(y + 1) * width + x]! !== a)) {
        if (x < x0) x0 = x;
        if (x > x1) x1 = x;
        if (y < y0) y0 = y;
        if (y > y1) y1 = y;
      }
    }
  if (x1 < 0) return undefined;
  const r = Math.ceil(reach);
  x0 = Math.max(x0 - r, 0);
  y0 = Math.max(y0 - r, 0);
  return { x0, y0, w: Math.min(x1 + 2 + r, width) - x0, h: Math.min(y1 + 2 + r, height) - y0 };
}

/** Adds to `sum` the level set {α ≥ level} moved outwards by `radius`, 0..1 with an edge one sample wide. */
function addMovedLevel(sum: Float32Array, alpha: Float32Array, w: number, h: number, level: number, radius: number): void {
  const cost = new Float64Array(w * h).fill(Infinity);
  const offX = new Float32Array(w * h);
  const offY = new Float32Array(w * h);
  let any = false;
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = y * w + x;
      const a = alpha[i]!;
      const inside = a >= level;
      // places where the level is crossed on the way to a neighbour, by linear interpolation; the nearest one counts
      let best = Infinity;
      const cross = (j: number, dx: number, dy: number) => {
        const b = alpha[j]!;
        if (b >= level === inside) return;
        const t = (level - a) / (b - a);
        if (t * t < best) {
          best = t * t;
          offX[i] = dx * t;
          offY[i] = dy * t;
        }
      };
      if (x > 0) cross(i - 1, -1, 0);
      if (x + 1 < w) cross(i + 1, 1, 0);
      if (y > 0) cross(i - w, 0, -1);
      if (y + 1 < h) cross(i + w, 0, 1);
      if (best < Infinity) {
        cost[i] = best;
        any = true;
      }
    }
  if (!any) {
    const all = alpha[0]! >= level ? 1 : 0;
    for (let i = 0; i < sum.length; i++) sum[i] = sum[i]! + all;
    return;
  }
  const sites = nearestSite(cost, w, h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = y * w + x;
      const s = sites[i]!;
      const distance = Math.hypot((s % w) + offX[s]! - x, Math.floor(s / w) + offY[s]! - y);
      const signed = (alpha[i]! >= level ? distance : -distance) + radius;
      sum[i] = sum[i]! + Math.min(Math.max(signed + 0.5, 0), 1);
    }
}
