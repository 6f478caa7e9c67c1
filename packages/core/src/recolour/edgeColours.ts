import type { LinearPlanes } from '../colour/planes.ts';
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
 * where the piece nowhere stands alone.
 */
export function edgeColoursOf(
  picture: LinearPlanes,
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
  const seen = gathered(band, picture.r, picture.g, picture.b);
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

/** Planes at the places of a band, the channels of a place side by side. */
function gathered({ index }: MixedBand, ...planes: Float32Array[]): Float32Array {
  const out = new Float32Array(planes.length * index.length);
  let n = 0;
  for (const i of index) for (const plane of planes) out[n++] = plane[i]!;
  return out;
}

/** A plane of the piece over its edge, from where it stands alone; 0 where no flood comes. */
function carriedOn(plane: Float32Array, band: MixedBand, piece: Part): Float32Array {
  const { own, known } = flooded(band, piece, gathered(band, plane), 1);
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
  const weights = share.map((a) => a ** 3);
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
  for (let sweep = 0; sweep < SWEEPS; sweep++)
    for (let n = 0; n < mixed; n++) relax(band, seen, F, B, most, sweep % 2 === 0 ? n : mixed - 1 - n);
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

/** By channel, what the neighbours of a pixel ask of its parts: the weighed sums of theirs. */
const asked = { piece: new Float64Array(3), ground: new Float64Array(3) };

/** Sets both parts of one pixel to what its colour and its four neighbours ask of them, in the least squares. */
function relax(
  { alpha, next }: MixedBand,
  seen: Float32Array,
  F: Flooded,
  B: Flooded,
  most: readonly number[],
  k: number,
): void {
  // a part that no flood reached has no say: the pixel is the other's alone
  if (F.known[k] === 0 || B.known[k] === 0) return;
  const a = alpha[k]!;
  const { piece, ground } = asked;
  piece.fill(0);
  ground.fill(0);
  let [f, b] = [0, 0];
  for (let m = 8 * k; m < 8 * k + 4; m++) {
    const p = next[m]!;
    if (p < 0) continue;
    const w = SMOOTHNESS + Math.abs(a - alpha[p]!);
    if (F.known[p] === 1) {
      f += w;
      for (let c = 0; c < 3; c++) piece[c] = piece[c]! + w * F.own[3 * p + c]!;
    }
    if (B.known[p] === 1) {
      b += w;
      for (let c = 0; c < 3; c++) ground[c] = ground[c]! + w * B.own[3 * p + c]!;
    }
  }
  const rest = 1 - a;
  const [ofF, ofBoth, ofB] = [FIT * a * a + f, FIT * a * rest, FIT * rest * rest + b];
  const det = ofF * ofB - ofBoth * ofBoth;
  if (det < 1e-12) return;
  for (let c = 0; c < 3; c++) {
    const v = seen[3 * k + c]!;
    const [rf, rb] = [FIT * a * v + piece[c]!, FIT * rest * v + ground[c]!];
    F.own[3 * k + c] = Math.min(Math.max((rf * ofB - rb * ofBoth) / det, 0), most[c]!);
    B.own[3 * k + c] = Math.min(Math.max((rb * ofF - rf * ofBoth) / det, 0), most[c]!);
  }
}
