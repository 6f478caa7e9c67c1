import type { Falloff, Feather, Geometry, ShapeMatte } from '../document/geometry.ts';
import { smoothstep } from '../key/window.ts';
import type { PixelBox } from '../matte/bounds.ts';
import { coverageInto } from './coverage.ts';
import { featheredPolygon, pathOf, type Polygon } from './path.ts';
import { pathDistanceInto, pixelsNear } from './pathDistance.ts';

export const FALLOFFS = ['linear', 'smooth'] as const satisfies readonly Falloff[];

/** The pixels a shape can touch: its bounds grown by `reach`, cut to the picture; undefined when that is empty. */
function touchedBox(polygon: Polygon, reach: number, width: number, height: number): PixelBox | undefined {
  let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let i = 0; i < polygon.length; i += 2) {
    x0 = Math.min(x0, polygon[i]!);
    x1 = Math.max(x1, polygon[i]!);
    y0 = Math.min(y0, polygon[i + 1]!);
    y1 = Math.max(y1, polygon[i + 1]!);
  }
  const box = {
    x0: Math.max(Math.floor(x0 - reach), 0),
    y0: Math.max(Math.floor(y0 - reach), 0),
    x1: Math.min(Math.ceil(x1 + reach), width),
    y1: Math.min(Math.ceil(y1 + reach), height),
  };
  return box.x0 < box.x1 && box.y0 < box.y1 ? box : undefined;
}

/** Outside of it α of a shape is 0; undefined where it is 0 everywhere, `whole` where it may lie anywhere. */
export function boxOfShape(
  { geometry, feather }: ShapeMatte,
  width: number,
  height: number,
  scale: number,
): PixelBox | undefined | 'whole' {
  if (geometry.form === 'gradient') return 'whole';
  const path = pathOf(geometry);
  if (path.length < 3) return undefined;
  const { polygon, weights } = featheredPolygon(path, scale);
  return touchedBox(polygon, reachOf(feather, weights, scale), width, height);
}
const reachOf = ({ outerPx }: Feather, weights: Float64Array | undefined, scale: number): number =>
  outerPx * (weights ? Math.max(...weights) : 1) * scale + 1;

/**
 * α of a shape, `width × height`, at `scale` times the full resolution: 1 from `innerPx` inside the path, 0 from
 * `outerPx` outside it. Without feather it is the exact area coverage; a feather narrower than a pixel blends the two.
 * `out` is all 0 before.
 */
export function shapeMatteInto(
  out: Float32Array,
  width: number,
  height: number,
  { geometry, feather }: ShapeMatte,
  scale: number,
): void {
  if (geometry.form === 'gradient') return gradientInto(out, width, height, geometry, feather.falloff, scale);
  const path = pathOf(geometry);
  if (path.length < 3) return;
  const { polygon, weights } = featheredPolygon(path, scale);
  const widest = weights ? Math.max(...weights) : 1;
  const box = touchedBox(polygon, reachOf(feather, weights, scale), width, height);
  if (!box) return;
  const local = polygon.map((v, i) => v - (i % 2 === 0 ? box.x0 : box.y0));
  const [w, h] = [box.x1 - box.x0, box.y1 - box.y0];
  const alpha = new Float32Array(w * h);
  coverageInto(alpha, w, h, local);
  if (feather.innerPx + feather.outerPx > 0) featherInto(alpha, w, h, local, weights, widest, feather, scale);
  for (let y = 0; y < h; y++) out.set(alpha.subarray(y * w, (y + 1) * w), (y + box.y0) * width + box.x0);
}

/**
 * A ramp along a line: 1 at and before its first place, 0 at and past its second. Places that coincide make a hard edge
 * across nothing: all 1.
 */
function gradientInto(
  out: Float32Array,
  width: number,
  height: number,
  line: Extract<Geometry, { form: 'gradient' }>,
  falloff: Falloff,
  scale: number,
): void {
  const [dx, dy] = [(line.x1 - line.x0) * scale, (line.y1 - line.y0) * scale];
  const squared = dx * dx + dy * dy;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const along = squared === 0 ? 0 : ((x + 0.5 - line.x0 * scale) * dx + (y + 0.5 - line.y0 * scale) * dy) / squared;
      const t = Math.min(Math.max(1 - along, 0), 1);
      out[y * width + x] = falloff === 'smooth' ? smoothstep(t) : t;
    }
}

/** Turns coverage, in place, into a ramp over the signed distance to the outline. */
function featherInto(
  alpha: Float32Array,
  width: number,
  height: number,
  polygon: Polygon,
  weights: Float64Array | undefined,
  widest: number,
  feather: Feather,
  scale: number,
): void {
  const reach = Math.max(feather.innerPx, feather.outerPx) * widest * scale + 1;
  const near = pixelsNear(width, height, polygon, reach, weights);
  if (near) {
    const { index, distance, weight } = near;
    for (let k = 0; k < index.length; k++) {
      const i = index[k]!;
      alpha[i] = feathered(alpha[i]!, distance[k]!, feather, weight ? scale * weight[k]! : scale);
    }
    return;
  }
  const distance = new Float32Array(alpha.length);
  const weight = weights && new Float32Array(alpha.length);
  pathDistanceInto(distance, width, height, polygon, reach, weights, weight);
  for (let i = 0; i < alpha.length; i++)
    alpha[i] = feathered(alpha[i]!, distance[i]!, feather, weight ? scale * weight[i]! : scale);
}

/** α of a pixel so much of which is covered, so far from the outline, pixels of this size. */
function feathered(covered: number, distance: number, { innerPx, outerPx, falloff }: Feather, scale: number): number {
  const inner = innerPx * scale;
  const outer = outerPx * scale;
  const total = inner + outer;
  // under a pixel wide, a ramp would alias: widen it about its middle to one pixel and blend with the coverage
  const ramp = Math.max(total, 1);
  const outerEdge = outer + (ramp - total) / 2;
  const signed = covered >= 0.5 ? distance : -distance;
  const t = Math.min(Math.max((signed + outerEdge) / ramp, 0), 1);
  return covered + ((falloff === 'smooth' ? smoothstep(t) : t) - covered) * Math.min(total, 1);
}
