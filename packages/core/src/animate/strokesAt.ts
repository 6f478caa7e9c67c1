import type { Stroke } from '../document/layer.ts';
import type { Follow } from '../document/motion.ts';
import { bentPoint, unbentPoint } from '../shape/flexed.ts';
import { inverted, jacobianAt, project, STILL } from '../track/homography.ts';
import { followedAt, type Motions, type Place } from './place.ts';

/** Where a layer that rides on a track is carried to on a frame; strokes have no placement of their own. */
export const strokePlace = (follow: Follow | undefined, frame: number, motions: Motions): Place => ({
  placed: STILL,
  ...followedAt(follow, frame, motions),
});

/** A stroke carried to its place on the picture, its width with it. */
export function strokeThere(stroke: Stroke, { bend, followed }: Place): Stroke {
  if (followed === STILL && !bend) return stroke;
  const points = stroke.points.map(([x, y]): [number, number] => {
    const [u, v] = bend ? bentPoint(bend, x, y) : [x, y];
    const [px, py] = project(followed, u, v);
    return [px, py];
  });
  return { ...stroke, points, widthPx: stroke.widthPx * growthAt(followed, stroke.points) };
}
/** The way back from the picture. */
export function strokeBack(stroke: Stroke, { bend, followed }: Place): Stroke {
  if (followed === STILL && !bend) return stroke;
  const back = inverted(followed);
  const points = stroke.points.map(([x, y]): [number, number] => {
    const [u, v] = project(back, x, y);
    return bend ? unbentPoint(bend, u, v) : [u, v];
  });
  return { ...stroke, points, widthPx: stroke.widthPx * growthAt(back, stroke.points) };
}
/** How much larger a motion makes things at the middle of a stroke. */
function growthAt(motion: Place['followed'], points: Stroke['points']): number {
  const [x, y] = points[points.length >> 1] ?? [0, 0];
  const [a, b, c, d] = jacobianAt(motion, x, y);
  return Math.sqrt(Math.abs(a * d - b * c));
}
