import type { LinearPlanes } from '../colour/planes.ts';
import { luminanceOf } from '../colour/xyz.ts';
import type { Texture } from '../document/finer.ts';
import { boundsOfMatte, grownBox } from '../matte/bounds.ts';
import { gaussianInPlace } from '../matte/gaussian.ts';

/** σ of what sharpening takes for fine detail, full-resolution pixels. */
const DETAIL_PX = 1.5;
/** Round a matte, in σ: what lies farther out does not count. */
const MARGIN = 3;

/**
 * Softens or sharpens a picture inside a matte, in place: blurs count what the matte selects and nothing else, so that
 * no colour of the surroundings comes in. `scale`: this picture over full resolution. The colour alone is softened by
 * blurring light and putting each pixel's own luminance back.
 */
export function textureInto(
  picture: LinearPlanes,
  alpha: Float32Array,
  width: number,
  { softenPx, colourPx, sharpen }: Texture,
  strength: number,
  scale: number,
): void {
  if (sharpen > 0)
    mixed(picture, alpha, width, DETAIL_PX * scale, (own, soft) => own + sharpen * (own - soft), strength);
  if (softenPx > 0) mixed(picture, alpha, width, softenPx * scale, (_own, soft) => soft, strength);
  if (colourPx > 0) colourInto(picture, alpha, width, colourPx * scale, strength);
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
/** α, and a plane as the mean of its neighbours in the matte, over a part. */
function softened(plane: Float32Array, alpha: Float32Array, width: number, part: Part, sigma: number): Float32Array {
  const out = new Float32Array(part.wide * part.tall);
  const weight = new Float32Array(out.length);
  each(part, width, (k, i) => {
    weight[k] = alpha[i]!;
    out[k] = alpha[i]! * plane[i]!;
  });
  gaussianInPlace(out, part.wide, part.tall, sigma);
  gaussianInPlace(weight, part.wide, part.tall, sigma);
  for (let k = 0; k < out.length; k++) out[k] = out[k]! / Math.max(weight[k]!, 1e-6);
  return out;
}

function mixed(
  { r, g, b }: LinearPlanes,
  alpha: Float32Array,
  width: number,
  sigma: number,
  mix: (own: number, soft: number) => number,
  strength: number,
): void {
  const part = partOf(alpha, width, sigma);
  if (!part) return;
  for (const plane of [r, g, b]) {
    const soft = softened(plane, alpha, width, part, sigma);
    each(part, width, (k, i) => {
      if (alpha[i] !== 0) plane[i] = plane[i]! + alpha[i]! * strength * (mix(plane[i]!, soft[k]!) - plane[i]!);
    });
  }
}

function colourInto(
  { r, g, b }: LinearPlanes,
  alpha: Float32Array,
  width: number,
  sigma: number,
  strength: number,
): void {
  const part = partOf(alpha, width, sigma);
  if (!part) return;
  const soft = [r, g, b].map((plane) => softened(plane, alpha, width, part, sigma));
  each(part, width, (k, i) => {
    if (alpha[i] === 0) return;
    const near = luminanceOf([soft[0]![k]!, soft[1]![k]!, soft[2]![k]!]);
    if (near <= 1e-6) return;
    const factor = luminanceOf([r[i]!, g[i]!, b[i]!]) / near;
    const weight = alpha[i]! * strength;
    [r, g, b].forEach((plane, c) => (plane[i] = plane[i]! + weight * (factor * soft[c]![k]! - plane[i]!)));
  });
}
