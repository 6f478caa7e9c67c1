import { z } from 'zod';
import { FrameNumber } from './animation.ts';
import { ProjectId, RunId, ShotId, TrackId } from './ids.ts';
import { Freedom, Geometry, PathKeyframes } from './layer.ts';

const coordinate = z.number().min(-100_000).max(100_000);
const corner = z.tuple([coordinate, coordinate]);
/** Corners of the region's bounding box, in its order: top left, top right, bottom right, bottom left. */
export const Corners = z.tuple([corner, corner, corner, corner]);
export type Corners = z.infer<typeof Corners>;
/** What a track must not look at: an occluder. */
export const HoldOut = z.object({
  id: z.uuid(),
  name: z.string().min(1).max(120),
  on: z.boolean(),
  geometry: Geometry,
  paths: PathKeyframes.optional(),
});
export type HoldOut = z.infer<typeof HoldOut>;
/**
 * One pass of the tracker from a frame to another (backward when `to` lies before `from`). Its frames are stored apart;
 * only those within `first`..`last` count, so that bad ones can be binned and brought back.
 */
export const TrackRun = z.object({
  id: RunId,
  from: FrameNumber,
  to: FrameNumber,
  first: FrameNumber,
  last: FrameNumber,
});
export type TrackRun = z.infer<typeof TrackRun>;

/** The motion of a region through a shot. Later runs count before earlier ones, keyframes set by hand before all. */
export const Track = z.object({
  id: TrackId,
  projectId: ProjectId,
  shotId: ShotId,
  name: z.string().trim().min(1).max(120),
  /** The frame the region was drawn on: motions are stated from here. */
  referenceFrame: FrameNumber,
  region: Geometry,
  freedom: Freedom.refine((f) => f.move || f.turn || f.scale || f.shear || f.perspective, {
    message: 'a track must be allowed at least one kind of motion',
  }),
  holdOuts: z.array(HoldOut).max(20),
  manual: z.array(z.object({ frame: FrameNumber, corners: Corners })).max(5000),
  runs: z.array(TrackRun).max(2000),
});
export type Track = z.infer<typeof Track>;

export const LossReason = z.enum(['left the picture', 'covered', 'no texture']);
export type LossReason = z.infer<typeof LossReason>;
const motion = z.tuple([
  z.number(),
  z.number(),
  z.number(),
  z.number(),
  z.number(),
  z.number(),
  z.number(),
  z.number(),
  z.number(),
]);
/** Displacements dx, dy of 13 × 13 nodes over the region's bounding box, row by row; see core/track/flex. */
const flex = z.array(z.number()).length(2 * 13 * 13);
/** `motion`: 3×3 map, row by row, from the reference frame's pixels to this frame's. */
export const TrackedFrame = z.object({
  frame: FrameNumber,
  motion,
  confidence: z.number().min(0).max(1),
  flex: flex.optional(),
});
export type TrackedFrame = z.infer<typeof TrackedFrame>;
/** What a run has found so far, and where and why it stopped by itself. */
export const RunResult = z.object({
  runId: RunId,
  frames: z.array(TrackedFrame),
  stopped: z.object({ frame: FrameNumber, reason: LossReason }).nullable(),
});
export type RunResult = z.infer<typeof RunResult>;
/** Frames to go over, in order: from one to another, not the first itself (it is known, or the reference). */
export const TrackRequest = z.object({
  trackId: TrackId,
  spans: z
    .array(z.object({ from: FrameNumber, to: FrameNumber }))
    .min(1)
    .max(2),
});
export type TrackRequest = z.infer<typeof TrackRequest>;
