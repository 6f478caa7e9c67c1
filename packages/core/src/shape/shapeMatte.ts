import { smoothstep } from '../key/window.ts';
import { coverageInto } from './coverage.ts';
import { pathOf, polygonFromPath, type Geometry, type Polygon } from './path.ts';
import { pathDistanceInto } from './pathDistance.ts';

/** How α falls from the inner to the outer edge of the feather. */
export const FALLOFFS = ['linear', 'smooth'] as const;
export type Falloff = (typeof FALLOFFS)[number];

export interface Feather {
  /** Widths either side of the path, full-resolution picture pixels, ≥ 0. */
  innerPx: number;
  outerPx: number;
  falloff: Falloff;
}

export interface ShapeMatte {
  geometry: Geometry;
  feather: Feather;
}

interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

/** The pixels a shape can touch: its bounds grown by `reach`, cut to the picture; undefined when that is empty. */
function touchedBox(polygon: Polygon, reach: number, width: number, height: number): Box | undefined {
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

/**
 * α of a shape, `width × height`, at `scale` times the full resolution: 1 from `innerPx` inside the path, 0 from
 * `outerPx` outside it. Without feather it is the exact area coverage; a feather narrower than a pixel blends the two.
 */
export function shapeMatteInto(out: Float32Array, width: number, height: number, { geometry, feather }: ShapeMatte, scale: number): void {
  out.fill(0);
  const path = pathOf(geometry);
  if (path.length < 3) return;
  const polygon = polygonFromPath(path, scale);
  const box = touchedBox(polygon, feather.outerPx * scale + 1, width, height);
  if (!box) return;
  const local = polygon.map((v, i) => v - (i % 2 === 0 ? box.x0 : box.y0));
  const [w, h] = [box.x1 - box.x0, box.y1 - box.y0];
  const alpha = new Float32Array(w * h);
  coverageInto(alpha, w, h, local);
  if (feather.innerPx + feather.outerPx > 0) featherInto(alpha, w, h, local, feather, scale);
  for (let y = 0; y < h; y++) out.set(alpha.subarray(y * w, (y + 1) * w), (y + box.y0) * width + box.x0);
}

/** Turns coverage, in place, into a ramp over the signed distance to the outline. */
function featherInto(alpha: Float32Array, width: number, height: number, polygon: Polygon, feather: Feather, scale: number): void {
  const inner = feather.innerPx * scale;
  const outer = feather.outerPx * scale;
  const total = inner + outer;
  const distance = new Float32Array(alpha.length);
  pathDistanceInto(distance, width, height, polygon, Math.max(inner, outer) + 1);
  // under a pixel wide, a ramp would alias: widen it about its middle to one pixel and blend with the coverage
  const ramp = Math.max(total, 1);
  const outerEdge = outer + (ramp - total) / 2;
  const share = Math.min(total, 1);
  for (let i = 0; i < alpha.length; i++) {
    const covered = alpha[i]!;
    const signed = covered >= 0.5 ? distance[i]! : -distance[i]!;
    const t = Math.min(Math.max((signed + outerEdge) / ramp, 0), 1);
    alpha[i] = covered + ((feather.falloff === 'smooth' ? smoothstep(t) : t) - covered) * share;
  }
}
