import { labFromLinear709, lchFromLab } from '../colour/lab.ts';
import { turnDeg } from '../colour/oklab.ts';
import { planeOf, type LinearPlanes } from '../colour/planes.ts';
import { luminanceOf } from '../colour/xyz.ts';
import { gaussianInPlace } from '../matte/gaussian.ts';
import { boundsOfMatte, grownBox } from '../matte/bounds.ts';
import { MEASURED_ALPHA } from './measurePiece.ts';

/** What becomes of a piece's surface under a recolour. Ratios are after over before. */
export interface TextureFigures {
  /** Contrast of the weave: standard deviation of luminance about its neighbourhood, over the mean. */
  localContrast: number;
  /** Degrees from the hue of the body to that of its brightest tenth (CIELAB), before and after. */
  highlightTurnBefore: number;
  highlightTurnAfter: number;
  /** Grain of the result over that of the source, in CIELAB, all three together. */
  noise: number;
}
/** Size of a neighbourhood, full-resolution pixels (σ). */
const NEAR_PX = 6;
/** From here on a colorist is warned. */
export const MUCH_NOISE = 1.5;
const [FLAT, HARD] = [0.6, 1.6];
const MUCH_TURN = 25;

/** Warnings in plain words; none where the surface has come through. */
export function textureWarnings({
  localContrast,
  highlightTurnBefore,
  highlightTurnAfter,
  noise,
}: TextureFigures): string[] {
  const turned = Math.abs(turnDeg(highlightTurnBefore, highlightTurnAfter));
  return [
    noise > MUCH_NOISE && `Grain is ${noise.toFixed(1)} times as strong: soften the colour inside.`,
    localContrast < FLAT && 'It looks flat: its weave has lost contrast.',
    localContrast > HARD && 'It looks hard: its weave has gained contrast.',
    turned > MUCH_TURN && `Highlights turn ${Math.round(turned)}° away from the body: keep the sheen apart (Repaint).`,
  ].filter((text) => text !== false);
}

/**
 * Local contrast, highlight hue and grain of a piece before and after; undefined where too little of it is there. Grain
 * is told from weave by the second differences of J. Immerkær, "Fast Noise Variance Estimation" (Computer Vision and
 * Image Understanding 64, 1996): what a plane with edges leaves nothing of.
 */
export function textureFigures(
  before: LinearPlanes,
  after: LinearPlanes,
  alpha: Float32Array,
  width: number,
  scale: number,
): TextureFigures | undefined {
  const height = alpha.length / width;
  const bounds = boundsOfMatte(alpha, width, height);
  if (!bounds) return undefined;
  const { x0, y0, x1, y1 } = grownBox(bounds, 0.05, width, height);
  const [wide, tall] = [x1 - x0, y1 - y0];
  const at = (k: number) => (y0 + Math.floor(k / wide)) * width + x0 + (k % wide);
  const inside = Float32Array.from({ length: wide * tall }, (_, k) => alpha[at(k)]!);
  const lab = (of: LinearPlanes) => {
    const planes = [
      new Float32Array(wide * tall),
      new Float32Array(wide * tall),
      new Float32Array(wide * tall),
    ] as const;
    for (let k = 0; k < inside.length; k++) {
      if (inside[k] === 0) continue;
      const i = at(k);
      const { L, a, b } = labFromLinear709([of.r[i]!, of.g[i]!, of.b[i]!]);
      planes[0][k] = L;
      planes[1][k] = a;
      planes[2][k] = b;
    }
    return planes;
  };
  const [was, now] = [lab(before), lab(after)];
  const noiseWas = Math.hypot(...was.map((plane) => grainOf(plane, inside, wide, tall) ?? NaN));
  const noiseNow = Math.hypot(...now.map((plane) => grainOf(plane, inside, wide, tall) ?? NaN));
  if (!(noiseWas >= 0) || !(noiseNow >= 0)) return undefined;
  const luminance = (of: LinearPlanes) =>
    planeOf(inside.length, (k) => (inside[k] === 0 ? 0 : luminanceOf([of.r[at(k)]!, of.g[at(k)]!, of.b[at(k)]!])));
  const contrast = (of: LinearPlanes) => contrastOf(luminance(of), inside, wide, tall, NEAR_PX * scale);
  const [contrastWas, contrastNow] = [contrast(before), contrast(after)];
  return {
    localContrast: contrastWas > 0 ? contrastNow / contrastWas : 1,
    highlightTurnBefore: highlightTurn(was, inside),
    highlightTurnAfter: highlightTurn(now, inside),
    noise: noiseWas > 0 ? noiseNow / noiseWas : 1,
  };
}

/** Standard deviation of the grain of a plane where the matte is solid all round; undefined without such pixels. */
function grainOf(plane: Float32Array, alpha: Float32Array, wide: number, tall: number): number | undefined {
  let [sum, n] = [0, 0];
  for (let y = 1; y < tall - 1; y++)
    for (let x = 1; x < wide - 1; x++) {
      const i = y * wide + x;
      if (!isSolid(alpha, i, wide)) continue;
      const cross = plane[i - 1]! + plane[i + 1]! + plane[i - wide]! + plane[i + wide]!;
      const corners = plane[i - wide - 1]! + plane[i - wide + 1]! + plane[i + wide - 1]! + plane[i + wide + 1]!;
      sum += Math.abs(4 * plane[i]! - 2 * cross + corners);
      n++;
    }
  return n === 0 ? undefined : (Math.sqrt(Math.PI / 2) * sum) / (6 * n);
}
function isSolid(alpha: Float32Array, i: number, wide: number): boolean {
  for (let dy = -wide; dy <= wide; dy += wide)
    for (let dx = -1; dx <= 1; dx++) if (alpha[i + dy + dx]! < MEASURED_ALPHA) return false;
  return true;
}

/** Deviation of luminance from the mean of its neighbourhood in the matte, over the mean of all. */
function contrastOf(Y: Float32Array, alpha: Float32Array, wide: number, tall: number, sigma: number): number {
  const near = Y.map((v, i) => v * alpha[i]!);
  const weight = alpha.slice();
  gaussianInPlace(near, wide, tall, sigma);
  gaussianInPlace(weight, wide, tall, sigma);
  let [square, mean, n] = [0, 0, 0];
  for (let i = 0; i < Y.length; i++) {
    if (alpha[i]! < MEASURED_ALPHA) continue;
    square += (Y[i]! - near[i]! / Math.max(weight[i]!, 1e-6)) ** 2;
    mean += Y[i]!;
    n++;
  }
  return n === 0 || mean <= 0 ? 0 : Math.sqrt(square / n) / (mean / n);
}

/** Degrees from the mean hue of all to that of the lightest tenth. */
function highlightTurn([L, a, b]: readonly [Float32Array, Float32Array, Float32Array], alpha: Float32Array): number {
  const taken = Array.from(alpha.keys()).filter((i) => alpha[i]! >= MEASURED_ALPHA);
  const light = [...taken].sort((p, q) => L[q]! - L[p]!).slice(0, Math.max(Math.round(taken.length / 10), 1));
  const hueOf = (index: readonly number[]) => {
    const mean = (plane: Float32Array) => index.reduce((sum, i) => sum + plane[i]!, 0) / Math.max(index.length, 1);
    return lchFromLab({ L: 50, a: mean(a), b: mean(b) }).hDeg;
  };
  return turnDeg(hueOf(taken), hueOf(light));
}
