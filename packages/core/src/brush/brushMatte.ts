// A painted layer: strokes of a round brush, one after the other, at any size of the picture.
import type { BrushLayer, BrushStroke } from '../document/layer.ts';
import { smoothstep } from '../key/window.ts';
import { cutOut, sharedBox, unitedBox, type PixelBox } from '../matte/bounds.ts';
import { gaussianInPlace } from '../matte/gaussian.ts';

/** An edge is never sharper than a pixel: about what a pixel on the rim is covered. */
const LEAST_EDGE_PX = 1;
/** σ of one passage of the smoothing brush, over its radius. */
const SMOOTHING = 0.25;

/**
 * α of painted strokes, `width × height`, at `scale` times the full resolution, beginning with nothing. A stroke is as
 * one piece: where it crosses itself it is not laid on twice. With coverage c and flow f, *in* makes α + (1 − α) f c of
 * α, *out* α (1 − f c), and *smooth* goes f c of the way to α blurred by a quarter of the brush's radius.
 */
export function brushMatteInto(
  out: Float32Array,
  width: number,
  height: number,
  strokes: readonly BrushStroke[],
  scale: number,
): void {
  out.fill(0);
  for (const stroke of strokes) {
    const box = boxOfStroke(stroke, width, height, scale);
    if (!box) continue;
    const coverage = strokeCoverage(stroke, box, scale);
    const { sign, flow, widthPx } = stroke;
    const smoothed =
      sign === 'smooth' ? blurred(out, width, height, box, (SMOOTHING * widthPx * scale) / 2) : undefined;
    const wide = box.x1 - box.x0;
    for (let y = box.y0; y < box.y1; y++)
      for (let x = box.x0; x < box.x1; x++) {
        const k = (y - box.y0) * wide + x - box.x0;
        const laid = flow * coverage[k]!;
        if (laid === 0) continue;
        const at = y * width + x;
        const alpha = out[at]!;
        if (sign === 'in') out[at] = alpha + (1 - alpha) * laid;
        else if (sign === 'out') out[at] = alpha * (1 - laid);
        else out[at] = alpha + (smoothed![k]! - alpha) * laid;
      }
  }
}

/** How much of what a painted layer lies over gives way to it: what it would be if all that was painted were in. */
export const passedBy = ({ cleanUp: _cleanUp, ...layer }: BrushLayer): BrushLayer => ({
  ...layer,
  invert: false,
  strokes: layer.strokes.filter((s) => s.sign !== 'smooth').map((s) => ({ ...s, sign: 'in' })),
});

/** Outside of it strokes leave everything as it is; undefined where they touch nothing. */
export const boxOfBrush = (
  strokes: readonly BrushStroke[],
  width: number,
  height: number,
  scale: number,
): PixelBox | undefined =>
  strokes.reduce<PixelBox | undefined>((box, stroke) => {
    const own = boxOfStroke(stroke, width, height, scale);
    return box && own ? unitedBox(box, own) : (box ?? own);
  }, undefined);

/** The pixels a stroke can touch; undefined outside the picture. */
function boxOfStroke(
  { points, widthPx }: BrushStroke,
  width: number,
  height: number,
  scale: number,
): PixelBox | undefined {
  const reach = (widthPx * scale) / 2 + LEAST_EDGE_PX;
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const point of points) {
    x0 = Math.min(x0, point[0] * scale - reach);
    x1 = Math.max(x1, point[0] * scale + reach);
    y0 = Math.min(y0, point[1] * scale - reach);
    y1 = Math.max(y1, point[1] * scale + reach);
  }
  return sharedBox(
    { x0: Math.floor(x0), y0: Math.floor(y0), x1: Math.ceil(x1), y1: Math.ceil(y1) },
    { x0: 0, y0: 0, x1: width, y1: height },
  );
}

/** How far a stroke covers each pixel of a box, 0..1; along it the radius goes with the pressure. */
function strokeCoverage({ points, widthPx, softness }: BrushStroke, box: PixelBox, scale: number): Float32Array {
  const out = new Float32Array((box.x1 - box.x0) * (box.y1 - box.y0));
  const radius = (widthPx * scale) / 2;
  points.forEach((p, i) => {
    const q = points[i + 1] ?? (i === 0 ? p : undefined);
    if (!q) return;
    const from = { x: p[0] * scale, y: p[1] * scale, radius: radius * p[2] };
    const to = { x: q[0] * scale, y: q[1] * scale, radius: radius * q[2] };
    coverSegment(out, box, from, to, softness);
  });
  return out;
}

interface Dab {
  x: number;
  y: number;
  radius: number;
}
/** Lays one stretch of a stroke on what is covered already: of two the greater counts. */
function coverSegment(out: Float32Array, box: PixelBox, from: Dab, to: Dab, softness: number): void {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const length2 = dx * dx + dy * dy || 1;
  const reach = Math.max(from.radius, to.radius) + LEAST_EDGE_PX;
  const left = Math.max(Math.floor(Math.min(from.x, to.x) - reach), box.x0);
  const right = Math.min(Math.ceil(Math.max(from.x, to.x) + reach), box.x1);
  const top = Math.max(Math.floor(Math.min(from.y, to.y) - reach), box.y0);
  const bottom = Math.min(Math.ceil(Math.max(from.y, to.y) + reach), box.y1);
  const wide = box.x1 - box.x0;
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++) {
      const px = x + 0.5 - from.x;
      const py = y + 0.5 - from.y;
      const t = Math.min(Math.max((px * dx + py * dy) / length2, 0), 1);
      const distance = Math.hypot(px - t * dx, py - t * dy);
      const radius = from.radius + (to.radius - from.radius) * t;
      const covered = profile(distance, radius, softness);
      const at = (y - box.y0) * wide + x - box.x0;
      if (covered > out[at]!) out[at] = covered;
    }
}

/**
 * What a disc covers at a distance from its middle: all as far as its soft edge begins, nothing from its rim on,
 * smoothly between. A hard edge is as wide as a pixel, half of it past the rim.
 */
function profile(distance: number, radius: number, softness: number): number {
  const soft = radius * softness;
  return smoothstep((radius - soft / 2 - distance) / Math.max(soft, LEAST_EDGE_PX) + 0.5);
}

/** A part of α, blurred with what lies round it. */
function blurred(alpha: Float32Array, width: number, height: number, box: PixelBox, sigma: number): Float32Array {
  const reach = Math.ceil(4 * sigma);
  const around = sharedBox(
    { x0: box.x0 - reach, y0: box.y0 - reach, x1: box.x1 + reach, y1: box.y1 + reach },
    { x0: 0, y0: 0, x1: width, y1: height },
  )!;
  const part = cutOut(alpha, width, around);
  gaussianInPlace(part, around.x1 - around.x0, around.y1 - around.y0, sigma);
  const inner = { x0: box.x0 - around.x0, y0: box.y0 - around.y0, x1: box.x1 - around.x0, y1: box.y1 - around.y0 };
  return cutOut(part, around.x1 - around.x0, inner);
}
