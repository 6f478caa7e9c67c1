import type { Layer, ShapeLayer } from '../matte/stack.ts';
import type { Geometry, PathPoint } from '../shape/path.ts';
import { bentPoint, flexed, unbentPoint, unflexed, type Bend } from '../shape/flexed.ts';
import { placementMap } from '../shape/placement.ts';
import { projectedGeometry } from '../shape/projected.ts';
import { after, inverted, project, STILL, type Homography, type Point } from '../track/homography.ts';
import { bendAt, motionAt, partOfMotion, type TrackMotion } from '../track/trackMotion.ts';
import type { Freedom } from '../track/motionModel.ts';
import { vectorAt, type Keyframe } from './keyframes.ts';
import { numbersAt } from './numbers.ts';
import { strokePlace, strokeThere } from './strokesAt.ts';

/** Which track a layer rides on, and which parts of its motion it takes. */
export interface Follow extends Freedom {
  trackId: string;
}
/** The tracks of a shot, by id. */
export type Motions = ReadonlyMap<string, TrackMotion>;

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

/** From where a layer's own path is stated to the picture: placed, bent with the surface it follows, carried along with it. */
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
/** The motion and bending a follower takes on a frame; it stays still when it follows nothing, or a track that is gone. */
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
/** A geometry carried to its place; with `keepPoints` it has the same points there, for handles that are to be edited. */
export function carriedThere(geometry: Geometry, { placed, bend, followed }: Place, keepPoints = false): Geometry {
  if (!bend) {
    const map = followed === STILL ? placed : after(followed, placed);
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
  if (!bend) return projectedGeometry(geometry, inverted(after(followed, placed)), true);
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

/** A layer's path on a frame before it is placed: in its own frame, where its keyframes live. */
export const ownGeometryAt = (layer: Pick<ShapeLayer, 'geometry' | 'paths' | 'animated'>, frame: number): Geometry => {
  const base = layer.paths?.length ? geometryAt(layer.paths, frame) : layer.geometry;
  return numbersAt({ geometry: base }, layer.animated, frame).geometry;
};

/** A layer as its controls show it on a frame: numbers and own path of that frame; placement, follow and keyframes as stored. */
export function shownLayerAt<L extends Layer>(layer: L, frame: number): L {
  const now = numbersAt(layer, layer.animated, frame);
  return layer.kind === 'shape' ? { ...now, geometry: ownGeometryAt(layer, frame) } : now;
}

/** A layer as it is on a frame: numbers, path, placement and followed motion resolved; off outside its span of frames. */
export function layerAt(layer: Layer, frame: number, motions: Motions): Layer {
  const on = layer.on && !(layer.span && (frame < layer.span.from || frame > layer.span.to));
  const isStill =
    !layer.animated &&
    !layer.span &&
    !(layer.kind === 'shape' && (layer.paths || layer.placement || layer.follow)) &&
    !(layer.kind === 'scribble' && layer.follow) &&
    layer.kind !== 'group';
  if (isStill) return layer;
  const { animated, span: _span, ...rest } = layer;
  const now = { ...numbersAt(rest as Layer, animated, frame), on };
  if (now.kind === 'group') return { ...now, layers: now.layers.map((l) => layerAt(l, frame, motions)) };
  if (now.kind === 'scribble') {
    const { follow, ...scribble } = now;
    const place = strokePlace(follow, frame, motions);
    return { ...scribble, strokes: scribble.strokes.map((s) => strokeThere(s, place)) };
  }
  if (now.kind !== 'shape' || layer.kind !== 'shape') return now;
  const { paths: _paths, placement: _placement, follow: _follow, ...shape } = now;
  return { ...shape, geometry: carriedThere(ownGeometryAt(layer, frame), placeOf(layer, frame, motions)) };
}

/** Does anything in the stack depend on the frame number by itself (not only through the picture)? */
export const isAnimated = (layer: Layer): boolean =>
  Boolean(
    layer.animated ||
    layer.span ||
    (layer.kind === 'shape' && (layer.paths || layer.follow || layer.placement)) ||
    (layer.kind === 'scribble' && layer.follow) ||
    (layer.kind === 'group' && layer.layers.some(isAnimated)),
  );
