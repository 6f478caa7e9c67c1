import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { boundsOfMatte, cutOut, type PixelBox } from '../matte/bounds.ts';
import { signedDistance } from './signedDistance.ts';

/** How far from the outline a picture's edge is looked at, samples; what lies further is plainly of one side. */
const REACH = 8;
/** Up to here beyond that, the colours of either side are taken. */
const SIDE = 8;
/** Colours of the sides are those of a square of places so large, samples, and of the eight about it. */
const PLACE = 32;
/** Sides that differ by less, squared OKLab difference, say nothing of their edge. */
const LEAST_CONTRAST2 = 0.04 ** 2;
/** Widths that are tried, samples, and by how much the outline may lie beside the edge. */
const SIGMAS = [0.3, 0.5, 0.75, 1, 1.5, 2, 2.5, 3, 4, 5, 6];
const MOST_BESIDE = 3;
/** Where pixels stray further from the profile, in steps from side to side, texture would be taken for the edge. */
const MOST_STRAYED = 1.2;

/**
 * How blurred the picture is along a selection's outline: σ, samples, of the Gaussian whose edge the picture's own is
 * most like there, on the whole. What the colours of either side are is known a little away from the outline; how far
 * each pixel near it has gone from one to the other, by its distance, is the profile of the edge (the edge spread
 * function of ISO 12233, of many edges at once). Undefined where the sides differ less than each within itself.
 */
export function edgeBlur(
  mask: Float32Array,
  { L, a, b }: OklabPlanes,
  width: number,
  height: number,
): number | undefined {
  const box = surroundings(mask, width, height);
  if (!box) return undefined;
  const part = (plane: Float32Array) => cutOut(plane, width, box);
  return blurOf(part(mask), { L: part(L), a: part(a), b: part(b) }, box.x1 - box.x0, box.y1 - box.y0);
}

/** What is selected, and as far round it as is looked at; undefined where nothing is. */
function surroundings(mask: Float32Array, width: number, height: number): PixelBox | undefined {
  const box = boundsOfMatte(mask, width, height);
  const margin = REACH + SIDE + 1;
  return (
    box && {
      x0: Math.max(box.x0 - margin, 0),
      y0: Math.max(box.y0 - margin, 0),
      x1: Math.min(box.x1 + margin, width),
      y1: Math.min(box.y1 + margin, height),
    }
  );
}

function blurOf(mask: Float32Array, { L, a, b }: OklabPlanes, width: number, height: number): number | undefined {
  const distance = signedDistance(mask, width, height);
  const columns = Math.ceil(width / PLACE);
  const places = columns * Math.ceil(height / PLACE);
  const placeOf = (i: number) => Math.floor(Math.floor(i / width) / PLACE) * columns + Math.floor((i % width) / PLACE);
  // sums of L, a, b and how many, for the outer side and the inner
  const sums = [new Float64Array(4 * places), new Float64Array(4 * places)] as const;
  for (let i = 0; i < mask.length; i++) {
    const d = Math.abs(distance[i]!);
    if (d <= REACH || d > REACH + SIDE) continue;
    const of = sums[distance[i]! > 0 ? 1 : 0];
    const at = 4 * placeOf(i);
    of[at]! += L[i]!;
    of[at + 1]! += a[i]!;
    of[at + 2]! += b[i]!;
    of[at + 3]! += 1;
  }
  const gone = new Float64Array(2 * REACH + 1);
  const weight = new Float64Array(2 * REACH + 1);
  let square = 0;
  const outside = withNeighbours(sums[0], columns);
  const inside = withNeighbours(sums[1], columns);
  for (let i = 0; i < mask.length; i++) {
    const d = distance[i]!;
    if (Math.abs(d) > REACH) continue;
    const at = 4 * placeOf(i);
    const [n, m] = [outside[at + 3]!, inside[at + 3]!];
    if (n === 0 || m === 0) continue;
    const [oL, oA, oB] = [outside[at]! / n, outside[at + 1]! / n, outside[at + 2]! / n];
    const [dL, dA, dB] = [inside[at]! / m - oL, inside[at + 1]! / m - oA, inside[at + 2]! / m - oB];
    const contrast2 = dL * dL + dA * dA + dB * dB;
    if (contrast2 < LEAST_CONTRAST2) continue;
    const bin = Math.round(d) + REACH;
    const along = (L[i]! - oL) * dL + (a[i]! - oA) * dA + (b[i]! - oB) * dB;
    gone[bin]! += along;
    square += along ** 2 / contrast2;
    weight[bin]! += contrast2;
  }
  if (weight.some((w) => w === 0)) return undefined;
  const profile = gone.map((sum, k) => sum / weight[k]!);
  // how far pixels stray from the profile, in steps from one side to the other
  const strayed2 = square - profile.reduce((s, v, k) => s + v * v * weight[k]!, 0);
  const all = weight.reduce((s, w) => s + w, 0);
  return strayed2 > MOST_STRAYED ** 2 * all ? undefined : widthOf(profile);
}

/** Sums of places, with those of the eight about each. */
function withNeighbours(sums: Float64Array, columns: number): Float64Array {
  const out = new Float64Array(sums.length);
  const rows = sums.length / (4 * columns);
  for (let y = 0; y < rows; y++)
    for (let x = 0; x < columns; x++)
      for (let v = Math.max(y - 1, 0); v <= Math.min(y + 1, rows - 1); v++)
        for (let u = Math.max(x - 1, 0); u <= Math.min(x + 1, columns - 1); u++)
          for (let c = 0; c < 4; c++) out[4 * (y * columns + x) + c]! += sums[4 * (v * columns + u) + c]!;
  return out;
}

/**
 * σ of the Gaussian edge that a profile is most like, wherever its middle lies and from whichever level to which other
 * it leads: what is beside the edge, shading and texture, moves the levels.
 */
function widthOf(profile: Float64Array): number | undefined {
  const middle = (profile.length - 1) / 2;
  const mean = profile.reduce((s, v) => s + v, 0) / profile.length;
  let best: { sigma: number | undefined; explained: number } = { sigma: undefined, explained: 0 };
  for (const sigma of SIGMAS)
    for (let beside = -MOST_BESIDE; beside <= MOST_BESIDE; beside += 0.5) {
      const model = profile.map((_, k) => normalCdf((k - middle - beside) / sigma));
      const modelMean = model.reduce((s, v) => s + v, 0) / model.length;
      let [both, own] = [0, 0];
      for (let k = 0; k < model.length; k++) {
        both += (profile[k]! - mean) * (model[k]! - modelMean);
        own += (model[k]! - modelMean) ** 2;
      }
      const explained = both ** 2 / own;
      if (both > 0 && explained > best.explained) best = { sigma, explained };
    }
  return best.sigma;
}
/** Φ by its logistic approximation, to 0.01 (S. R. Bowling and others, 2009). */
const normalCdf = (z: number): number => 1 / (1 + Math.exp(-(0.07056 * z ** 3 + 1.5976 * z)));
