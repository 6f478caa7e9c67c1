import type { ReadBack } from '@mellow/contract';
import type { Turn } from '../../media/turns.ts';
import type { Outgoing } from '../presets/output.ts';
import type { PackedFrame } from './packed.ts';

/** Takes the frames of a shot in their order, and makes files of them, which are read back. */
export interface FrameSink {
  /** Of a frame what it was packed to, as the preset says. */
  write: (frame: PackedFrame) => Promise<void>;
  /** Waits until everything is on the disk; throws what went wrong. */
  end: () => Promise<void>;
  /** Ends it where it stands; what is half-written may stay behind. */
  stop: () => void;
  /** Reads what was written, once it has ended; throws where it is not what was given. */
  readBack: (signal: AbortSignal) => Promise<ReadBack>;
}

/** What a sink is for. */
export interface SinkJob {
  media: Outgoing;
  /** The folder it writes into; it is there. */
  folder: string;
  fileName: string;
  /** Names of the pieces, fit for file names and all different. */
  pieces: readonly string[];
  /** The hash of the planes that a TIFF of floats was made of. */
  hashOfTiff: (path: string) => Promise<string>;
  /** For its one encoder, with whose end it is given back. */
  turn: Turn;
}
