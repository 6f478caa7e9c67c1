import type { Stroke } from '../document/layer.ts';
import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { connectedComponents } from '../matte/components.ts';
import { markEdgeBand } from '../matte/edgeBand.ts';
import { boxOf } from '../track/planeTracker.ts';
import { colourGuide } from './colourGuidedFilter.ts';
import { colourOdds, type ColourOdds } from './colourOdds.ts';
import { edgeBlur } from './edgeBlur.ts';
import { geodesicDistances } from './geodesic.ts';
import { MaxFlow } from './maxFlow.ts';
import { enlarged, shrunk } from './resized.ts';
import { markedByStrokes } from './strokes.ts';
import { superpixelsOf, type Superpixels } from './superpixels.ts';

/**
 * Longest side of the picture that is cut patch by patch, and of the one whose outline is cut pixel by pixel: what is
 * selected hardly depends on the size asked for.
 */
const COARSE_SIDE = 480;
const FINE_SIDE = 960;
/** Half width of the band in which the outline may still move, pixels of the fine picture at its full size. */
const BAND_PX = 10;
/** How much nearness along the surface may say of one patch, as log-odds. */
const MOST_BY_NEARNESS = 3;
/** What it costs to cut between two patches, or pixels, of one colour. */
const PATCH_SMOOTHNESS = 2;
const PIXEL_SMOOTHNESS = 3;
/** Of what nearness says of a patch, this much counts for its pixels: there colour decides. */
const NEARNESS_IN_BAND = 0.3;
const CERTAIN = 1e6;
/** What a step from patch to patch costs at least, in OKLab difference: also a smooth way is long some time. */
const LEAST_STEP = 0.002;
/** The guided filter that makes the outline soft: as wide as the picture is blurred along it, samples. */
const SOFT_RADIUS = 2;
const MOST_SOFT_RADIUS = 8;
const softRadius = (sigma: number | undefined): number =>
  sigma === undefined ? SOFT_RADIUS : Math.min(Math.round(0.7 + 1.5 * sigma), MOST_SOFT_RADIUS);
const SOFT_EPSILON = 4e-4;

interface Sized {
  width: number;
  height: number;
  oklab: OklabPlanes;
}
interface Prepared {
  coarse: Sized;
  fine: Sized;
  patches: Superpixels;
}
/** What depends on the picture alone, made once for all strokes that come. */
const prepared = new WeakMap<OklabPlanes, Prepared>();

/**
 * α of what strokes select on a picture: patches (superpixels) are cut in two by the smallest cut (Y. Boykov, M.-P.
 * Jolly, ICCV 2001) of how like the strokes' colours they are, how near to the strokes along the surface (geodesic
 * graph cut: B. Price, B. Morse, S. Cohen, CVPR 2010), and how unlike their neighbours; the outline is then cut again
 * pixel by pixel in a narrow band and made as soft as the picture's own edge. Only regions that a stroke reaches are
 * kept. `scale` is this size over the full resolution, in whose pixels strokes are stated. Nothing without a stroke
 * that takes in.
 */
export function selectionInto(
  out: Float32Array,
  oklab: OklabPlanes,
  width: number,
  height: number,
  scale: number,
  strokes: readonly Stroke[],
): void {
  out.fill(0);
  let ready = prepared.get(oklab);
  if (!ready) prepared.set(oklab, (ready = prepare(oklab, width, height)));
  const { coarse, fine, patches } = ready;
  const marks = markedByStrokes(strokes, coarse.width, coarse.height, (scale * coarse.width) / width);
  if (!marks.includes(1)) return;
  const votes = votesOf(patches, marks);
  const nearness = nearnessOf(patches, votes);
  const colours = colourOdds(coarse.oklab, marks, (i) => nearness[patches.labels[i]!]! < 0);
  const inside = cutPatches(patches, votes, nearness, colours);
  const fineMarks = markedByStrokes(strokes, fine.width, fine.height, (scale * fine.width) / width);
  const mask = cutOutline(fine, coarse, patches, inside, nearness, fineMarks, colours);
  keepReached(mask, fine.width, fine.height, fineMarks);
  softenInto(out, mask, fine, oklab, width, height);
}

function prepare(oklab: OklabPlanes, width: number, height: number): Prepared {
  const sized = (side: number): Sized => {
    const ratio = Math.min(side / Math.max(width, height), 1);
    const w = Math.max(Math.round(width * ratio), 1);
    const h = Math.max(Math.round(height * ratio), 1);
    const to = (plane: Float32Array) => shrunk(plane, width, height, w, h);
    return { width: w, height: h, oklab: { L: to(oklab.L), a: to(oklab.a), b: to(oklab.b) } };
  };
  const coarse = sized(COARSE_SIDE);
  return { coarse, fine: sized(FINE_SIDE), patches: superpixelsOf(coarse.oklab, coarse.width, coarse.height) };
}

/** By how many pixels more strokes take a patch in than leave it out. */
function votesOf({ labels, count }: Superpixels, marks: Int8Array): Int32Array {
  const votes = new Int32Array(count);
  for (let i = 0; i < marks.length; i++) votes[labels[i]!]! += marks[i]!;
  return votes;
}
/** Squared difference of colour across each border between patches. */
const differences2 = ({ pairs, border, L, a, b }: Superpixels): Float64Array =>
  border.map((_, e) => {
    const p = pairs[2 * e]!;
    const q = pairs[2 * e + 1]!;
    return (L[p]! - L[q]!) ** 2 + (a[p]! - a[q]!) ** 2 + (b[p]! - b[q]!) ** 2;
  });

/**
 * How much nearer each patch is, along the surface, to strokes that take in than to those that leave out (or, without
 * any, to the picture's rim), as log-odds.
 */
function nearnessOf(patches: Superpixels, votes: Int32Array): Float64Array {
  const { count, labels, pairs, width, height } = patches;
  const cost = differences2(patches).map((d) => Math.sqrt(d) + LEAST_STEP);
  const seeds = (wanted: (vote: number) => boolean) =>
    Array.from({ length: count }, (_, k) => k).filter((k) => wanted(votes[k]!));
  const fromIn = geodesicDistances(
    count,
    pairs,
    cost,
    seeds((v) => v > 0),
  );
  const outs = seeds((v) => v < 0);
  const fromOut = geodesicDistances(
    count,
    pairs,
    cost,
    outs.length > 0 ? outs : patchesOnRim(labels, width, height).filter((k) => votes[k]! <= 0),
  );
  return fromIn.map((near, k) =>
    Math.min(Math.max(Math.log((fromOut[k]! + 1e-4) / (near + 1e-4)), -MOST_BY_NEARNESS), MOST_BY_NEARNESS),
  );
}

/** The first cut, patch by patch: 1 for those inside. */
function cutPatches(patches: Superpixels, votes: Int32Array, nearness: Float64Array, colour: ColourOdds): Uint8Array {
  const { count, labels, area, L, a, b, pairs, border } = patches;
  const graph = new MaxFlow(count, border.length);
  const usualArea = labels.length / count;
  for (let k = 0; k < count; k++) {
    if (votes[k] !== 0) graph.addTerminals(k, votes[k]! > 0 ? CERTAIN : 0, votes[k]! < 0 ? CERTAIN : 0);
    const odds = ((colour(L[k]!, a[k]!, b[k]!) + nearness[k]!) * area[k]!) / usualArea;
    graph.addTerminals(k, Math.max(odds, 0), Math.max(-odds, 0));
  }
  const difference2 = differences2(patches);
  const usual2 = mean(difference2) || 1;
  const usualBorder = mean(border) || 1;
  border.forEach((sides, e) => {
    const link = (PATCH_SMOOTHNESS * sides * Math.exp(-difference2[e]! / (2 * usual2))) / usualBorder;
    graph.addEdge(pairs[2 * e]!, pairs[2 * e + 1]!, link, link);
  });
  graph.solve();
  return Uint8Array.from({ length: count }, (_, k) => (graph.isSourceSide(k) ? 1 : 0));
}
const mean = (values: Float64Array): number => values.reduce((s, v) => s + v, 0) / Math.max(values.length, 1);

function patchesOnRim(labels: Int32Array, width: number, height: number): number[] {
  const found = new Set<number>();
  for (let x = 0; x < width; x++) found.add(labels[x]!).add(labels[(height - 1) * width + x]!);
  for (let y = 0; y < height; y++) found.add(labels[y * width]!).add(labels[y * width + width - 1]!);
  return [...found];
}

/** The second cut: pixel by pixel in a band about the first one's outline. Gives α of 0 or 1. */
function cutOutline(
  fine: Sized,
  coarse: Sized,
  patches: Superpixels,
  inside: Uint8Array,
  nearness: Float64Array,
  marks: Int8Array,
  colour: ColourOdds,
): Float32Array {
  const { width, height, oklab } = fine;
  const { L, a, b } = oklab;
  const mask = new Float32Array(width * height);
  const patch = new Int32Array(width * height);
  const across = nearestSamples(width, coarse.width);
  const down = nearestSamples(height, coarse.height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0, row = down[y]! * coarse.width; x < width; x++, i++) {
      const k = patches.labels[row + across[x]!]!;
      patch[i] = k;
      mask[i] = inside[k]!;
    }
  const band = new Uint8Array(width * height);
  markEdgeBand(band, mask, width, height, Math.max(Math.round((BAND_PX * Math.max(width, height)) / FINE_SIDE), 2));
  for (let i = 0; i < band.length; i++)
    if (marks[i] !== 0) {
      band[i] = 0;
      mask[i] = marks[i]! > 0 ? 1 : 0;
    }
  const node = new Int32Array(width * height).fill(-1);
  const places: number[] = [];
  for (let i = 0; i < band.length; i++) if (band[i]) node[i] = places.push(i) - 1;
  if (places.length === 0) return mask;

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
    const link = (PIXEL_SMOOTHNESS * Math.exp(-difference2(i, j) / (2 * usual2))) / distance;
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
    const odds = colour(L[i]!, a[i]!, b[i]!) + NEARNESS_IN_BAND * nearness[patch[i]!]!;
    graph.addTerminals(p, Math.max(odds, 0), Math.max(-odds, 0));
  });
  graph.solve();
  places.forEach((i, p) => (mask[i] = graph.isSourceSide(p) ? 1 : 0));
  return mask;
}

/** Which of `from` samples in a row is nearest to each of `to` that cover the same length. */
const nearestSamples = (to: number, from: number): Int32Array =>
  Int32Array.from({ length: to }, (_, i) => Math.floor(((i + 0.5) * from) / to));

/** Leaves only the regions that a stroke that takes in lies in. */
function keepReached(mask: Float32Array, width: number, height: number, marks: Int8Array): void {
  const inside = new Uint8Array(mask.length);
  inside.set(mask);
  const { labels, count } = connectedComponents(inside, width, height, true);
  const reached = new Uint8Array(count + 1);
  for (let i = 0; i < marks.length; i++) if (marks[i]! > 0) reached[labels[i]!] = 1;
  for (let i = 0; i < mask.length; i++) if (!reached[labels[i]!]) mask[i] = 0;
}

/** α from 0 or 1 at the fine size: as soft as the picture's own edge along the outline, exact elsewhere. */
function softenInto(
  out: Float32Array,
  mask: Float32Array,
  fine: Sized,
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
