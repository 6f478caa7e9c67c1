// The motion of a region through a shot, as it is stored and edited.
import type { Keyframe } from './animation.ts';
import type { Geometry } from './geometry.ts';
import type { Freedom } from './motion.ts';

/** Corners of a region's bounding box, in its order: top left, top right, bottom right, bottom left. */
export type Corners = [[number, number], [number, number], [number, number], [number, number]];

/** What a track must not look at: an occluder. */
export interface HoldOut {
  id: string;
  name: string;
  on: boolean;
  geometry: Geometry;
  paths?: Keyframe<Geometry>[] | undefined;
}

/**
 * One pass of the tracker; only its frames within `first`..`last` count, so that bad ones can be binned and brought
 * back.
 */
export interface TrackRun {
  id: string;
  from: number;
  to: number;
  first: number;
  last: number;
}

/** A region, the passes of the tracker in the order they were made, and keyframes set by hand over them. */
export interface TrackNumbers {
  /** The frame the region was drawn on: motions are stated from here. */
  referenceFrame: number;
  region: Geometry;
  freedom: Freedom;
  holdOuts: HoldOut[];
  runs: TrackRun[];
  manual: { frame: number; corners: Corners }[];
}

/** What a track's motion is made of. */
export type StoredTrack = Pick<TrackNumbers, 'referenceFrame' | 'region' | 'manual'> & {
  runs: readonly Pick<TrackRun, 'id' | 'first' | 'last'>[];
};
