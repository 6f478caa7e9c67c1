import type { CleanUp } from '../document/cleaning.ts';
import type { LinearPlanes } from '../colour/planes.ts';
import { boundsOfMatte, boxAround, cutOut, putBack, type PixelBox } from './bounds.ts';
import { correctedMatte } from './corrected.ts';
import { fillHolesInPlace, removeIslandsInPlace } from './components.ts';
import { moveEdgeInPlace } from './edge.ts';
import { gaussianInPlace } from './gaussian.ts';
import { guidedFilterInPlace } from './guidedFilter.ts';

export const NO_CLEAN_UP: CleanUp = {
  quietPx: 0,
  floor: 0,
  ceiling: 1,
  islandsPx: 0,
  holesPx: 0,
  edgePx: 0,
  softenPx: 0,
  softenBias: 0,
  fitEdge: 0,
};

export const isCleanUpOff = (c: CleanUp): boolean =>
  (Object.keys(NO_CLEAN_UP) as (keyof CleanUp)[]).every((k) => k === 'softenBias' || c[k] === NO_CLEAN_UP[k]);

/** Lightness may vary this much (standard deviation, OKLab L) within what counts as one surface. */
const QUIET_EPSILON = 0.03 ** 2;

/** What is less is a rounding of the sums, in which nothing is selected. */
const LEAST = 1e-6;
/**
 * Smooths a matte where the lightness is smooth. Of a matte that selects a part of the picture only that part is looked
 * at, and as far round it as two means reach, with a whole window about the last of them; beyond nothing is selected.
 */
export function quietInPlace(
  alpha: Float32Array,
  width: number,
  height: number,
  radius: number,
  lightness: () => Float32Array,
): void {
  const box = boundsOfMatte(alpha, width, height, 0);
  if (!box) return;
  inBox(alpha, width, height, boxAround(box, 3 * radius + 1, width, height), (part, w, h, around) => {
    const guide = part === alpha ? lightness() : cutOut(lightness(), width, around);
    guidedFilterInPlace(part, guide, w, h, radius, QUIET_EPSILON);
    for (let i = 0; i < part.length; i++) part[i] = part[i]! < LEAST ? 0 : Math.min(part[i]!, 1);
  });
}

type OnPart = (part: Float32Array, width: number, height: number, box: PixelBox) => void;
/** Works on the part of a matte in a box, in place, without a copy where that is all of it. */
function inBox(alpha: Float32Array, width: number, height: number, box: PixelBox, work: OnPart): void {
  const [w, h] = [box.x1 - box.x0, box.y1 - box.y0];
  const isWhole = w === width && h === height;
  const part = isWhole ? alpha : cutOut(alpha, width, box);
  work(part, w, h, box);
  if (!isWhole) putBack(alpha, width, part, box);
}

export function levelsInPlace(alpha: Float32Array, floor: number, ceiling: number): void {
  if (floor <= 0 && ceiling >= 1) return;
  const span = Math.max(ceiling - floor, 1e-6);
  for (let i = 0; i < alpha.length; i++) alpha[i] = Math.min(Math.max((alpha[i]! - floor) / span, 0), 1);
}

/** Past so many σ, and the taps of the smallest, a blur leaves nothing (pixels). */
const SIGMAS = 5;
const TAPS = 5;
export const blurReach = (sigma: number): number => 1 + TAPS + Math.ceil(SIGMAS * sigma);

/**
 * Blurs a matte, then shifts its ramp by the bias: at +1 what was full stays full and the ramp lies outside the old
 * edge, at −1 what was empty stays empty and the ramp lies inside it. Of a matte that selects a part of the picture
 * only that part, and as far round it as the blur reaches, is looked at: the same to the bit, since the recursion
 * rests where there is nothing.
 */
export function softenInPlace(alpha: Float32Array, width: number, height: number, sigma: number, bias: number): void {
  const box = sigma > 0 ? boundsOfMatte(alpha, width, height, 0) : undefined;
  if (!box) return;
  inBox(alpha, width, height, boxAround(box, blurReach(sigma), width, height), (part, w, h) => {
    gaussianInPlace(part, w, h, sigma);
    shiftRampInPlace(part, bias);
  });
}
function shiftRampInPlace(alpha: Float32Array, bias: number): void {
  const lo = Math.max(-bias, 0) / 2;
  const hi = 1 - Math.max(bias, 0) / 2;
  for (let i = 0; i < alpha.length; i++) {
    const shifted = Math.fround((alpha[i]! - lo) / (hi - lo));
    // the recursion's error of a few 1e-4 must not select what nothing selected
    alpha[i] = shifted < 1e-3 ? 0 : Math.min(shifted, 1);
  }
}

/**
 * The whole clean-up, in place. `scale` is this size over the full resolution; `lightness` gives the guide (OKLab L)
 * when quieting asks for it, `light` the picture (linear BT.709) by which an edge is set right. The result stays within
 * 0..1.
 */
export function cleanUpInPlace(
  alpha: Float32Array,
  width: number,
  height: number,
  c: CleanUp,
  scale: number,
  lightness: () => Float32Array,
  light?: () => LinearPlanes,
): void {
  if (c.quietPx > 0) quietInPlace(alpha, width, height, Math.max(Math.round(c.quietPx * scale), 1), lightness);
  levelsInPlace(alpha, c.floor, c.ceiling);
  removeIslandsInPlace(alpha, width, height, c.islandsPx * scale * scale);
  fillHolesInPlace(alpha, width, height, c.holesPx * scale * scale);
  moveEdgeInPlace(alpha, width, height, c.edgePx * scale);
  softenInPlace(alpha, width, height, c.softenPx * scale, c.softenBias);
  if (c.fitEdge > 0 && light) alpha.set(correctedMatte(light(), alpha, width, height, c.fitEdge, scale));
}
