import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { boundsOfMatte, cutOut, sharedBox, type PixelBox } from '../matte/bounds.ts';
import { MEASURED_ALPHA } from './measurePiece.ts';

/**
 * OKLab: how far from the piece's own colour (its a and b scaled with lightness, as shading does) still looks like it.
 */
const LEAST_COLOUR_REACH = 0.03;
/** OKLab L: how much lighter or darker still looks like it. */
const LEAST_LIGHTNESS_REACH = 0.1;
/** Standard deviations of what is selected that still look like it, where that is more. */
const REACH_SIGMAS = 2.5;

/** What the selected pixels look like: lightness, and a and b per unit of it, with what they spread over. */
interface Likeness {
  L: number;
  aPerL: number;
  bPerL: number;
  colourReach: number;
  lightnessReach: number;
}

function likenessOf({ L, a, b }: OklabPlanes, seeds: Uint32Array): Likeness {
  let [sumL, sumA, sumB] = [0, 0, 0];
  for (const i of seeds) {
    sumL += L[i]!;
    sumA += a[i]!;
    sumB += b[i]!;
  }
  const meanL = sumL / seeds.length;
  const [aPerL, bPerL] = sumL > 0 ? [sumA / sumL, sumB / sumL] : [0, 0];
  let [colour, lightness] = [0, 0];
  for (const i of seeds) {
    colour += (a[i]! - aPerL * L[i]!) ** 2 + (b[i]! - bPerL * L[i]!) ** 2;
    lightness += (L[i]! - meanL) ** 2;
  }
  const sigma = (squares: number) => Math.sqrt(squares / seeds.length);
  return {
    L: meanL,
    aPerL,
    bPerL,
    colourReach: Math.max(LEAST_COLOUR_REACH, REACH_SIGMAS * sigma(colour)),
    lightnessReach: Math.max(LEAST_LIGHTNESS_REACH, REACH_SIGMAS * sigma(lightness)),
  };
}

/**
 * How much of what looks like the piece is selected, 0..1: an estimate, since only the colorist knows what the piece
 * is. From the pixels that are selected for certain (α ≥ 0.9) the region grows over neighbours of their colour in any
 * shade; coverage is the mean α of that region. Almost nothing picked out of a wide surface gives almost 0, a matte
 * that ends where the colour ends gives nearly 1; something else of the same colour that touches the piece lowers it. 0
 * where nothing is selected for certain. `oklab` of the source, planes of `width × height` like `alpha`.
 */
export function coverageOf(oklab: OklabPlanes, alpha: Float32Array, width: number, height: number): number {
  const seeds = solidOf(alpha);
  return seeds.length === 0 ? 0 : regionFrom(seeds, oklab, alpha, width, height).coverage;
}

/** So much of its own size on either side is looked at round a piece before the whole picture is. */
const ROUND_ABOUT = 0.25;
/**
 * The same, to the bit, of a picture whose OKLab is made as it is asked for: that of the whole of it only where the
 * region goes on far from what is selected. `oklabIn` gives planes of a box's size.
 */
export function coverageByParts(
  oklabIn: (box: PixelBox) => OklabPlanes,
  alpha: Float32Array,
  width: number,
  height: number,
): number {
  const whole = { x0: 0, y0: 0, x1: width, y1: height };
  const selected = boundsOfMatte(alpha, width, height);
  if (!selected) return 0;
  const { x0, y0, x1, y1 } = selected;
  const [aside, above] = [Math.ceil(ROUND_ABOUT * (x1 - x0)), Math.ceil(ROUND_ABOUT * (y1 - y0))];
  const box = sharedBox({ x0: x0 - aside, y0: y0 - above, x1: x1 + aside, y1: y1 + above }, whole)!;
  const part = cutOut(alpha, width, box);
  const seeds = solidOf(part);
  if (seeds.length === 0) return 0;
  const [w, h] = [box.x1 - box.x0, box.y1 - box.y0];
  const { coverage, reached } = regionFrom(seeds, oklabIn(box), part, w, h);
  return goesOn(reached, box, width, height) ? coverageOf(oklabIn(whole), alpha, width, height) : coverage;
}

/** Does a region come to a side of its box behind which the picture goes on? */
function goesOn(reached: Uint8Array, { x0, y0, x1, y1 }: PixelBox, width: number, height: number): boolean {
  const [w, h] = [x1 - x0, y1 - y0];
  const isIn = (i: number) => reached[i] === 1;
  const rows = [...(y0 > 0 ? [0] : []), ...(y1 < height ? [h - 1] : [])];
  const columns = [...(x0 > 0 ? [0] : []), ...(x1 < width ? [w - 1] : [])];
  for (const y of rows) for (let x = 0; x < w; x++) if (isIn(y * w + x)) return true;
  for (const x of columns) for (let y = 0; y < h; y++) if (isIn(y * w + x)) return true;
  return false;
}

/** The region that grows from the seeds over what looks like them, and the mean α in it. */
function regionFrom(
  seeds: Uint32Array,
  { L, a, b }: OklabPlanes,
  alpha: Float32Array,
  width: number,
  height: number,
): { coverage: number; reached: Uint8Array } {
  const like = likenessOf({ L, a, b }, seeds);
  const looksLikeIt = (i: number): boolean => {
    const l = L[i]!;
    if (Math.abs(l - like.L) > like.lightnessReach) return false;
    return Math.hypot(a[i]! - like.aPerL * l, b[i]! - like.bPerL * l) <= like.colourReach;
  };
  const reached = new Uint8Array(alpha.length);
  const waiting = new Uint32Array(alpha.length);
  let [count, sum] = [0, 0];
  for (const i of seeds) {
    reached[i] = 1;
    waiting[count++] = i;
  }
  const visit = (i: number): void => {
    if (reached[i] === 1 || !looksLikeIt(i)) return;
    reached[i] = 1;
    waiting[count++] = i;
  };
  for (let k = 0; k < count; k++) {
    const i = waiting[k]!;
    sum += alpha[i]!;
    const x = i % width;
    if (x > 0) visit(i - 1);
    if (x < width - 1) visit(i + 1);
    if (i >= width) visit(i - width);
    if (i < width * (height - 1)) visit(i + width);
  }
  return { coverage: sum / count, reached };
}

/** Indices of the pixels that are selected for certain. */
function solidOf(alpha: Float32Array): Uint32Array {
  const found = new Uint32Array(alpha.length);
  let n = 0;
  for (let i = 0; i < alpha.length; i++) if (alpha[i]! >= MEASURED_ALPHA) found[n++] = i;
  return found.subarray(0, n);
}
