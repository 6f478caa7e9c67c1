import { bilinear } from '../matte/bilinear.ts';
import { cornersIn } from './corners.ts';
import { followPoints } from './flow.ts';
import { project, type Homography, type Quad } from './homography.ts';
import { solveInPlace } from './linear.ts';
import { pyramidOf, type Pyramid } from './pyramid.ts';

/** Nodes of a flex each way. */
export const FLEX_NODES = 13;
/**
 * How a soft surface bends beyond its plane motion: displacements dx, dy at `FLEX_NODES`² nodes laid evenly over the
 * region's bounding box, row by row, in pixels of the reference frame. A place p of that frame lies at motion(p +
 * flex(p)).
 */
export type Flex = readonly number[];

const MOST_POINTS = 500;
/**
 * A point is dropped when it strays from what its neighbours do by more than this many deviations, or at least so many
 * pixels.
 */
const STRAY = 4.685;
const LEAST_STRAY_PX = 0.5;
/** Bending past this share of the region's size is not believed. */
const LARGEST_SHARE = 0.15;
/** Standard deviation of the weight a point has for a node, in distances between nodes. */
const REACH = 1.2;
const TERMS = 6;
/**
 * Pulls a node's value towards what it was before, its slopes and bends towards none: where there are too few points to
 * tell.
 */
const RIDGE = [0.03, 0.1, 0.1, 0.3, 0.3, 0.3] as const;
const toThousandth = (v: number) => Math.round(v * 1000) / 1000;

/** Catmull–Rom weights of the four nodes around a place `t` of 0..1 between the middle two. */
const cubicWeights = (t: number): readonly [number, number, number, number] => [
  (((2 - t) * t - 1) * t) / 2,
  ((3 * t - 5) * t * t + 2) / 2,
  (((4 - 3 * t) * t + 1) * t) / 2,
  ((t - 1) * t * t) / 2,
];

/** The displacement at a place of the reference frame; beyond the box it stays as at its rim. */
export function flexAt(flex: Flex, quad: Quad, x: number, y: number): [dx: number, dy: number] {
  const n = FLEX_NODES;
  const along = (v: number, lo: number, hi: number) =>
    Math.min(Math.max(((v - lo) / Math.max(hi - lo, 1e-9)) * (n - 1), 0), n - 1);
  const [u, v] = [along(x, quad[0][0], quad[2][0]), along(y, quad[0][1], quad[2][1])];
  const [iu, iv] = [Math.min(Math.floor(u), n - 2), Math.min(Math.floor(v), n - 2)];
  const [wu, wv] = [cubicWeights(u - iu), cubicWeights(v - iv)];
  let [dx, dy] = [0, 0];
  for (let b = 0; b < 4; b++)
    for (let a = 0; a < 4; a++) {
      const node = Math.min(Math.max(iv + b - 1, 0), n - 1) * n + Math.min(Math.max(iu + a - 1, 0), n - 1);
      const w = wu[a]! * wv[b]!;
      dx += w * flex[2 * node]!;
      dy += w * flex[2 * node + 1]!;
    }
  return [dx, dy];
}

/** A flex between two, at `t` of 0..1; undefined stands for none. */
export function flexBetween(from: Flex | undefined, to: Flex | undefined, t: number): Flex | undefined {
  if (!from && !to) return undefined;
  return Array.from({ length: 2 * FLEX_NODES ** 2 }, (_, i) => (1 - t) * (from?.[i] ?? 0) + t * (to?.[i] ?? 0));
}

/**
 * Finds the flex of a region, frame by frame: points of the reference frame are followed by Lucas–Kanade into each
 * frame carried back by its plane motion; a node takes the locally quadratic fit to the points around it (moving least
 * squares, Lancaster & Salkauskas 1981, Gaussian weights).
 */
export class FlexFinder {
  readonly #reference: Pyramid;
  readonly #quad: Quad;
  readonly #box: { x0: number; y0: number; x1: number; y1: number };
  readonly #points: Float64Array;
  #last: Flex | undefined;

  /** `quad`: the region's bounding box; `allowed`: what of it may be looked at on the reference frame. */
  constructor(reference: Pyramid, quad: Quad, allowed: (x: number, y: number) => boolean) {
    this.#quad = quad;
    const { width, height } = reference[0]!;
    const margin = 0.12 * Math.max(quad[2][0] - quad[0][0], quad[2][1] - quad[0][1]) + 24;
    this.#box = {
      x0: Math.max(Math.floor(quad[0][0] - margin), 0),
      y0: Math.max(Math.floor(quad[0][1] - margin), 0),
      x1: Math.min(Math.ceil(quad[2][0] + margin), width),
      y1: Math.min(Math.ceil(quad[2][1] + margin), height),
    };
    this.#reference = pyramidOf(
      cropped(reference, this.#box),
      this.#box.x1 - this.#box.x0,
      this.#box.y1 - this.#box.y0,
      3,
    );
    const spacing = Math.max(Math.sqrt(((quad[2][0] - quad[0][0]) * (quad[2][1] - quad[0][1])) / MOST_POINTS) * 0.7, 5);
    const { x0, y0 } = this.#box;
    this.#points = cornersIn(
      this.#reference[0]!,
      { x0: quad[0][0] - x0, y0: quad[0][1] - y0, x1: quad[2][0] - x0, y1: quad[2][1] - y0 },
      (x, y) => allowed(x + x0, y + y0),
      MOST_POINTS,
      spacing,
    );
  }

  /** What was found last. */
  get last(): Flex | undefined {
    return this.#last;
  }
  forget(): void {
    this.#last = undefined;
  }

  /** The flex on a frame whose plane motion is known; `isSeen` tells where (on the frame) the region is not covered. */
  find(next: Pyramid, motion: Homography, gain: number, bias: number, isSeen: (x: number, y: number) => boolean): Flex {
    const { x0, y0, x1, y1 } = this.#box;
    const [w, h] = [x1 - x0, y1 - y0];
    const back = pyramidOf(carriedBack(next, motion, this.#box, gain, bias), w, h, 3);
    const guesses = this.#points.slice();
    if (this.#last)
      for (let i = 0; i < guesses.length; i += 2) {
        const [dx, dy] = flexAt(this.#last, this.#quad, guesses[i]! + x0, guesses[i + 1]! + y0);
        guesses[i] = guesses[i]! + dx;
        guesses[i + 1] = guesses[i + 1]! + dy;
      }
    const { places, kept } = followPoints(this.#reference, back, this.#points, guesses);
    const most = LARGEST_SHARE * Math.max(w, h);
    const found: { x: number; y: number; dx: number; dy: number }[] = [];
    for (let i = 0; i < kept.length; i++) {
      if (!kept[i]) continue;
      const [x, y] = [this.#points[2 * i]!, this.#points[2 * i + 1]!];
      const [dx, dy] = [places[2 * i]! - x, places[2 * i + 1]! - y];
      if (Math.hypot(dx, dy) <= most && isSeen(...project(motion, places[2 * i]! + x0, places[2 * i + 1]! + y0)))
        found.push({ x: x + x0, y: y + y0, dx, dy });
    }
    return (this.#last = flexOfPoints(found, this.#quad, this.#last));
  }
}

/** A point of the reference frame and how far it has gone beyond the plane motion. */
export interface Moved {
  x: number;
  y: number;
  dx: number;
  dy: number;
}

/**
 * A flex over a box fitted to points, twice more without those that stray from the fit; where there are none near it
 * stays as before.
 */
export function flexOfPoints(points: readonly Moved[], quad: Quad, before: Flex | undefined): Flex {
  const spacing: [number, number] = [
    (quad[2][0] - quad[0][0]) / (FLEX_NODES - 1),
    (quad[2][1] - quad[0][1]) / (FLEX_NODES - 1),
  ];
  let flex = nodesFrom(points, quad, spacing, before);
  for (let round = 0; round < 2; round++) {
    const errors = points.map((p) => {
      const [dx, dy] = flexAt(flex, quad, p.x, p.y);
      return Math.hypot(p.dx - dx, p.dy - dy);
    });
    // 0.8493: from the median of a two-dimensional normal error's length to its deviation along one axis
    const limit = Math.max(
      STRAY * 0.8493 * ([...errors].sort((a, b) => a - b)[errors.length >> 1] ?? 0),
      LEAST_STRAY_PX,
    );
    flex = nodesFrom(
      points.filter((_, i) => errors[i]! <= limit),
      quad,
      spacing,
      before,
    );
  }
  return flex;
}

function nodesFrom(
  points: readonly Moved[],
  quad: Quad,
  [sx, sy]: readonly [number, number],
  before: Flex | undefined,
): Flex {
  const out: number[] = [];
  for (let j = 0; j < FLEX_NODES; j++)
    for (let i = 0; i < FLEX_NODES; i++) {
      const [x, y] = [quad[0][0] + i * sx, quad[0][1] + j * sy];
      const k = 2 * (j * FLEX_NODES + i);
      const [ox, oy] = [before?.[k] ?? 0, before?.[k + 1] ?? 0];
      // weighted normal equations of a quadratic in u, v: distances from the node in distances between nodes
      const normal = new Float64Array(TERMS * TERMS);
      const [tx, ty] = [new Float64Array(TERMS), new Float64Array(TERMS)];
      for (const p of points) {
        const [u, v] = [(p.x - x) / sx, (p.y - y) / sy];
        const r = u * u + v * v;
        if (r > 9 * REACH * REACH) continue;
        const weight = Math.exp(-r / (2 * REACH * REACH));
        const term = [1, u, v, u * u, u * v, v * v];
        for (let c = 0; c < TERMS; c++) {
          const w = weight * term[c]!;
          tx[c] = tx[c]! + w * (p.dx - ox);
          ty[c] = ty[c]! + w * (p.dy - oy);
          for (let d = 0; d < TERMS; d++) normal[c * TERMS + d] = normal[c * TERMS + d]! + w * term[d]!;
        }
      }
      for (let c = 0; c < TERMS; c++) normal[c * TERMS + c] = normal[c * TERMS + c]! + RIDGE[c]!;
      const again = normal.slice();
      solveInPlace(normal, tx, TERMS);
      solveInPlace(again, ty, TERMS);
      out.push(toThousandth(ox + tx[0]!), toThousandth(oy + ty[0]!));
    }
  return out;
}

function cropped(
  pyramid: Pyramid,
  { x0, y0, x1, y1 }: { x0: number; y0: number; x1: number; y1: number },
): Float32Array {
  const { width, luma } = pyramid[0]!;
  const out = new Float32Array((x1 - x0) * (y1 - y0));
  for (let y = y0; y < y1; y++) out.set(luma.subarray(y * width + x0, y * width + x1), (y - y0) * (x1 - x0));
  return out;
}

/** A frame as it would lie on the reference frame, its light undone; what is off the picture repeats the rim. */
function carriedBack(
  next: Pyramid,
  h: Homography,
  { x0, y0, x1, y1 }: { x0: number; y0: number; x1: number; y1: number },
  gain: number,
  bias: number,
): Float32Array {
  const { width, height, luma } = next[0]!;
  const out = new Float32Array((x1 - x0) * (y1 - y0));
  let o = 0;
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++, o++) {
      const w = h[6] * (x + 0.5) + h[7] * (y + 0.5) + h[8];
      const u = Math.min(Math.max((h[0] * (x + 0.5) + h[1] * (y + 0.5) + h[2]) / w - 0.5, 0), width - 1.001);
      const v = Math.min(Math.max((h[3] * (x + 0.5) + h[4] * (y + 0.5) + h[5]) / w - 0.5, 0), height - 1.001);
      out[o] = (bilinear(luma, width, u, v) - bias) / gain;
    }
  return out;
}
