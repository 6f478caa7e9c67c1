import { gatheredPlane, planeOf, type LinearPlanes } from '../colour/planes.ts';
import { edgeParts, flooded, type SolvedEdge } from './edgeParts.ts';
import { mixedBandOf, SOLID, standingOf, type MixedBand } from './mixedBand.ts';

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
  /** Chroma that a pixel has of its neighbours, not of what it shows: no luma. Where pixels share theirs. */
  stray?: LinearPlanes;
}

export interface EdgeOptions {
  sheen?: Float32Array | undefined;
  /** Does the footage have fewer samples of chroma than of luma (4:2:2, 4:2:0)? */
  sharesChroma?: boolean;
}

/**
 * What the piece would show at the pixels of its edge if nothing else were mixed in: every pixel there is
 * I = α·F + (1 − α)·B, and F and B are found as smooth where α is (after A. Levin, D. Lischinski, Y. Weiss, "A
 * Closed-Form Solution to Natural Image Matting", PAMI 2008, section 6, in linear light): flooded from where they stand
 * alone, relaxed by Gauss and Seidel's sweeps, and held to what a pixel can be mixed of. A recolour of the whole mixed
 * pixel would recolour its surroundings too. `scale` is this size over the full resolution. `sheen`, of every pixel,
 * is carried on from where the piece stands alone: of a mixed pixel it cannot be read. Undefined without an edge, or
 * where the piece nowhere stands alone. `lightAt` gives the picture at single pixels. Where neighbours share their
 * chroma what an edge has of it beyond α·F + (1 − α)·B has strayed there from beside it.
 */
export function edgeColoursOf(
  lightAt: (index: Uint32Array) => LinearPlanes,
  alpha: Float32Array,
  width: number,
  height: number,
  scale: number,
  { sheen, sharesChroma = false }: EdgeOptions = {},
): EdgeColours | undefined {
  const band = mixedBandOf(alpha, width);
  if (!band) return undefined;
  const seen = sideBySide(lightAt(band.index));
  const most = brightest(seen, band.mixed);
  const parts = edgeParts(band, seen, most, sharesChroma);
  if (parts.order.length === 0) return undefined;
  const found = unmixed(band, parts, most);
  const { mixed } = band;
  const reach = Math.max(REACH_PX * scale, 1);
  const trust = planeOf(mixed, (k) =>
    // chroma that the neighbours tell is none of a pixel's that shows the piece alone
    sharesChroma && band.alpha[k]! >= SOLID ? 0 : Math.min(Math.max(2 - parts.steps[k]! / reach, 0), 1),
  );
  for (let k = 0; k < mixed; k++)
    for (let c = 3 * k; c < 3 * k + 3; c++) found[c] = seen[c]! + trust[k]! * (found[c]! - seen[c]!);
  const channel = (c: number) => planeOf(mixed, (k) => found[3 * k + c]!);
  const own: EdgeColours = { index: band.index.slice(0, mixed), r: channel(0), g: channel(1), b: channel(2) };
  if (sharesChroma) own.stray = strayOf(mixed, seen, parts, trust);
  return sheen ? { ...own, sheen: carriedOn(sheen, band, parts.order) } : own;
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
function carriedOn(plane: Float32Array, band: MixedBand, order: Uint32Array): Float32Array {
  const { own, known } = flooded(band, standingOf(band, true), order, gatheredPlane(plane, band.index), 1);
  return own.subarray(0, band.mixed).map((v, k) => (known[k] === 1 ? v : 0));
}

/** What no channel of a mixed pixel lies past, nor white. */
function brightest(seen: Float32Array, mixed: number): [number, number, number] {
  const most: [number, number, number] = [1, 1, 1];
  for (let k = 0; k < mixed; k++) for (let c = 0; c < 3; c++) most[c] = Math.max(most[c]!, seen[3 * k + c]!);
  return most;
}

/** F at the mixed pixels: three channels side by side. */
function unmixed(
  { mixed, alpha }: MixedBand,
  { piece, known, shown }: SolvedEdge,
  most: readonly number[],
): Float32Array {
  const out = new Float32Array(3 * mixed);
  for (let k = 0; k < mixed; k++) {
    const a = alpha[k]!;
    for (let c = 0; c < 3; c++) {
      const v = shown[3 * k + c]!;
      // what is mixed in is light too: no less than none, no more than the brightest
      out[3 * k + c] =
        known[k] === 1 ? Math.max(0, (v - (1 - a) * most[c]!) / a, Math.min(piece[3 * k + c]!, Math.max(v, 0) / a)) : v;
    }
  }
  return out;
}

/** What of a mixed pixel is chroma of its neighbours, as far as what was found of it is trusted. */
function strayOf(mixed: number, seen: Float32Array, { shown }: SolvedEdge, trust: Float32Array): LinearPlanes {
  const channel = (c: number) => planeOf(mixed, (k) => trust[k]! * (seen[3 * k + c]! - shown[3 * k + c]!));
  return { r: channel(0), g: channel(1), b: channel(2) };
}
