import type { Geometry, PathPoint } from '../document/geometry.ts';
import { FLEX_NODES, flexAt, type Flex } from '../track/flex.ts';
import type { Quad } from '../track/homography.ts';
import { pathOf, withPointAdded } from './path.ts';

/** A bending of the plane, stated over a region's bounding box; see track/flex. */
export interface Bend {
  flex: Flex;
  quad: Quad;
}

export function bentPoint({ flex, quad }: Bend, x: number, y: number): [x: number, y: number] {
  const [dx, dy] = flexAt(flex, quad, x, y);
  return [x + dx, y + dy];
}
/**
 * The place that the bending carries to (x, y), by fixed-point iteration: a bending that does not fold is a
 * contraction.
 */
export function unbentPoint({ flex, quad }: Bend, x: number, y: number): [x: number, y: number] {
  let [u, v] = [x, y];
  for (let round = 0; round < 12; round++) {
    const [dx, dy] = flexAt(flex, quad, u, v);
    [u, v] = [x - dx, y - dy];
  }
  return [u, v];
}

/** Points and handle ends carried by a map of the plane. */
function mapped(points: readonly PathPoint[], map: (x: number, y: number) => [number, number]): PathPoint[] {
  return points.map((p) => {
    const [x, y] = map(p.x, p.y);
    const handle = (dx: number, dy: number): [number, number] => {
      if (dx === 0 && dy === 0) return [0, 0];
      const [hx, hy] = map(p.x + dx, p.y + dy);
      return [hx - x, hy - y];
    };
    const [[inX, inY], [outX, outY]] = [handle(p.inX, p.inY), handle(p.outX, p.outY)];
    return { ...p, x, y, inX, inY, outX, outY };
  });
}
function withMapped(
  geometry: Geometry,
  points: readonly PathPoint[],
  map: (x: number, y: number) => [number, number],
): Geometry {
  if (geometry.form !== 'gradient') return { form: 'spline', points: mapped(points, map) };
  const [[x0, y0], [x1, y1]] = [map(geometry.x0, geometry.y0), map(geometry.x1, geometry.y1)];
  return { form: 'gradient', x0, y0, x1, y1 };
}

/** Halvings of a path that is to bend: segments no longer than the nodes lie apart, up to 2³ to one. */
const HALVINGS = 3;

/**
 * A geometry as a bent surface carries it; segments are divided first so that they bend too, unless points are kept.
 */
export function flexed(geometry: Geometry, bend: Bend, keepPoints = false): Geometry {
  let points = pathOf(geometry);
  const [a, , c] = bend.quad;
  const apart = Math.max(c[0] - a[0], c[1] - a[1]) / (FLEX_NODES - 1);
  const isLong = (i: number) => {
    const [p, q] = [points[i]!, points[(i + 1) % points.length]!];
    return Math.hypot(q.x - p.x, q.y - p.y) > apart;
  };
  if (!keepPoints)
    for (let k = 0; k < HALVINGS; k++)
      for (let i = points.length - 1; i >= 0; i--) if (isLong(i)) points = withPointAdded(points, i, 0.5);
  return withMapped(geometry, points, (x, y) => bentPoint(bend, x, y));
}
/** The way back, points kept. */
export const unflexed = (geometry: Geometry, bend: Bend): Geometry =>
  withMapped(geometry, pathOf(geometry), (x, y) => unbentPoint(bend, x, y));
