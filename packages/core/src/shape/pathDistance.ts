import { gatheredPlane } from '../colour/planes.ts';
import { KeptNumbers } from './keptNumbers.ts';
import { nearestSite } from './nearestSite.ts';
import type { Polygon } from './path.ts';

/** Looking at a pixel beside an edge costs about this share of what the transform over all pixels costs a pixel. */
const LOOK = 0.1;

/** Pixels near an outline. */
export interface Near {
  index: Uint32Array;
  /** Of each, its distance from the outline, in pixels, and the weight of the nearest place on it. */
  distance: Float32Array;
  weight: Float32Array | undefined;
}

/** A squared distance for each pixel, Infinity. */
const squares = new KeptNumbers(Infinity);

/**
 * The pixels less than `reach` from the outline, with `pathDistanceInto` of each. A narrow band is found by looking at
 * the pixels beside each edge, which costs nothing where no edge is; undefined where that would cost more than the
 * transform over all pixels.
 */
export function pixelsNear(
  width: number,
  height: number,
  polygon: Polygon,
  reach: number,
  weights?: ArrayLike<number>,
): Near | undefined {
  const most = looks(polygon, reach);
  if (LOOK * most > width * height) return undefined;
  const squared = squares.of(width * height);
  const weightAt = weights && new Float32Array(width * height);
  const found = new Uint32Array(Math.min(most, width * height));
  const limit = reach * reach;
  const foot = noFoot();
  const n = polygon.length / 2;
  let count = 0;
  for (let edge = 0; edge < n; edge++) {
    const next = (edge + 1) % n;
    const box = besideEdge(polygon, edge, next, reach);
    for (let y = Math.max(box.y0, 0); y <= Math.min(box.y1, height - 1); y++)
      for (let x = Math.max(box.x0, 0); x <= Math.min(box.x1, width - 1); x++) {
        const i = y * width + x;
        footOnEdge(foot, polygon, edge, x + 0.5, y + 0.5);
        if (foot.squared >= limit || foot.squared >= squared[i]!) continue;
        if (squared[i] === Infinity) found[count++] = i;
        squared[i] = foot.squared;
        if (weightAt) weightAt[i] = weights[edge]! * (1 - foot.t) + weights[next]! * foot.t;
      }
  }
  const index = found.subarray(0, count);
  const distance = new Float32Array(count);
  for (let k = 0; k < count; k++) {
    distance[k] = Math.sqrt(squared[index[k]!]!);
    squared[index[k]!] = Infinity;
  }
  return { index, distance, weight: weightAt && gatheredPlane(weightAt, index) };
}

/** The pixels whose centres may lie within `reach` of an edge; `x1` and `y1` are the last. */
function besideEdge(polygon: Polygon, from: number, to: number, reach: number) {
  const [xa, ya, xb, yb] = [polygon[2 * from]!, polygon[2 * from + 1]!, polygon[2 * to]!, polygon[2 * to + 1]!];
  return {
    x0: Math.floor(Math.min(xa, xb) - reach),
    y0: Math.floor(Math.min(ya, yb) - reach),
    x1: Math.floor(Math.max(xa, xb) + reach),
    y1: Math.floor(Math.max(ya, yb) + reach),
  };
}
/** How many pixels are looked at beside all edges. */
function looks(polygon: Polygon, reach: number): number {
  const n = polygon.length / 2;
  let total = 0;
  for (let edge = 0; edge < n; edge++) {
    const { x0, y0, x1, y1 } = besideEdge(polygon, edge, (edge + 1) % n, reach);
    total += (x1 - x0 + 1) * (y1 - y0 + 1);
  }
  return total;
}

/**
 * Distance from each pixel centre to the polygon's outline, in pixels, unsigned; `out` is `width × height`.
 *
 * Near the outline (within about a pixel) the distance to the edges is computed directly. From there it is carried
 * outwards by `nearestSite`; from the winning pixel's edge we walk along the outline while the true distance shrinks,
 * so it stays sub-pixel exact however far away. Time does not grow with the distance. Outline outside the picture is
 * seen through a border of `pad` pixels; give at least the widest distance wanted. With `weights`, one a polygon
 * corner, `weightOut` gets the weight of the nearest place on the outline, linear along each edge.
 */
export function pathDistanceInto(
  out: Float32Array,
  width: number,
  height: number,
  polygon: Polygon,
  pad: number,
  weights?: ArrayLike<number>,
  weightOut?: Float32Array,
): void {
  const border = Math.ceil(pad) + 2;
  const w = width + 2 * border;
  const h = height + 2 * border;
  const { squared, edge } = seedOutline(polygon, w, h, border);
  const nearest = nearestSite(squared, w, h);
  const [found, trial] = [noFoot(), noFoot()];
  const corners = polygon.length / 2;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const seed = nearest[(y + border) * w + x + border]!;
      if (seed < 0) {
        out[y * width + x] = Infinity;
        continue;
      }
      footFrom(found, trial, polygon, edge[seed]!, x + 0.5, y + 0.5);
      out[y * width + x] = Math.sqrt(found.squared);
      if (weights && weightOut)
        weightOut[y * width + x] =
          weights[found.edge]! * (1 - found.t) + weights[(found.edge + 1) % corners]! * found.t;
    }
}

/** The place on the outline nearest to a point: which edge, where along it (0..1), how far squared. */
interface Foot {
  edge: number;
  t: number;
  squared: number;
}

function footOnEdge(out: Foot, polygon: Polygon, edge: number, px: number, py: number): void {
  const n = polygon.length;
  const x0 = polygon[2 * edge]!;
  const y0 = polygon[2 * edge + 1]!;
  const dx = polygon[(2 * edge + 2) % n]! - x0;
  const dy = polygon[(2 * edge + 3) % n]! - y0;
  const along = dx * dx + dy * dy;
  const t = along === 0 ? 0 : Math.min(Math.max(((px - x0) * dx + (py - y0) * dy) / along, 0), 1);
  const ex = px - x0 - t * dx;
  const ey = py - y0 - t * dy;
  out.edge = edge;
  out.t = t;
  out.squared = ex * ex + ey * ey;
}

const noFoot = (): Foot => ({ edge: 0, t: 0, squared: 0 });
/** The nearest place on the outline, found by descent from the edge `start` in both directions; `trial` is scratch. */
function footFrom(out: Foot, trial: Foot, polygon: Polygon, start: number, px: number, py: number): void {
  const edges = polygon.length / 2;
  footOnEdge(out, polygon, start, px, py);
  for (let way = 0; way < 2; way++) {
    const step = way === 0 ? 1 : edges - 1;
    for (let edge = (start + step) % edges; edge !== start; edge = (edge + step) % edges) {
      footOnEdge(trial, polygon, edge, px, py);
      if (trial.squared > out.squared) break;
      out.edge = trial.edge;
      out.t = trial.t;
      out.squared = trial.squared;
    }
  }
}

/** Squared distance and nearest edge of the pixels that an edge passes through or beside; Infinity elsewhere. */
function seedOutline(
  polygon: Polygon,
  w: number,
  h: number,
  border: number,
): { squared: Float64Array; edge: Int32Array } {
  const squared = new Float64Array(w * h).fill(Infinity);
  const edge = new Int32Array(w * h).fill(-1);
  const trial = noFoot();
  const n = polygon.length / 2;
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    const x0 = polygon[2 * i]!;
    const y0 = polygon[2 * i + 1]!;
    const x1 = polygon[2 * j]!;
    const y1 = polygon[2 * j + 1]!;
    const steps = Math.max(Math.ceil(Math.hypot(x1 - x0, y1 - y0) * 2), 1);
    for (let k = 0; k <= steps; k++) {
      const cx = Math.floor(x0 + ((x1 - x0) * k) / steps) + border;
      const cy = Math.floor(y0 + ((y1 - y0) * k) / steps) + border;
      for (let y = Math.max(cy - 1, 0); y <= Math.min(cy + 1, h - 1); y++)
        for (let x = Math.max(cx - 1, 0); x <= Math.min(cx + 1, w - 1); x++) {
          footOnEdge(trial, polygon, i, x - border + 0.5, y - border + 0.5);
          if (trial.squared < squared[y * w + x]!) {
            squared[y * w + x] = trial.squared;
            edge[y * w + x] = i;
          }
        }
    }
  }
  return { squared, edge };
}
