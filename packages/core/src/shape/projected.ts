import type { Geometry, PathPoint } from '../document/geometry.ts';
import { jacobianAt, project, type Homography } from '../track/homography.ts';
import { boundsOf, movedGeometry } from './edit.ts';
import { pathOf, withPointAdded } from './path.ts';
import { projectedEllipse } from './projectedEllipse.ts';

/** Under this much change of scale across the shape a cubic stays a cubic to well under a tenth of a pixel. */
const STRAIGHT = 0.004;
/** From this share on two halvings are needed. */
const STRONGLY_BENT = 0.1;

function projectedPoint(h: Homography, p: PathPoint): PathPoint {
  const [x, y] = project(h, p.x, p.y);
  const [a, b, c, d] = jacobianAt(h, p.x, p.y);
  return {
    ...p,
    x,
    y,
    inX: a * p.inX + b * p.inY,
    inY: c * p.inX + d * p.inY,
    outX: a * p.outX + b * p.outY,
    outY: c * p.outX + d * p.outY,
  };
}

/**
 * A geometry as a projective map shows it. An affine map is exact and keeps its points; under perspective a cubic
 * becomes rational, so segments are halved first (with `keepPoints` they are not: for handles that are to be edited).
 * An ellipse stays one; a rectangle that does not comes back as a spline.
 */
export function projectedGeometry(geometry: Geometry, h: Homography, keepPoints = false): Geometry {
  const seen = projectedPath(geometry, h, keepPoints);
  return geometry.form === 'ellipse' && seen.form === 'spline' ? (projectedEllipse(geometry, h) ?? seen) : seen;
}
function projectedPath(geometry: Geometry, h: Homography, keepPoints: boolean): Geometry {
  const affine = Math.abs(h[6]) < 1e-12 && Math.abs(h[7]) < 1e-12;
  if (affine) return movedGeometry(geometry, { a: h[0], c: h[1], e: h[2], b: h[3], d: h[4], f: h[5] });
  if (geometry.form === 'gradient') {
    const [[x0, y0], [x1, y1]] = [project(h, geometry.x0, geometry.y0), project(h, geometry.x1, geometry.y1)];
    return { form: 'gradient', x0, y0, x1, y1 };
  }
  let points = pathOf(geometry);
  if (!keepPoints) {
    const { x0, y0, x1, y1 } = boundsOf(geometry);
    const bend = Math.abs(h[6]) * (x1 - x0) + Math.abs(h[7]) * (y1 - y0);
    const halvings = [STRAIGHT, STRONGLY_BENT].filter((limit) => bend >= limit).length;
    for (let k = 0; k < halvings; k++)
      for (let i = points.length - 1; i >= 0; i--) if (isCurved(points, i)) points = withPointAdded(points, i, 0.5);
  }
  return { form: 'spline', points: points.map((p) => projectedPoint(h, p)) };
}
function isCurved(points: readonly PathPoint[], i: number): boolean {
  const [p, q] = [points[i]!, points[(i + 1) % points.length]!];
  return p.outX !== 0 || p.outY !== 0 || q.inX !== 0 || q.inY !== 0;
}
