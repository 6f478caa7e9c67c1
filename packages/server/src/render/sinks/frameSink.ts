import type { ReadBack } from '@mellow/contract';
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
export type MatteFrame = readonly Float32Array[];
/** A rendered frame, and where it is asked for what any piece selects on it. */
export interface RenderedPicture extends CodePicture {
  alpha?: Float32Array;
}
/** Makes files that are read back. */
interface ReadSink<Frame> extends FrameSink<Frame> {
  /** Reads what was written, once it has ended; throws where it is not what was given. */
  readBack: (signal: AbortSignal) => Promise<ReadBack>;
}
export type PictureSink = ReadSink<RenderedPicture>;
export type MatteSink = ReadSink<MatteFrame>;

/** What a sink is for. */
export interface SinkJob {
  media: Outgoing;
  /** The folder it writes into; it is there. */
  folder: string;
  fileName: string;
  /** Names of the pieces, fit for file names and all different. */
  pieces: readonly string[];
}
