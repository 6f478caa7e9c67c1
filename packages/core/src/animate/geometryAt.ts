// A path that moves from keyframe to keyframe as a whole.
import { vectorAt } from './keyframes.ts';
import type { Keyframe } from '../document/animation.ts';
import type { Geometry, PathPoint } from '../document/geometry.ts';

const POINT_NUMBERS = ['x', 'y', 'inX', 'inY', 'outX', 'outY'] as const;
/** The numbers of a geometry in a fixed order, for interpolating. */
export function numbersOfGeometry(geometry: Geometry): number[] {
  if (geometry.form === 'spline')
    return geometry.points.flatMap((p) => [...POINT_NUMBERS.map((k) => p[k]), p.feather ?? 1]);
  if (geometry.form === 'gradient') return [geometry.x0, geometry.y0, geometry.x1, geometry.y1];
  return [geometry.cx, geometry.cy, geometry.width, geometry.height, geometry.turnDeg];
}
/** A geometry of the same form with other numbers. */
export function geometryWith(like: Geometry, n: readonly number[]): Geometry {
  if (like.form === 'spline')
    return {
      form: 'spline',
      points: like.points.map((p, i): PathPoint => {
        const at = (k: number) => n[i * 7 + k]!;
        return {
          x: at(0),
          y: at(1),
          inX: at(2),
          inY: at(3),
          outX: at(4),
          outY: at(5),
          ...(at(6) !== 1 || p.feather !== undefined ? { feather: at(6) } : {}),
        };
      }),
    };
  if (like.form === 'gradient') return { form: 'gradient', x0: n[0]!, y0: n[1]!, x1: n[2]!, y1: n[3]! };
  return { form: like.form, cx: n[0]!, cy: n[1]!, width: n[2]!, height: n[3]!, turnDeg: n[4]! };
}

/** The path on a frame, from its keyframes; all of them have the same form and as many points. */
export function geometryAt(keys: readonly Keyframe<Geometry>[], frame: number): Geometry {
  return geometryWith(
    keys[0]!.value,
    vectorAt(
      keys.map((k) => ({ ...k, value: numbersOfGeometry(k.value) })),
      frame,
    ),
  );
}
