import type { CodePicture } from '@mellow/core';
import type { Outgoing } from '../presets/output.ts';

/** Takes the frames of a shot in their order, and makes files of them. */
export interface FrameSink<Frame> {
  write: (frame: Frame) => Promise<void>;
  /** Waits until everything is on the disk; throws what went wrong. */
  end: () => Promise<void>;
  /** Ends it where it stands; what is half-written may stay behind. */
  stop: () => void;
}
/** α of each piece on a frame, in the order of their names. */
type MatteFrame = readonly Float32Array[];
export type PictureSink = FrameSink<CodePicture>;
export type MatteSink = FrameSink<MatteFrame>;

/** What a sink is for. */
export interface SinkJob {
  media: Outgoing;
  /** The folder it writes into; it is there. */
  folder: string;
  fileName: string;
  /** Names of the pieces, fit for file names and all different. */
  pieces: readonly string[];
}
