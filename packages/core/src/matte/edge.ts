import { nearestSite } from '../shape/nearestSite.ts';

/** The α whose outline is moved. */
const OUTLINE = 0.5;

/**
 * Grows (positive) or shrinks (negative) a matte by a round, fractional radius in samples, in place.
 *
 * The outline {α = ½} is found to a fraction of a pixel, and with it, for every pixel, the nearest place on it (an
 * exact distance transform: the cost does not depend on the radius). The matte's profile is then carried along the
 * normals: a pixel takes the α that stood `radius` further in (growing) or further out (shrinking). So corners become
 * round, what is thinner than twice the radius goes when shrinking, and a soft edge keeps its own ramp. Growing takes
 * the largest α met on the way, shrinking the smallest, so that growing never takes away and shrinking never adds.
 * Places that nowhere reach ½ have no outline and stay as they are: floor and ceiling come first. Only the
 * neighbourhood of what can change is computed.
 */
export function moveEdgeInPlace(alpha: Float32Array, width: number, height: number, radius: number): void {
  if (radius === 0 || !Number.isFinite(radius)) return;
  const box = changingBox(alpha, width, height, Math.abs(radius) + 2);
  if (!box) return;
  const { x0, y0, w, h } = box;
  const part = new Float32Array(w * h);
  for (let y = 0; y < h; y++) part.set(alpha.subarray((y + y0) * width + x0, (y + y0) * width + x0 + w), y * w);
  const outline = findOutline(part, w, h);
  if (!outline) return;
  const moved = new Float32Array(w * h);
  carryInto(moved, part, w, h, outline, radius);
  for (let y = 0; y < h; y++) alpha.set(moved.subarray(y * w, (y + 1) * w), (y + y0) * width + x0);
}

/** The part of the picture within `reach` of any change of α; undefined when α is the same everywhere. */
function changingBox(
  alpha: Float32Array,
  width: number,
  height: number,
  reach: number,
): { x0: number; y0: number; w: number; h: number } | undefined {
  let [x0, y0, x1, y1] = [width, height, -1, -1];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const a = alpha[i]!;
      if ((x + 1 < width && alpha[i + 1]! !== a) || (y + 1 < height && alpha[i + width]! !== a)) {
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

/**
 * Where the outline passes: for pixels beside it the offset to its nearest crossing, and the way up the slope of α
 * there.
 */
interface Outline {
  /** Squared distance from a pixel's centre to the crossing beside it; Infinity elsewhere. */
  cost: Float32Array;
  offX: Float32Array;
  offY: Float32Array;
  /** The two pixels the crossing lies between: the one at or above ½, and the one below. */
  insideOf: Int32Array;
  outsideOf: Int32Array;
  normalX: Float32Array;
  normalY: Float32Array;
}

/**
 * Crossings between neighbours by linear interpolation; of several beside a pixel the nearest counts. Undefined without
 * any.
 */
function findOutline(alpha: Float32Array, w: number, h: number): Outline | undefined {
  const cost = new Float32Array(w * h).fill(Infinity);
  const offX = new Float32Array(w * h);
  const offY = new Float32Array(w * h);
  const insideOf = new Int32Array(w * h);
  const outsideOf = new Int32Array(w * h);
  let any = false;
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = y * w + x;
      const a = alpha[i]!;
      const inside = a >= OUTLINE;
      for (let way = 0; way < 2; way++) {
        if (way === 0 ? x + 1 >= w : y + 1 >= h) continue;
        const j = way === 0 ? i + 1 : i + w;
        const b = alpha[j]!;
        if (b >= OUTLINE === inside) continue;
        any = true;
        const t = (OUTLINE - a) / (b - a);
        const back = 1 - t;
        if (t * t < cost[i]!) {
          cost[i] = t * t;
          offX[i] = way === 0 ? t : 0;
          offY[i] = way === 0 ? 0 : t;
          insideOf[i] = inside ? i : j;
          outsideOf[i] = inside ? j : i;
        }
        if (back * back < cost[j]!) {
          cost[j] = back * back;
          offX[j] = way === 0 ? -back : 0;
          offY[j] = way === 0 ? 0 : -back;
          insideOf[j] = inside ? i : j;
          outsideOf[j] = inside ? j : i;
        }
      }
    }
  return any ? { cost, offX, offY, insideOf, outsideOf, ...normalsAt(alpha, w, h, cost, offX, offY) } : undefined;
}

/** Unit slopes of α at the crossings, from differences over two samples (Sobel's weights across). */
function normalsAt(
  alpha: Float32Array,
  w: number,
  h: number,
  cost: Float32Array,
  offX: Float32Array,
  offY: Float32Array,
): Pick<Outline, 'normalX' | 'normalY'> {
  const normalX = new Float32Array(w * h);
  const normalY = new Float32Array(w * h);
  for (let i = 0; i < cost.length; i++) {
    if (cost[i] === Infinity) continue;
    const x = (i % w) + offX[i]!;
    const y = Math.floor(i / w) + offY[i]!;
    const at = (dx: number, dy: number) => alphaAt(alpha, w, h, x + dx, y + dy);
    const gx = at(1, -1) + 2 * at(1, 0) + at(1, 1) - at(-1, -1) - 2 * at(-1, 0) - at(-1, 1);
    const gy = at(-1, 1) + 2 * at(0, 1) + at(1, 1) - at(-1, -1) - 2 * at(0, -1) - at(1, -1);
    const slope = Math.hypot(gx, gy) || 1;
    normalX[i] = gx / slope;
    normalY[i] = gy / slope;
  }
  return { normalX, normalY };
}

/** α between pixel centres, bilinear; beyond the edge the edge goes on. */
function alphaAt(alpha: Float32Array, w: number, h: number, x: number, y: number): number {
  const cx = Math.min(Math.max(x, 0), w - 1);
  const cy = Math.min(Math.max(y, 0), h - 1);
  const ix = cx | 0;
  const iy = cy | 0;
  const fx = cx - ix;
  const fy = cy - iy;
  const i = iy * w + ix;
  const right = ix + 1 < w ? 1 : 0;
  const down = iy + 1 < h ? w : 0;
  const top = alpha[i]! + (alpha[i + right]! - alpha[i]!) * fx;
  const bottom = alpha[i + down]! + (alpha[i + down + right]! - alpha[i + down]!) * fx;
  return top + (bottom - top) * fy;
}

/** How far past the outline the way is looked into, samples, besides its end: a thin region has its largest α there. */
const LOOKS_PAST = [0.75, 2.5, 6];
/**
 * Crossings lie up to this far apart along the outline: a foot this near one, sideways, is on the same straight
 * stretch.
 */
const SAME_STRETCH = 0.8;

/** Half the width of the bands, samples, in which the nearest crossing is searched exactly. */
const EXACT_BAND = 2.5;

function carryInto(
  out: Float32Array,
  alpha: Float32Array,
  w: number,
  h: number,
  { cost, offX, offY, normalX, normalY, insideOf, outsideOf }: Outline,
  radius: number,
): void {
  const sites = nearestSite(cost, w, h);
  const grow = radius > 0;
  const far = Math.abs(radius);
  // into the matte when growing, out of it when shrinking
  const way = grow ? 1 : -1;
  const crossedTo = grow ? insideOf : outsideOf;
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = y * w + x;
      const a = alpha[i]!;
      const site = sites[i]!;
      const siteY = Math.floor(site / w);
      const siteX = site - siteY * w;
      let s = site;
      let dx = siteX + offX[s]! - x;
      let dy = siteY + offY[s]! - y;
      // The transform finds the nearest pixel beside the outline; the nearest crossing may be a neighbour's. It matters
      // where the moved edge comes to lie and at the old one: elsewhere α is the same on either side.
      const coarse = Math.sqrt(dx * dx + dy * dy);
      if (coarse < EXACT_BAND || Math.abs(coarse - far) < EXACT_BAND)
        for (let ny = Math.max(siteY - 1, 0); ny <= siteY + 1 && ny < h; ny++)
          for (let nx = Math.max(siteX - 1, 0); nx <= siteX + 1 && nx < w; nx++) {
            const j = ny * w + nx;
            if (cost[j] === Infinity) continue;
            const ex = nx + offX[j]! - x;
            const ey = ny + offY[j]! - y;
            if (ex * ex + ey * ey < dx * dx + dy * dy) {
              s = j;
              dx = ex;
              dy = ey;
            }
          }
      const inward = a >= OUTLINE ? -1 : 1;
      let ux = normalX[s]!;
      let uy = normalY[s]!;
      const straight = dx * ux + dy * uy;
      const sideways = Math.abs(dx * uy - dy * ux);
      let distance = straight * inward;
      if (sideways > SAME_STRETCH || distance < 0) {
        // round a corner the way is to the corner itself
        distance = Math.sqrt(dx * dx + dy * dy);
        if (distance > 1e-6) {
          ux = (dx * inward) / distance;
          uy = (dy * inward) / distance;
        }
      }
      ux *= way;
      uy *= way;
      let best = alphaAt(alpha, w, h, x + ux * far, y + uy * far);
      if (inward === way && (grow ? best < 1 : best > 0)) {
        // the outline lies on the way: what is just past it counts too, however thin it is
        for (const past of LOOKS_PAST)
          if (distance + past < far) {
            const there = alphaAt(alpha, w, h, x + ux * (distance + past), y + uy * (distance + past));
            best = grow ? Math.max(best, there) : Math.min(best, there);
          }
        // and so does the pixel on the far side of the crossing, once its centre lies within the radius: a corner the
        // way slips by
        const beyond = crossedTo[s]!;
        const by = Math.floor(beyond / w);
        const reached = far + 1 - Math.hypot(beyond - by * w - x, by - y);
        if (reached > 0) {
          const there = a + (alpha[beyond]! - a) * Math.min(reached, 1);
          best = grow ? Math.max(best, there) : Math.min(best, there);
        }
      }
      out[i] = grow ? Math.max(a, best) : Math.min(a, best);
    }
}
