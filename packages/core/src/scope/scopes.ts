// Scopes: where a picture's codes lie, as counts on a grid. What is drawn of them is another's business.
import { ENCODINGS, linear709FromCodes, type Encoding } from '../colour/encoding.ts';
import { oklabFromLinear709 } from '../colour/oklab.ts';
import type { Triple } from '../colour/matrix3.ts';
import { maxCodeOf, type CodePicture } from '../pipeline/picture.ts';
import { FIELD_REACH } from './colourDensity.ts';

export const SCOPE_KINDS = ['vectorscope', 'hue and chroma', 'waveform', 'parade', 'histogram'] as const;
export type ScopeKind = (typeof SCOPE_KINDS)[number];
/** Of which pixels: all of them, or by α what the matte in hand selects or does not. */
export const SCOPE_PARTS = ['picture', 'inside', 'outside'] as const;
export type ScopePart = (typeof SCOPE_PARTS)[number];

/**
 * Weighted counts, a grid for each trace, row by row, the top row first. Vectorscope: Cb to the right and Cr upwards,
 * −0.5..0.5. Hue and chroma: OKLab a and b, ± `FIELD_REACH`. Waveform (luma) and parade (R, G, B): the picture's
 * columns by code value, 1 at the top. Histogram (R, G, B, luma): bins of code value, 0 at the left, one row.
 */
export interface Scope {
  kind: ScopeKind;
  width: number;
  height: number;
  traces: Float32Array[];
}

/** Luma weights: Rec. ITU-R BT.709-6 item 3.2; BT.2020-2 table 4. */
const LUMA: Record<'bt709' | 'bt2020', Triple> = {
  bt709: [0.2126, 0.7152, 0.0722],
  bt2020: [0.2627, 0.678, 0.0593],
};
const lumaWeights = (encoding: Encoding): Triple =>
  ENCODINGS[encoding].tags.matrix.startsWith('bt2020') ? LUMA.bt2020 : LUMA.bt709;

/** Y′, Cb, Cr of normalised R′G′B′ codes: Rec. ITU-R BT.709-6 items 3.2 and 3.3, BT.2020-2 table 4. */
export function lumaChroma(codes: Triple, encoding: Encoding): [y: number, cb: number, cr: number] {
  const [wr, wg, wb] = lumaWeights(encoding);
  const y = wr * codes[0] + wg * codes[1] + wb * codes[2];
  return [y, (codes[2] - y) / (2 * (1 - wb)), (codes[0] - y) / (2 * (1 - wr))];
}

/** The six colours of 75 % bars (EBU Tech 3325, SMPTE RP 219): R′G′B′ of 0 and 0.75. */
export const BAR_TARGETS: readonly { name: string; codes: Triple }[] = [
  { name: 'R', codes: [0.75, 0, 0] },
  { name: 'Yl', codes: [0.75, 0.75, 0] },
  { name: 'G', codes: [0, 0.75, 0] },
  { name: 'Cy', codes: [0, 0.75, 0.75] },
  { name: 'B', codes: [0, 0, 0.75] },
  { name: 'Mg', codes: [0.75, 0, 0.75] },
];

const SQUARE = 160;
const [COLUMNS, LEVELS, BINS] = [240, 128, 256];
const PARADE_COLUMNS = 80;
const SIZES: Record<ScopeKind, [width: number, height: number, traces: number]> = {
  vectorscope: [SQUARE, SQUARE, 1],
  'hue and chroma': [SQUARE, SQUARE, 1],
  waveform: [COLUMNS, LEVELS, 1],
  parade: [PARADE_COLUMNS, LEVELS, 3],
  histogram: [BINS, 1, 4],
};

/** The nearest of `cells` along 0..1, ends included. */
const cell = (share: number, cells: number): number => Math.min(Math.max(Math.floor(share * cells), 0), cells - 1);

/** A place on a trace, 0..1 from the left and from the top. */
export interface ScopeSpot {
  x: number;
  y: number;
}
type Spots = (codes: Triple, column: number) => ScopeSpot[];
const SPOTS: Record<ScopeKind, (encoding: Encoding) => Spots> = {
  vectorscope: (encoding) => (codes) => {
    const [, cb, cr] = lumaChroma(codes, encoding);
    return [{ x: 0.5 + cb, y: 0.5 - cr }];
  },
  'hue and chroma': (encoding) => (codes) => {
    const { a, b } = oklabFromLinear709(linear709FromCodes(encoding, codes));
    return [{ x: 0.5 + a / FIELD_REACH / 2, y: 0.5 - b / FIELD_REACH / 2 }];
  },
  waveform: (encoding) => (codes, column) => [{ x: column, y: 1 - lumaChroma(codes, encoding)[0] }],
  parade: () => (codes, column) => codes.map((v) => ({ x: column, y: 1 - v })),
  histogram: (encoding) => (codes) => [...codes, lumaChroma(codes, encoding)[0]].map((v) => ({ x: v, y: 0 })),
};
/** Where a colour lies on each trace of a scope; `column`: its place across the picture, 0..1. */
export const scopeSpots = (kind: ScopeKind, codes: Triple, encoding: Encoding, column: number): ScopeSpot[] =>
  SPOTS[kind](encoding)(codes, column);

/** As many pixels as are looked at; a larger picture has some left out, evenly. */
const MOST_PIXELS = 120_000;

const divisor = (a: number, b: number): number => (b === 0 ? a : divisor(b, a % b));
/** Every how many pixels are looked at: with no factor in common with the width, it comes by all columns. */
function stepOver(pixels: number, wide: number): number {
  let step = Math.max(Math.ceil(pixels / MOST_PIXELS), 1);
  while (divisor(wide, step) > 1) step++;
  return step;
}

/** The scope of a picture in its own codes; `alpha` says what is inside, and may be left out for the whole picture. */
export function scopeOf(
  kind: ScopeKind,
  picture: CodePicture,
  encoding: Encoding,
  part: ScopePart,
  alpha?: Float32Array,
): Scope {
  const [width, height, n] = SIZES[kind];
  const traces = Array.from({ length: n }, () => new Float32Array(width * height));
  const spots = SPOTS[kind](encoding);
  const { r, g, b, width: wide } = picture;
  const full = maxCodeOf(r);
  const step = stepOver(r.length, wide);
  for (let i = 0; i < r.length; i += step) {
    const inside = alpha ? alpha[i]! : 0;
    const weight = { picture: 1, inside, outside: 1 - inside }[part];
    if (weight === 0) continue;
    const at = spots([r[i]! / full, g[i]! / full, b[i]! / full], ((i % wide) + 0.5) / wide);
    traces.forEach((trace, k) => {
      const j = cell(at[k]!.y, height) * width + cell(at[k]!.x, width);
      trace[j] = trace[j]! + weight;
    });
  }
  return { kind, width, height, traces };
}
