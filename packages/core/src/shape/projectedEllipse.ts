import type { Geometry } from '../document/geometry.ts';
import type { Homography } from '../track/homography.ts';
import { jacobianAt } from '../track/homography.ts';

export type Ellipse = Extract<Geometry, { form: 'ellipse' }>;
const RAD = Math.PI / 180;
/** Axes that differ by less than this share have no direction of their own. */
const ROUND = 1e-9;

/**
 * An ellipse as a projective map shows it: an ellipse again, as long as none of it goes through the horizon (undefined
 * where some does). By its dual conic, C* → H C* Hᵀ (Hartley, Zisserman, Multiple View Geometry in Computer Vision, 2nd
 * ed. 2004, result 2.14). Its width stays the axis that lies nearest to where its own has gone.
 */
export function projectedEllipse({ cx, cy, width, height, turnDeg }: Ellipse, h: Homography): Ellipse | undefined {
  const [cos, sin] = [Math.cos(turnDeg * RAD), Math.sin(turnDeg * RAD)];
  const [a, b] = [width / 2, height / 2];
  // the columns of the map from the unit circle to the ellipse, sent through h
  const through = (x: number, y: number, w: number) =>
    [0, 3, 6].map((row) => h[row]! * x + h[row + 1]! * y + h[row + 2]! * w) as [number, number, number];
  const [u, v, c] = [through(a * cos, a * sin, 0), through(-b * sin, b * cos, 0), through(cx, cy, 1)];
  const dual = (i: number, j: number) => u[i]! * u[j]! + v[i]! * v[j]! - c[i]! * c[j]!;
  const scale = -dual(2, 2);
  // the horizon meets it
  if (scale <= 0) return undefined;
  const [x, y] = [-dual(0, 2) / scale, -dual(1, 2) / scale];
  const [xx, xy, yy] = [dual(0, 0) / scale + x * x, dual(0, 1) / scale + x * y, dual(1, 1) / scale + y * y];
  const [mean, half] = [(xx + yy) / 2, Math.hypot((xx - yy) / 2, xy)];
  if (mean - half <= 0) return undefined;
  const [j0, j1, j2, j3] = jacobianAt(h, cx, cy);
  const gone = Math.atan2(j2 * cos + j3 * sin, j0 * cos + j1 * sin);
  const longAxis = half < ROUND * mean ? gone : Math.atan2(2 * xy, xx - yy) / 2;
  const isWidthLong = Math.abs(Math.cos(longAxis - gone)) >= Math.SQRT1_2;
  const [long, short] = [2 * Math.sqrt(mean + half), 2 * Math.sqrt(mean - half)];
  const axis = isWidthLong ? longAxis : longAxis + Math.PI / 2;
  // of the axis's two directions the one its own has gone to
  const direction = Math.cos(axis - gone) < 0 ? axis + Math.PI : axis;
  const turn = Math.atan2(Math.sin(direction), Math.cos(direction)) / RAD;
  const [w, hgt] = isWidthLong ? [long, short] : [short, long];
  return { form: 'ellipse', cx: x, cy: y, width: w, height: hgt, turnDeg: turn };
}
