import { gatheredPlane, type LinearPlanes } from '../colour/planes.ts';
import { mixedBandOf, partOf, type MixedBand, type Part } from './mixedBand.ts';

/** How much a pixel's own colour counts against the smoothness of what it is mixed from. */
const FIT = 30;
/** How smooth both parts are taken to be where α does not change. */
const SMOOTHNESS = 0.001;
const SWEEPS = 4;
/**
 * Where the piece or its ground stands alone only this many full-resolution pixels away, a half-selected area is no
 * edge any more: from here to twice as far what was found gives way to the pixel's own colour.
 */
const REACH_PX = 24;

/** The piece's own colour at the pixels of its soft edge, linear light. */
export interface EdgeColours {
  /** The pixels, ascending. */
  index: Uint32Array;
  r: Float32Array;
  g: Float32Array;
  b: Float32Array;
  /** How much of each one's luminance is sheen, where it was told apart. */
  sheen?: Float32Array;
}

/**
 * What the piece would show at the pixels of its edge if nothing else were mixed in: every pixel there is
 * I = α·F + (1 − α)·B, and F and B are found as smooth where α is (after A. Levin, D. Lischinski, Y. Weiss, "A
 * Closed-Form Solution to Natural Image Matting", PAMI 2008, section 6, in linear light): flooded from where they stand
 * alone, relaxed by Gauss and Seidel's sweeps, and held to what a pixel can be mixed of. A recolour of the whole mixed
 * pixel would recolour its surroundings too. `scale` is this size over the full resolution. `sheen`, of every pixel,
 * is carried on from where the piece stands alone: of a mixed pixel it cannot be read. Undefined without an edge, or
 * where the piece nowhere stands alone. `lightAt` gives the picture at single pixels.
 */
export function edgeColoursOf(
  lightAt: (index: Uint32Array) => LinearPlanes,
  alpha: Float32Array,
  width: number,
  height: number,
  scale: number,
  sheen?: Float32Array,
): EdgeColours | undefined {
  const band = mixedBandOf(alpha, width, height);
  if (!band) return undefined;
  const piece = partOf(band, true);
  if (piece.order.length === 0) return undefined;
  const ground = partOf(band, false);
  const seen = sideBySide(lightAt(band.index));
  const found = unmixed(band, seen, piece, ground);
  const { mixed } = band;
  const reach = Math.max(REACH_PX * scale, 1);
  for (let k = 0; k < mixed; k++) {
    const trust = Math.min(Math.max(2 - Math.max(piece.steps[k]!, ground.steps[k]!) / reach, 0), 1);
    for (let c = 3 * k; c < 3 * k + 3; c++) found[c] = seen[c]! + trust * (found[c]! - seen[c]!);
  }
  const channel = (c: number) => {
    const out = new Float32Array(mixed);
    for (let k = 0; k < mixed; k++) out[k] = found[3 * k + c]!;
    return out;
  };
  const own = { index: band.index.slice(0, mixed), r: channel(0), g: channel(1), b: channel(2) };
  return sheen ? { ...own, sheen: carriedOn(sheen, band, piece) } : own;
}

/** The channels of a pixel side by side. */
function sideBySide({ r, g, b }: LinearPlanes): Float32Array {
  const out = new Float32Array(3 * r.length);
  for (let k = 0; k < r.length; k++) {
    out[3 * k] = r[k]!;
    out[3 * k + 1] = g[k]!;
    out[3 * k + 2] = b[k]!;
  }
  return out;
}

/** A plane of the piece over its edge, from where it stands alone; 0 where no flood comes. */
function carriedOn(plane: Float32Array, band: MixedBand, piece: Part): Float32Array {
  const { own, known } = flooded(band, piece, gatheredPlane(plane, band.index), 1);
  return own.subarray(0, band.mixed).map((v, k) => (known[k] === 1 ? v : 0));
}

/** One part of the picture over the places of a band. */
interface Flooded {
  /** Its channels side by side, as `gathered`. */
  own: Float32Array;
  /** By place, 1 where it is known. */
  known: Uint8Array;
}
/**
 * A part where it stands alone and where its flood comes: there the mean of the neighbours that are known, weighed by
 * the cube of what they show of it.
 */
function flooded({ next }: MixedBand, { share, alone, order }: Part, seen: Float32Array, channels: number): Flooded {
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

/** F at the mixed pixels: three channels side by side. */
function unmixed(band: MixedBand, seen: Float32Array, piece: Part, ground: Part): Float32Array {
  const { mixed } = band;
  const [F, B] = [flooded(band, piece, seen, 3), flooded(band, ground, seen, 3)];
  const most = [1, 1, 1];
  for (let k = 0; k < mixed; k++) for (let c = 0; c < 3; c++) most[c] = Math.max(most[c]!, seen[3 * k + c]!);
  for (let sweep = 0; sweep < SWEEPS; sweep++) relax(band, seen, F, B, most, sweep % 2 === 1);
  const out = new Float32Array(3 * mixed);
  for (let k = 0; k < mixed; k++) {
    const a = band.alpha[k]!;
    const isKnown = F.known[k] === 1 && B.known[k] === 1;
    for (let c = 0; c < 3; c++) {
      const v = seen[3 * k + c]!;
      // what is mixed in is light too: no less than none, no more than the brightest
      out[3 * k + c] = isKnown
        ? Math.max(0, (v - (1 - a) * most[c]!) / a, Math.min(F.own[3 * k + c]!, Math.max(v, 0) / a))
        : v;
    }
  }
  return out;
}

/**
 * A sweep over the mixed pixels, from the last to the first if `backwards`: sets both parts of each to what its colour
 * and its four neighbours ask of them, in the least squares. (Three channels written out: as loops over them it took
 * three times as long.)
 */
function relax(
  { mixed, alpha, next }: MixedBand,
  seen: Float32Array,
  { own: f, known: fKnown }: Flooded,
  { own: b, known: bKnown }: Flooded,
  most: readonly number[],
  backwards: boolean,
): void {
  const [most0, most1, most2] = most as [number, number, number];
  for (let n = 0; n < mixed; n++) {
    const k = backwards ? mixed - 1 - n : n;
    // a part that no flood reached has no say: the pixel is the other's alone
    if (fKnown[k] === 0 || bKnown[k] === 0) continue;
    const a = alpha[k]!;
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
      const w = SMOOTHNESS + Math.abs(a - alpha[p]!);
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
    const rest = 1 - a;
    const ofF = FIT * a * a + fWeight;
    const ofB = FIT * rest * rest + bWeight;
    const ofBoth = FIT * a * rest;
    const det = ofF * ofB - ofBoth * ofBoth;
    if (det < 1e-12) continue;
    const v0 = seen[3 * k]!;
    const v1 = seen[3 * k + 1]!;
    const v2 = seen[3 * k + 2]!;
    f0 += FIT * a * v0;
    f1 += FIT * a * v1;
    f2 += FIT * a * v2;
    b0 += FIT * rest * v0;
    b1 += FIT * rest * v1;
    b2 += FIT * rest * v2;
    f[3 * k] = Math.min(Math.max((f0 * ofB - b0 * ofBoth) / det, 0), most0);
    f[3 * k + 1] = Math.min(Math.max((f1 * ofB - b1 * ofBoth) / det, 0), most1);
    f[3 * k + 2] = Math.min(Math.max((f2 * ofB - b2 * ofBoth) / det, 0), most2);
    b[3 * k] = Math.min(Math.max((b0 * ofF - f0 * ofBoth) / det, 0), most0);
    b[3 * k + 1] = Math.min(Math.max((b1 * ofF - f1 * ofBoth) / det, 0), most1);
    b[3 * k + 2] = Math.min(Math.max((b2 * ofF - f2 * ofBoth) / det, 0), most2);
  }
}
