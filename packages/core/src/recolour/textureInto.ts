import type { LinearPlanes } from '../colour/planes.ts';
import { XYZ_FROM_LINEAR_709 } from '../colour/xyz.ts';
import type { Texture } from '../document/finer.ts';
import { boundsOfMatte, grownBox } from '../matte/bounds.ts';
import { gaussianInPlace } from '../matte/gaussian.ts';
import type { EdgeColours } from './edgeColours.ts';

/** σ of what sharpening takes for fine detail, full-resolution pixels. */
const DETAIL_PX = 1.5;
/** Round a matte, in σ: what lies farther out does not count. */
const MARGIN = 3;

/**
 * Softens or sharpens a picture inside a matte, in place: blurs count what the matte selects and nothing else, so that
 * no colour of the surroundings comes in; at the pixels of `edge` that is the piece's own colour there, as recoloured.
 * `scale`: this picture over full resolution. The colour alone is softened by blurring light and putting each pixel's
 * own luminance back.
 */
export function textureInto(
  picture: LinearPlanes,
  alpha: Float32Array,
  width: number,
  { softenPx, colourPx, sharpen }: Texture,
  strength: number,
  scale: number,
  edge?: EdgeColours,
): void {
  const part = partOf(alpha, width, Math.max(softenPx, colourPx, sharpen > 0 ? DETAIL_PX : 0) * scale);
  if (!part) return;
  const weight = weightOf(alpha, width, part);
  const before = pieceOf(picture, width, part, edge);
  let piece = before;
  const softened = (px: number) => blurred(piece, weight, part, px * scale);
  if (sharpen > 0) piece = mapped(piece, softened(DETAIL_PX), (own, soft) => own + sharpen * (own - soft));
  if (softenPx > 0) piece = softened(softenPx);
  if (colourPx > 0) piece = withColourOf(piece, softened(colourPx));
  [picture.r, picture.g, picture.b].forEach((plane, c) => {
    const now = piece[c as 0 | 1 | 2];
    const was = before[c as 0 | 1 | 2];
    for (let y = 0, k = 0; y < part.tall; y++)
      for (let i = startOf(part, width, y), end = i + part.wide; i < end; i++, k++)
        if (alpha[i] !== 0) plane[i] = plane[i]! + alpha[i]! * strength * (now[k]! - was[k]!);
  });
}

interface Part {
  x0: number;
  y0: number;
  wide: number;
  tall: number;
}
/** The part of the picture that a blur of σ round a matte reads. */
function partOf(alpha: Float32Array, width: number, sigma: number): Part | undefined {
  const height = alpha.length / width;
  const bounds = boundsOfMatte(alpha, width, height, 0);
  if (!bounds) return undefined;
  const longer = Math.max(bounds.x1 - bounds.x0, bounds.y1 - bounds.y0, 1);
  const { x0, y0, x1, y1 } = grownBox(bounds, (MARGIN * sigma) / longer, width, height);
  return { x0, y0, wide: x1 - x0, tall: y1 - y0 };
}
/** Where the y-th line of a part begins in its picture. */
const startOf = ({ x0, y0 }: Part, width: number, y: number): number => (y0 + y) * width + x0;
/** A plane over a part. */
function cut(plane: Float32Array, width: number, part: Part): Float32Array {
  const out = new Float32Array(part.wide * part.tall);
  for (let y = 0; y < part.tall; y++) {
    const start = startOf(part, width, y);
    out.set(plane.subarray(start, start + part.wide), y * part.wide);
  }
  return out;
}

/** Red, green and blue of a part. */
type Piece = [Float32Array, Float32Array, Float32Array];
function pieceOf({ r, g, b }: LinearPlanes, width: number, part: Part, edge?: EdgeColours): Piece {
  const piece: Piece = [cut(r, width, part), cut(g, width, part), cut(b, width, part)];
  edge?.index.forEach((i, n) => {
    const x = i % width;
    const k = ((i - x) / width - part.y0) * part.wide + x - part.x0;
    piece[0][k] = edge.r[n]!;
    piece[1][k] = edge.g[n]!;
    piece[2][k] = edge.b[n]!;
  });
  return piece;
}
/** How much a pixel counts: what is little of the piece says little of it, even where its own colour was solved for. */
function weightOf(alpha: Float32Array, width: number, part: Part): Float32Array {
  const out = cut(alpha, width, part);
  for (let k = 0; k < out.length; k++) out[k] = out[k]! * out[k]! * out[k]!;
  return out;
}
/** Means of the neighbours that count; a plane's own value where none does. */
function blurred(piece: Piece, weight: Float32Array, { wide, tall }: Part, sigma: number): Piece {
  const weights = weight.slice();
  gaussianInPlace(weights, wide, tall, sigma);
  return piece.map((plane) => {
    const sum = new Float32Array(plane.length);
    for (let k = 0; k < sum.length; k++) sum[k] = weight[k]! * plane[k]!;
    gaussianInPlace(sum, wide, tall, sigma);
    for (let k = 0; k < sum.length; k++) sum[k] = weights[k]! > 1e-9 ? sum[k]! / weights[k]! : plane[k]!;
    return sum;
  }) as Piece;
}
const mapped = (own: Piece, soft: Piece, mix: (own: number, soft: number) => number): Piece =>
  own.map((plane, c) => plane.map((v, k) => mix(v, soft[c as 0 | 1 | 2][k]!))) as Piece;

/** Each pixel's own luminance in the colour of `soft`. */
function withColourOf([r, g, b]: Piece, soft: Piece): Piece {
  const [, , , yr, yg, yb] = XYZ_FROM_LINEAR_709;
  const out: Piece = [r.slice(), g.slice(), b.slice()];
  for (let k = 0; k < r.length; k++) {
    const R = soft[0][k]!;
    const G = soft[1][k]!;
    const B = soft[2][k]!;
    const Y = yr * R + yg * G + yb * B;
    if (Y <= 1e-6) continue;
    const factor = (yr * r[k]! + yg * g[k]! + yb * b[k]!) / Y;
    out[0][k] = factor * R;
    out[1][k] = factor * G;
    out[2][k] = factor * B;
  }
  return out;
}
