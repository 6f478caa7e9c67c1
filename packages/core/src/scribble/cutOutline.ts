import { markEdgeBand } from '../matte/edgeBand.ts';
import { MaxFlow } from './maxFlow.ts';
import type { SizedPicture } from './preparedPicture.ts';

/** What it costs to cut between two pixels of one colour, where odds come from a whole selection. */
const PIXEL_SMOOTHNESS = 3;

/**
 * Cuts a mask's outline anew, pixel by pixel in a band about it, in place: `mask` is 0 or 1, and so it stays; `marks`
 * says what is settled (1 in, −1 out, 0 nothing), `oddsAt` the log-odds of a pixel's being in, `smoothness` what it
 * costs to cut between two pixels of one colour.
 */
export function cutOutlineInPlace(
  mask: Float32Array,
  picture: SizedPicture,
  marks: Int8Array,
  oddsAt: (i: number) => number,
  bandPx: number,
  smoothness = PIXEL_SMOOTHNESS,
): void {
  const { width, height } = picture;
  const band = new Uint8Array(width * height);
  markEdgeBand(band, mask, width, height, bandPx);
  cutPixelsInPlace(mask, picture, marks, oddsAt, band, smoothness);
}

/** Cuts a mask anew pixel by pixel where `open` is 1, in place; the rest as for `cutOutlineInPlace`. */
export function cutPixelsInPlace(
  mask: Float32Array,
  { width, height, oklab }: SizedPicture,
  marks: Int8Array,
  oddsAt: (i: number) => number,
  open: Uint8Array,
  smoothness = PIXEL_SMOOTHNESS,
): void {
  const { L, a, b } = oklab;
  const band = open.slice();
  for (let i = 0; i < band.length; i++)
    if (marks[i] !== 0) {
      band[i] = 0;
      mask[i] = marks[i]! > 0 ? 1 : 0;
    }
  const node = new Int32Array(width * height).fill(-1);
  const places: number[] = [];
  for (let i = 0; i < band.length; i++) if (band[i]) node[i] = places.push(i) - 1;
  if (places.length === 0) return;

  const difference2 = (i: number, j: number) => (L[i]! - L[j]!) ** 2 + (a[i]! - a[j]!) ** 2 + (b[i]! - b[j]!) ** 2;
  let sum = 0;
  let n = 0;
  for (const i of places) {
    if (i % width === width - 1) continue;
    sum += difference2(i, i + 1);
    n++;
  }
  const usual2 = sum / Math.max(n, 1) || 1;
  const graph = new MaxFlow(places.length, places.length * 4);
  /** An edge to a later neighbour; a neighbour beside the band stays what it is. */
  const join = (p: number, i: number, j: number, distance: number) => {
    const q = node[j]!;
    if (q >= 0 && q < p) return;
    const link = (smoothness * Math.exp(-difference2(i, j) / (2 * usual2))) / distance;
    if (q >= 0) graph.addEdge(p, q, link, link);
    else graph.addTerminals(p, mask[j]! * link, (1 - mask[j]!) * link);
  };
  for (let p = 0; p < places.length; p++) {
    const i = places[p]!;
    const x = i % width;
    const left = x > 0;
    const right = x < width - 1;
    const up = i >= width;
    const low = i + width < mask.length;
    if (left) join(p, i, i - 1, 1);
    if (right) join(p, i, i + 1, 1);
    if (up) join(p, i, i - width, 1);
    if (low) join(p, i, i + width, 1);
    if (up && left) join(p, i, i - width - 1, Math.SQRT2);
    if (up && right) join(p, i, i - width + 1, Math.SQRT2);
    if (low && left) join(p, i, i + width - 1, Math.SQRT2);
    if (low && right) join(p, i, i + width + 1, Math.SQRT2);
  }
  places.forEach((i, p) => {
    const odds = oddsAt(i);
    graph.addTerminals(p, Math.max(odds, 0), Math.max(-odds, 0));
  });
  graph.solve();
  places.forEach((i, p) => (mask[i] = graph.isSourceSide(p) ? 1 : 0));
}
