import type { Quad } from './homography.ts';

/** Nodes of a flex each way. */
export const FLEX_NODES = 13;
/**
 * How a soft surface bends beyond its plane motion: displacements dx, dy at `FLEX_NODES`² nodes laid evenly over the
 * region's bounding box, row by row, in pixels of the reference frame. A place p of that frame lies at motion(p +
 * flex(p)).
 */
export type Flex = readonly number[];

/** The node a place lies behind; `along` in distances between nodes. */
const nodeBefore = (along: number): number => Math.min(Math.floor(along), FLEX_NODES - 2);
/** How far along the nodes a place lies between the box's ends. */
const alongNodes = (v: number, lo: number, hi: number): number =>
  Math.min(Math.max(((v - lo) / Math.max(hi - lo, 1e-9)) * (FLEX_NODES - 1), 0), FLEX_NODES - 1);
const within = (node: number): number => Math.min(Math.max(node, 0), FLEX_NODES - 1);

/** Catmull–Rom weights of the four nodes around a place, along and down; `t` of 0..1 lies between the middle two. */
const [weightsU, weightsV] = [new Float64Array(4), new Float64Array(4)];
function cubicWeightsInto(out: Float64Array, t: number): void {
  out[0] = (((2 - t) * t - 1) * t) / 2;
  out[1] = ((3 * t - 5) * t * t + 2) / 2;
  out[2] = (((4 - 3 * t) * t + 1) * t) / 2;
  out[3] = ((t - 1) * t * t) / 2;
}

/** The displacement at a place of the reference frame; beyond the box it stays as at its rim. */
export function flexAt(flex: Flex, quad: Quad, x: number, y: number): [dx: number, dy: number] {
  const u = alongNodes(x, quad[0][0], quad[2][0]);
  const v = alongNodes(y, quad[0][1], quad[2][1]);
  const iu = nodeBefore(u);
  const iv = nodeBefore(v);
  cubicWeightsInto(weightsU, u - iu);
  cubicWeightsInto(weightsV, v - iv);
  let dx = 0;
  let dy = 0;
  for (let b = 0; b < 4; b++) {
    const row = within(iv + b - 1) * FLEX_NODES;
    for (let a = 0; a < 4; a++) {
      const node = row + within(iu + a - 1);
      const w = weightsU[a]! * weightsV[b]!;
      dx += w * flex[2 * node]!;
      dy += w * flex[2 * node + 1]!;
    }
  }
  return [dx, dy];
}

/** A flex between two, at `t` of 0..1; undefined stands for none. */
export function flexBetween(from: Flex | undefined, to: Flex | undefined, t: number): Flex | undefined {
  if (!from && !to) return undefined;
  return Array.from({ length: 2 * FLEX_NODES ** 2 }, (_, i) => (1 - t) * (from?.[i] ?? 0) + t * (to?.[i] ?? 0));
}
