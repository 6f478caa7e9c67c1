import type { Stroke } from '../document/layer.ts';
import { connectedComponents } from '../matte/components.ts';
import { colourOdds } from './colourOdds.ts';
import { cutOutlineInPlace } from './cutOutline.ts';
import { cutPatches, differences2, votesOf, type PatchBonds } from './cutPatches.ts';
import { geodesicDistances } from './geodesic.ts';
import { FINE_SIDE, maskOfPatches, patchOfEach, preparedPicture, type PreparedPicture } from './preparedPicture.ts';
import { correctedMask } from './correctedMask.ts';
import { mergedMasks, type WeighedMask } from './mergedMasks.ts';
import { leaveOutThinThings } from './thinThings.ts';
import { softenInto } from './softenInto.ts';
import { growthOf, middleOf } from './hints.ts';
import { strokesThatHold, type LookedAt } from './looks.ts';
import { markedByStrokes, unsureArea } from './strokes.ts';
import type { Superpixels } from './superpixels.ts';

/** How much nearness along the surface may say of one patch, as log-odds. */
const MOST_BY_NEARNESS = 3;
/** Of what nearness says of a patch, this much counts for its pixels: there colour decides. */
const NEARNESS_IN_BAND = 0.5;
/** Half width of the band in which the outline may still move, pixels of the fine picture at its full size. */
const BAND_PX = 14;
/**
 * A few strokes teach less than a selection that is carried, so that patches and pixels hold together more. Chosen on
 * fifteen photographs and frames against outlines drawn by hand (docs/accuracy.md).
 */
const BONDS: PatchBonds = { smoothness: 4, usual: 3 };
const SMOOTHNESS = 6;
/** What a step from patch to patch costs at least, in OKLab difference: also a smooth way is long some time. */
const LEAST_STEP = 0.002;

/** What may be told of a selection by strokes. */
export interface Selecting {
  /** What was carried to the frame; it is then corrected by the strokes. */
  carried?: readonly WeighedMask[];
  /** How soft the outline is, full-resolution pixels; left out: as the picture's own edge. */
  softPx?: number | undefined;
}

/**
 * α of what strokes select on a picture: patches (superpixels) are cut in two by the smallest cut (Y. Boykov, M.-P.
 * Jolly, ICCV 2001) of how like the strokes' colours they are, how near to the strokes along the surface (geodesic
 * graph cut: B. Price, B. Morse, S. Cohen, CVPR 2010), and how unlike their neighbours; the outline is then cut again
 * pixel by pixel in a narrow band and made as soft as the picture's own edge. Only regions that a stroke reaches are
 * kept. Strokes are stated in pixels of the full resolution; what of them no longer lies on what they were drawn on is
 * left out. Nothing without a stroke that takes in or goes round, or a selection that was carried to the frame.
 *
 * All of it but the soft edge is decided on the picture as it was `seen`: half a code may decide whether a patch or a
 * bar belongs to the piece, and the viewer's picture is smaller than the render's and of 8 bit.
 */
export function selectionInto(
  out: Float32Array,
  { oklab, width, height }: Omit<LookedAt, 'scale'>,
  seen: LookedAt,
  strokes: readonly Stroke[],
  { carried = [], softPx }: Selecting = {},
): void {
  out.fill(0);
  const picture = preparedPicture(seen.oklab, seen.width, seen.height);
  const fineScale = (seen.scale * picture.fine.width) / seen.width;
  const holding = strokesThatHold(strokes, seen);
  const mask = maskOnFrame(picture, holding, fineScale, carried);
  if (!mask) return;
  const unsure = unsureArea(holding, picture.fine.width, picture.fine.height, fineScale);
  softenInto(out, mask, picture.fine, oklab, width, height, {
    ...(softPx !== undefined && { softPx: softPx * fineScale }),
    ...(unsure && { unsure }),
  });
}

/**
 * What is selected on a frame, 0 or 1 at the fine size, which is `scale` times the full one: what strokes select, or
 * what was carried there, corrected by the frame's own strokes. Undefined where neither selects anything.
 */
export function maskOnFrame(
  picture: PreparedPicture,
  strokes: readonly Stroke[],
  scale: number,
  carried: readonly WeighedMask[],
): Float32Array | undefined {
  const before = mergedMasks(carried, picture.fine.width, picture.fine.height);
  if (!before) return selectionMask(picture, strokes, scale);
  return strokes.every((s) => s.sign === 'unsure') ? before : correctedMask(picture, strokes, scale, before);
}

/** What strokes select, 0 or 1 at the fine size, which is `scale` times the full one; undefined without one in. */
export function selectionMask(
  picture: PreparedPicture,
  strokes: readonly Stroke[],
  scale: number,
): Float32Array | undefined {
  const { coarse, fine, patches } = picture;
  const coarseScale = (scale * coarse.width) / fine.width;
  const marks = markedByStrokes(strokes, coarse.width, coarse.height, coarseScale);
  const hasRound = strokes.some((s) => s.sign === 'around');
  const middle = hasRound && !marks.includes(1) ? middleOf(marks, coarse.width, coarse.height) : undefined;
  if (!marks.includes(1) && !middle) return undefined;
  const votes = votesOf(patches, marks);
  const told = middle ? marks.map((m, i) => (m === 0 && middle[i] === 1 ? 1 : m)) : marks;
  const grown = growthOf(patches, strokes, coarseScale);
  const near = grown?.alone ? grown.odds : nearnessOf(patches, votesOf(patches, told));
  if (grown && !grown.alone) grown.odds.forEach((o, k) => (near[k]! += o));
  const taught = grown ? grown.taught(told) : told;
  const colours = colourOdds(coarse.oklab, taught, (i) => near[patches.labels[i]!]! < 0);
  const odds = near.map((n, k) => colours(patches.L[k]!, patches.a[k]!, patches.b[k]!) + n);
  const patch = patchOfEach(picture);
  const mask = maskOfPatches(patch, cutPatches(patches, votes, odds, BONDS));
  const fineMarks = markedByStrokes(strokes, fine.width, fine.height, scale);
  const { L, a, b } = fine.oklab;
  cutOutlineInPlace(
    mask,
    fine,
    fineMarks,
    (i) => colours(L[i]!, a[i]!, b[i]!) + NEARNESS_IN_BAND * near[patch[i]!]!,
    Math.max(Math.round((BAND_PX * Math.max(fine.width, fine.height)) / FINE_SIDE), 2),
    SMOOTHNESS,
  );
  if (!middle) keepReached(mask, fine.width, fine.height, fineMarks);
  const size = Math.max(fine.width, fine.height) / FINE_SIDE;
  leaveOutThinThings(mask, fine, fineMarks, (i) => colours(L[i]!, a[i]!, b[i]!), size);
  return mask;
}

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

function patchesOnRim(labels: Int32Array, width: number, height: number): number[] {
  const found = new Set<number>();
  for (let x = 0; x < width; x++) found.add(labels[x]!).add(labels[(height - 1) * width + x]!);
  for (let y = 0; y < height; y++) found.add(labels[y * width]!).add(labels[y * width + width - 1]!);
  return [...found];
}

/** Leaves only the regions that a stroke that takes in lies in. */
function keepReached(mask: Float32Array, width: number, height: number, marks: Int8Array): void {
  const inside = new Uint8Array(mask.length);
  inside.set(mask);
  const { labels, count } = connectedComponents(inside, width, height, true);
  const reached = new Uint8Array(count + 1);
  for (let i = 0; i < marks.length; i++) if (marks[i]! > 0) reached[labels[i]!] = 1;
  for (let i = 0; i < mask.length; i++) if (!reached[labels[i]!]) mask[i] = 0;
}
