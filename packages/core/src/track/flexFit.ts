import { FLEX_NODES, flexAt, type Flex } from './flex.ts';
import type { Quad } from './homography.ts';
import { solveInPlace } from './linear.ts';

/**
 * A point is dropped when it strays from what its neighbours do by more than this many deviations, or at least so many
 * pixels.
 */
const STRAY = 4.685;
const LEAST_STRAY_PX = 0.5;
/** Standard deviation of the weight a point has for a node, in distances between nodes. */
const REACH = 1.2;
const TERMS = 6;
/**
 * Pulls a node's value towards what it was before, its slopes and bends towards none: where there are too few points to
 * tell.
 */
const RIDGE = [0.03, 0.1, 0.1, 0.3, 0.3, 0.3] as const;
const toThousandth = (v: number) => Math.round(v * 1000) / 1000;

/** A point of the reference frame and how far it has gone beyond the plane motion. */
export interface Moved {
  x: number;
  y: number;
  dx: number;
  dy: number;
}

/**
 * A flex over a box fitted to points (moving least squares, Lancaster & Salkauskas 1981, Gaussian weights), twice more
 * without those that stray from the fit; where there are none near it stays as before.
 */
export function flexOfPoints(points: readonly Moved[], quad: Quad, before: Flex | undefined): Flex {
  const fit = new NodeFit(points, quad, before);
  const counts = new Uint8Array(points.length).fill(1);
  let flex = fit.nodes(counts);
  const errors = new Float64Array(points.length);
  for (let round = 0; round < 2; round++) {
    for (const [i, p] of points.entries()) {
      const [dx, dy] = flexAt(flex, quad, p.x, p.y);
      errors[i] = Math.hypot(p.dx - dx, p.dy - dy);
    }
    // 0.8493: from the median of a two-dimensional normal error's length to its deviation along one axis
    const limit = Math.max(STRAY * 0.8493 * (errors.slice().sort()[errors.length >> 1] ?? 0), LEAST_STRAY_PX);
    for (let i = 0; i < counts.length; i++) counts[i] = errors[i]! <= limit ? 1 : 0;
    flex = fit.nodes(counts);
  }
  return flex;
}

/** Sums of w·uᵃ·vᵇ up to a + b = 4, in this order: what the normal equations of a quadratic are made of. */
const POWERS = [0, 1, 2, 3, 4].flatMap((degree) =>
  Array.from({ length: degree + 1 }, (_, b): [number, number] => [degree - b, b]),
);
/** Which sum stands at c, d of the normal matrix: that of the product of terms c and d. */
const SUM_AT = POWERS.slice(0, TERMS).flatMap(([a, b]) =>
  POWERS.slice(0, TERMS).map(([c, d]) => POWERS.findIndex(([m, n]) => m === a + c && n === b + d)),
);

/** Quadratics in u, v around each node, distances from it in distances between nodes, fitted to points that count. */
class NodeFit {
  readonly #points: readonly Moved[];
  readonly #before: Flex | undefined;
  /** By point, then by node along an axis: distance from it and weight. */
  readonly #u: Float64Array;
  readonly #v: Float64Array;
  readonly #weightU: Float64Array;
  readonly #weightV: Float64Array;

  constructor(points: readonly Moved[], quad: Quad, before: Flex | undefined) {
    this.#points = points;
    this.#before = before;
    const [x, y] = [points.map((p) => p.x), points.map((p) => p.y)];
    [this.#u, this.#weightU] = alongAxis(x, quad[0][0], quad[2][0]);
    [this.#v, this.#weightV] = alongAxis(y, quad[0][1], quad[2][1]);
  }

  nodes(counts: Uint8Array): Flex {
    const out: number[] = [];
    for (let j = 0; j < FLEX_NODES; j++) for (let i = 0; i < FLEX_NODES; i++) this.#addNode(out, i, j, counts);
    return out;
  }

  #addNode(out: number[], i: number, j: number, counts: Uint8Array): void {
    const ox = this.#before?.[out.length] ?? 0;
    const oy = this.#before?.[out.length + 1] ?? 0;
    sums.fill(0);
    sumsX.fill(0);
    sumsY.fill(0);
    for (let p = 0; p < counts.length; p++) {
      const u = this.#u[p * FLEX_NODES + i]!;
      const v = this.#v[p * FLEX_NODES + j]!;
      if (counts[p] === 0 || u * u + v * v > 9 * REACH * REACH) continue;
      const { dx, dy } = this.#points[p]!;
      addTerms(u, v, this.#weightU[p * FLEX_NODES + i]! * this.#weightV[p * FLEX_NODES + j]!, dx - ox, dy - oy);
    }
    for (let k = 0; k < TERMS * TERMS; k++) normal[k] = sums[SUM_AT[k]!]!;
    for (let c = 0; c < TERMS; c++) normal[c * TERMS + c] = normal[c * TERMS + c]! + RIDGE[c]!;
    again.set(normal);
    solveInPlace(normal, sumsX, TERMS);
    solveInPlace(again, sumsY, TERMS);
    out.push(toThousandth(ox + sumsX[0]!), toThousandth(oy + sumsY[0]!));
  }
}
const [normal, again] = [new Float64Array(TERMS * TERMS), new Float64Array(TERMS * TERMS)];
const sums = new Float64Array(POWERS.length);
const [sumsX, sumsY] = [new Float64Array(TERMS), new Float64Array(TERMS)];
/** One point of weight `w`, in the order of the powers, and how far it has moved. */
function addTerms(u: number, v: number, w: number, dx: number, dy: number): void {
  const wu = w * u;
  const wv = w * v;
  const wuu = wu * u;
  const wuv = wu * v;
  const wvv = wv * v;
  const wuuu = wuu * u;
  const wuuv = wuu * v;
  const wuvv = wuv * v;
  const wvvv = wvv * v;
  sums[0] = sums[0]! + w;
  sums[1] = sums[1]! + wu;
  sums[2] = sums[2]! + wv;
  sums[3] = sums[3]! + wuu;
  sums[4] = sums[4]! + wuv;
  sums[5] = sums[5]! + wvv;
  sums[6] = sums[6]! + wuuu;
  sums[7] = sums[7]! + wuuv;
  sums[8] = sums[8]! + wuvv;
  sums[9] = sums[9]! + wvvv;
  sums[10] = sums[10]! + wuuu * u;
  sums[11] = sums[11]! + wuuu * v;
  sums[12] = sums[12]! + wuuv * v;
  sums[13] = sums[13]! + wuvv * v;
  sums[14] = sums[14]! + wvvv * v;
  addMoved(sumsX, dx, w, wu, wv, wuu, wuv, wvv);
  addMoved(sumsY, dy, w, wu, wv, wuu, wuv, wvv);
}
function addMoved(
  to: Float64Array,
  d: number,
  w: number,
  wu: number,
  wv: number,
  wuu: number,
  wuv: number,
  wvv: number,
): void {
  to[0] = to[0]! + w * d;
  to[1] = to[1]! + wu * d;
  to[2] = to[2]! + wv * d;
  to[3] = to[3]! + wuu * d;
  to[4] = to[4]! + wuv * d;
  to[5] = to[5]! + wvv * d;
}
/** Of places along an axis, their distances from each node between two ends, and what they count for it. */
function alongAxis(places: readonly number[], lo: number, hi: number): [distance: Float64Array, weight: Float64Array] {
  const spacing = (hi - lo) / (FLEX_NODES - 1);
  const distance = new Float64Array(places.length * FLEX_NODES);
  for (let k = 0; k < distance.length; k++)
    distance[k] = (places[Math.floor(k / FLEX_NODES)]! - (lo + (k % FLEX_NODES) * spacing)) / spacing;
  return [distance, distance.map((d) => Math.exp((-d * d) / (2 * REACH * REACH)))];
}
