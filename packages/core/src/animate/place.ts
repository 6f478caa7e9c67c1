// Where a layer is carried to on a frame: placed, bent with the surface it follows, moved along with it.
import { numbersAt } from './numbers.ts';
import type { Geometry } from '../document/geometry.ts';
import type { ShapeLayer } from '../document/layer.ts';
import type { Follow } from '../document/motion.ts';
import { type Bend, bentPoint, flexed, unbentPoint, unflexed } from '../shape/flexed.ts';
import { placementMap } from '../shape/placement.ts';
import { projectedGeometry } from '../shape/projected.ts';
import { compose, type Homography, inverted, type Point, project, STILL } from '../track/homography.ts';
import { bendAt, motionAt, partOfMotion, type TrackMotion } from '../track/trackMotion.ts';

/** The tracks of a shot, by id. */
export type Motions = ReadonlyMap<string, TrackMotion>;

/**
 * From where a layer's own path is stated to the picture: placed, bent with the surface it follows, carried along with
 * it.
 */
export interface Place {
  placed: Homography;
  bend: Bend | undefined;
  followed: Homography;
}
export function placeOf(
  layer: Pick<ShapeLayer, 'placement' | 'animated' | 'follow'>,
  frame: number,
  motions: Motions,
): Place {
  const { placement } = numbersAt({ placement: layer.placement }, layer.animated, frame);
  return { placed: placement ? placementMap(placement) : STILL, ...followedAt(layer.follow, frame, motions) };
}
/**
 * The motion and bending a follower takes on a frame; it stays still when it follows nothing, or a track that is gone.
 */
export function followedAt(
  follow: Follow | undefined,
  frame: number,
  motions: Motions,
): Pick<Place, 'bend' | 'followed'> {
  const track = follow && motions.get(follow.trackId);
  if (!track) return { bend: undefined, followed: STILL };
  const flex = follow.flex ? bendAt(track, frame) : undefined;
  return {
    bend: flex && { flex, quad: track.quad },
    followed: partOfMotion(motionAt(track, frame).motion, track.quad, follow),
  };
}
/**
 * A geometry carried to its place; with `keepPoints` it has the same points there, for handles that are to be edited.
 */
export function carriedThere(geometry: Geometry, { placed, bend, followed }: Place, keepPoints = false): Geometry {
  if (!bend) {
    const map = followed === STILL ? placed : compose(followed, placed);
    return map === STILL ? geometry : projectedGeometry(geometry, map, keepPoints);
  }
  return projectedGeometry(
    flexed(projectedGeometry(geometry, placed, keepPoints), bend, keepPoints),
    followed,
    keepPoints,
  );
}
/** The way back from the picture, points kept. */
export function carriedBack(geometry: Geometry, { placed, bend, followed }: Place): Geometry {
  if (!bend) return projectedGeometry(geometry, inverted(compose(followed, placed)), true);
  return projectedGeometry(
    unflexed(projectedGeometry(geometry, inverted(followed), true), bend),
    inverted(placed),
    true,
  );
}
/** Where a place of one frame lies on another, for what follows a track. */
export function followedPoint(
  follow: Follow | undefined,
  from: number,
  to: number,
  motions: Motions,
  x: number,
  y: number,
): Point {
  const [there, here] = [followedAt(follow, from, motions), followedAt(follow, to, motions)];
  const own = project(inverted(there.followed), x, y);
  const [u, v] = there.bend ? unbentPoint(there.bend, own[0], own[1]) : own;
  const [bx, by] = here.bend ? bentPoint(here.bend, u, v) : [u, v];
  return project(here.followed, bx, by);
}
