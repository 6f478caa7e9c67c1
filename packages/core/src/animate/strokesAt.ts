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

/** What a stroke rides on: its own track, nothing, or what its layer does. */
export const followOf = ({ follow }: Pick<Stroke, 'follow'>, ofLayer: Follow | undefined): Follow | undefined =>
  follow === undefined ? ofLayer : (follow ?? undefined);
/** A stroke of a scribble as it lies on a frame, and the way back to where it is stored. */
export function strokeOn(stroke: Stroke, ofLayer: Follow | undefined, frame: number, motions: Motions): Stroke {
  return strokeThere(stroke, strokePlace(followOf(stroke, ofLayer), frame, motions));
}
export function strokeFrom(stroke: Stroke, ofLayer: Follow | undefined, frame: number, motions: Motions): Stroke {
  return strokeBack(stroke, strokePlace(followOf(stroke, ofLayer), frame, motions));
}

/** Of a stroke, what a motion takes along: the first two numbers of a point are its place. */
interface Carried {
  points: [x: number, y: number, ...more: number[]][];
  widthPx: number;
}
type Spot = readonly [x: number, y: number];
const moved = <S extends Carried>(stroke: S, growth: number, to: (x: number, y: number) => Spot): S => ({
  ...stroke,
  points: stroke.points.map(([x, y, ...more]) => [...to(x, y), ...more]),
  widthPx: stroke.widthPx * growth,
});

/** A stroke carried to its place on the picture, its width with it. */
export function strokeThere<S extends Carried>(stroke: S, { bend, followed }: Place): S {
  if (followed === STILL && !bend) return stroke;
  return moved(stroke, growthAt(followed, stroke.points), (x, y) =>
    project(followed, ...(bend ? bentPoint(bend, x, y) : ([x, y] as const))),
  );
}
/** The way back from the picture. */
export function strokeBack<S extends Carried>(stroke: S, { bend, followed }: Place): S {
  if (followed === STILL && !bend) return stroke;
  const back = inverted(followed);
  return moved(stroke, growthAt(back, stroke.points), (x, y) => {
    const [u, v] = project(back, x, y);
    return bend ? unbentPoint(bend, u, v) : [u, v];
  });
}
/** How much larger a motion makes things at the middle of a stroke. */
function growthAt(motion: Place['followed'], points: Carried['points']): number {
  const [x, y] = points[points.length >> 1] ?? [0, 0];
  const [a, b, c, d] = jacobianAt(motion, x, y);
  return Math.sqrt(Math.abs(a * d - b * c));
}
