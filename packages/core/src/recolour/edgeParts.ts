// The piece and its ground over the soft edge between them: each flooded from where it stands alone, both then relaxed.
import { luminanceOf } from '../colour/xyz.ts';
import { kernels } from '../kernels/module.ts';
import { apartInPlace, togetherInPlace } from './chromaApart.ts';
import { MOST_BY_KERNEL, partsByKernel } from './edgePartsByKernel.ts';
import { unshared } from './unshared.ts';
import { partOf, standingOf, type MixedBand, type Standing } from './mixedBand.ts';

/** How much a pixel's own colour counts against the smoothness of what it is mixed from. */
const FIT = 30;
/** By how much α changes to a pixel's four neighbours together where a channel counts half; how often is swept. */
const OF_COLOURS = { half: [Infinity, Infinity, Infinity], sweeps: 4 } as const;
/** The same of luminance and chroma, where chroma is that of its neighbours too; then of colours, on from there. */
const OF_SHARED_CHROMA = { half: [Infinity, 0.04, 0.04], sweeps: 3 } as const;
const OF_UNSHARED = { ...OF_COLOURS, sweeps: 2 } as const;
/** How smooth both parts are taken to be where α does not change. */
const SMOOTHNESS = 0.001;

/** What was found of both parts over the mixed places of a band. */
export interface EdgeParts {
  /** The piece's colour, its channels side by side; 0 where not both parts are known. */
  piece: Float32Array;
  /** The ground's, likewise. */
  ground: Float32Array;
  /** By mixed place, 1 where both parts are known. */
  known: Uint8Array;
  /** Mixed places that the piece's flood reaches, in its order. */
  order: Uint32Array;
  /** By mixed place, the more steps of the two in which it was reached; 0 at a source and where it was not. */
  steps: Uint16Array;
}

/** The same, and the picture that they were solved from. */
export interface SolvedEdge extends EdgeParts {
  /** By place, as seen; where neighbours share their chroma, mixed places have that of what they are mixed of. */
  shown: Float32Array;
}

/** How both parts are solved, channel by channel: where a pixel's own counts half, and what it is kept to. */
export interface Terms {
  half: Three;
  least: Three;
  most: Three;
  sweeps: number;
}
type Three = readonly [number, number, number];

/**
 * Both parts at the mixed places of a band. `seen`: the picture at all its places, channels side by side, linear light;
 * no colour is let past `most`. Where pixels share their chroma with their neighbours (4:2:2, 4:2:0), theirs at an edge
 * is mixed of more than what they show: luminance is told by each pixel, chroma the less by it the more α changes. What
 * is found so tells their chroma, and with that, luma being each one's own, both parts are solved on.
 */
export function edgeParts(
  band: MixedBand,
  seen: Float32Array,
  most: Three,
  sharesChroma = false,
  solve = solverOf(band),
): SolvedEdge {
  const colours = { least: [0, 0, 0], most } as const;
  if (!sharesChroma) return { ...solve(band, seen, { ...OF_COLOURS, ...colours }), shown: seen };
  const apart = seen.slice();
  apartInPlace(apart);
  const least = [0, -Infinity, -Infinity] as const;
  const parts = solve(band, apart, { ...OF_SHARED_CHROMA, least, most: [luminanceOf(most), Infinity, Infinity] });
  togetherInPlace(parts.piece, most);
  togetherInPlace(parts.ground, most);
  const shown = unshared(band, seen, parts, most);
  return { ...solve(band, shown, { ...OF_UNSHARED, ...colours }, parts), shown };
}
function solverOf(band: MixedBand): typeof partsByPlaces {
  const own = band.mixed > MOST_BY_KERNEL ? undefined : kernels();
  return own ? (...of) => partsByKernel(own, ...of) : partsByPlaces;
}

/**
 * Both parts, flooded and relaxed, or relaxed on `from` where they were; the kernels' are the same to the bit.
 */
export function partsByPlaces(band: MixedBand, seen: Float32Array, terms: Terms, from?: EdgeParts): EdgeParts {
  const { F, B, order, steps } = from ? resumed(band, seen, from) : floodedBoth(band, seen);
  for (let sweep = 0; sweep < terms.sweeps; sweep++) relax(band, seen, F, B, terms, sweep % 2 === 1);
  const known = F.known.subarray(0, band.mixed).map((k, p) => k & B.known[p]!);
  const colours = ({ own }: Flooded) =>
    own.subarray(0, 3 * band.mixed).map((v, c) => (known[Math.floor(c / 3)] === 1 ? v : 0));
  return { piece: colours(F), ground: colours(B), known, order, steps };
}
function floodedBoth(band: MixedBand, seen: Float32Array) {
  const [piece, ground] = [partOf(band, true), partOf(band, false)];
  const F = flooded(band, piece, piece.order, seen, 3);
  const B = flooded(band, ground, ground.order, seen, 3);
  const steps = piece.steps.map((s, k) => Math.max(s, ground.steps[k]!));
  return { F, B, order: piece.order, steps };
}
function resumed(band: MixedBand, seen: Float32Array, { piece, ground, known, order, steps }: EdgeParts) {
  const on = (part: Float32Array, { alone }: Standing): Flooded => {
    const own = seen.slice();
    own.set(part);
    alone.set(known);
    return { own, known: alone };
  };
  return { F: on(piece, standingOf(band, true)), B: on(ground, standingOf(band, false)), order, steps };
}

/** One part of the picture over the places of a band. */
export interface Flooded {
  /** Its channels side by side, as `gathered`. */
  own: Float32Array;
  /** By place, 1 where it is known. */
  known: Uint8Array;
}
/**
 * A part where it stands alone and where its flood comes: there the mean of the neighbours that are known, weighed by
 * the cube of what they show of it.
 */
export function flooded(
  { next }: MixedBand,
  { share, alone }: Standing,
  order: Uint32Array,
  seen: Float32Array,
  channels: number,
): Flooded {
  const own = seen.slice();
  const known = alone.slice();
  const weights = new Float32Array(share.length);
  for (let p = 0; p < share.length; p++) weights[p] = share[p]! * share[p]! * share[p]!;
  const sums = new Float64Array(channels);
  for (const k of order) {
    sums.fill(0);
    let weight = 0;
    for (let m = 8 * k; m < 8 * k + 8; m++) {
      const p = next[m]!;
      if (p < 0 || known[p] === 0) continue;
      const w = weights[p]!;
      weight += w;
      for (let c = 0; c < channels; c++) sums[c] = sums[c]! + w * own[channels * p + c]!;
    }
    for (let c = 0; c < channels; c++) own[channels * k + c] = sums[c]! / weight;
    known[k] = 1;
  }
  return { own, known };
}

/**
 * A sweep over the mixed pixels, from the last to the first if `backwards`: sets both parts of each to what its colour
 * and its four neighbours ask of them, in the least squares. (The sums of three channels written out: as loops over
 * them it took three times as long.)
 */
function relax(
  { mixed, alpha, next }: MixedBand,
  seen: Float32Array,
  { own: f, known: fKnown }: Flooded,
  { own: b, known: bKnown }: Flooded,
  { half, least, most }: Terms,
  backwards: boolean,
): void {
  const [half0, half1, half2] = half;
  const [least0, least1, least2] = least;
  const [most0, most1, most2] = most;
  for (let n = 0; n < mixed; n++) {
    const k = backwards ? mixed - 1 - n : n;
    // a part that no flood reached has no say: the pixel is the other's alone
    if (fKnown[k] === 0 || bKnown[k] === 0) continue;
    const a = alpha[k]!;
    let change = 0;
    let fWeight = 0;
    let f0 = 0;
    let f1 = 0;
    let f2 = 0;
    let bWeight = 0;
    let b0 = 0;
    let b1 = 0;
    let b2 = 0;
    for (let m = 8 * k; m < 8 * k + 4; m++) {
      const p = next[m]!;
      if (p < 0) continue;
      const off = Math.abs(a - alpha[p]!);
      const w = SMOOTHNESS + off;
      change += off;
      if (fKnown[p] === 1) {
        fWeight += w;
        f0 += w * f[3 * p]!;
        f1 += w * f[3 * p + 1]!;
        f2 += w * f[3 * p + 2]!;
      }
      if (bKnown[p] === 1) {
        bWeight += w;
        b0 += w * b[3 * p]!;
        b1 += w * b[3 * p + 1]!;
        b2 += w * b[3 * p + 2]!;
      }
    }
    // what says nothing of the first channel says nothing of the others
    if (!settle(f, b, 3 * k, f0, b0, a, fWeight, bWeight, change / half0, seen[3 * k]!, least0, most0)) continue;
    settle(f, b, 3 * k + 1, f1, b1, a, fWeight, bWeight, change / half1, seen[3 * k + 1]!, least1, most1);
    settle(f, b, 3 * k + 2, f2, b2, a, fWeight, bWeight, change / half2, seen[3 * k + 2]!, least2, most2);
  }
}

/**
 * Sets one channel of both parts at a pixel, of which `v` is seen, from the weighed sums of their neighbours: false
 * where these say nothing. `off`: how much α changes there, over what makes the pixel count half.
 */
function settle(
  f: Float32Array,
  b: Float32Array,
  at: number,
  fSum: number,
  bSum: number,
  a: number,
  fWeight: number,
  bWeight: number,
  off: number,
  v: number,
  least: number,
  most: number,
): boolean {
  const rest = 1 - a;
  const fit = FIT / (1 + off * off);
  const ofF = fit * a * a + fWeight;
  const ofB = fit * rest * rest + bWeight;
  const ofBoth = fit * a * rest;
  const det = ofF * ofB - ofBoth * ofBoth;
  if (det < 1e-12) return false;
  const ownF = fSum + fit * a * v;
  const ownB = bSum + fit * rest * v;
  f[at] = Math.min(Math.max((ownF * ofB - ownB * ofBoth) / det, least), most);
  b[at] = Math.min(Math.max((ownB * ofF - ownF * ofBoth) / det, least), most);
  return true;
}
