import type { LinearPlanes } from '../colour/planes.ts';
import { luminanceOf } from '../colour/xyz.ts';
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
  const softened = (px: number) => piece.map((plane) => blurred(plane, weight, part, px * scale)) as Piece;
  if (sharpen > 0) piece = mapped(piece, softened(DETAIL_PX), (own, soft) => own + sharpen * (own - soft));
  if (softenPx > 0) piece = softened(softenPx);
  if (colourPx > 0) piece = withColourOf(piece, softened(colourPx));
  each(part, width, (k, i) => {
    const w = alpha[i]! * strength;
    if (w === 0) return;
    picture.r[i] = picture.r[i]! + w * (piece[0][k]! - before[0][k]!);
    picture.g[i] = picture.g[i]! + w * (piece[1][k]! - before[1][k]!);
    picture.b[i] = picture.b[i]! + w * (piece[2][k]! - before[2][k]!);
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
const each = ({ x0, y0, wide, tall }: Part, width: number, visit: (k: number, i: number) => void) => {
  for (let y = 0; y < tall; y++) for (let x = 0; x < wide; x++) visit(y * wide + x, (y0 + y) * width + x0 + x);
};

/** Red, green and blue of a part. */
type Piece = [Float32Array, Float32Array, Float32Array];
function pieceOf({ r, g, b }: LinearPlanes, width: number, part: Part, edge?: EdgeColours): Piece {
  const cut = (plane: Float32Array, own?: Float32Array) => {
    const out = new Float32Array(part.wide * part.tall);
    each(part, width, (k, i) => (out[k] = plane[i]!));
    edge?.index.forEach((i, n) => {
      const [x, y] = [(i % width) - part.x0, Math.floor(i / width) - part.y0];
      out[y * part.wide + x] = own![n]!;
    });
    return out;
  };
  return [cut(r, edge?.r), cut(g, edge?.g), cut(b, edge?.b)];
}
/** How much a pixel counts: what is little of the piece says little of it, even where its own colour was solved for. */
function weightOf(alpha: Float32Array, width: number, part: Part): Float32Array {
  const out = new Float32Array(part.wide * part.tall);
  each(part, width, (k, i) => (out[k] = alpha[i]! ** 3));
  return out;
}
/** Means of the neighbours that count; a plane's own value where none does. */
function blurred(plane: Float32Array, weight: Float32Array, { wide, tall }: Part, sigma: number): Float32Array {
  const sum = plane.map((v, k) => weight[k]! * v);
  const weights = weight.slice();
  gaussianInPlace(sum, wide, tall, sigma);
  gaussianInPlace(weights, wide, tall, sigma);
  return sum.map((v, k) => (weights[k]! > 1e-9 ? v / weights[k]! : plane[k]!));
}
const mapped = (own: Piece, soft: Piece, mix: (own: number, soft: number) => number): Piece =>
  own.map((plane, c) => plane.map((v, k) => mix(v, soft[c as 0 | 1 | 2][k]!))) as Piece;

/** Each pixel's own luminance in the colour of `soft`. */
function withColourOf([r, g, b]: Piece, soft: Piece): Piece {
  const out: Piece = [r.slice(), g.slice(), b.slice()];
  for (let k = 0; k < r.length; k++) {
    const near: [number, number, number] = [soft[0][k]!, soft[1][k]!, soft[2][k]!];
    const Y = luminanceOf(near);
    if (Y <= 1e-6) continue;
    const factor = luminanceOf([r[k]!, g[k]!, b[k]!]) / Y;
    out[0][k] = factor * near[0];
    out[1][k] = factor * near[1];
    out[2][k] = factor * near[2];
  }
  return out;
}
