import type { CodePicture } from '@mellow/core';
import { FrameMemory } from '../media/frameMemory.ts';
import type { ShotFile } from './shotFile.ts';
import type { PackedFrame } from './sinks/packed.ts';

interface Frame {
  /** Decoded into the memory for it. */
  codes: CodePicture;
  /** The files it goes to, and what it becomes in each. */
  of: readonly Pick<ShotFile, 'write'>[];
  made: Promise<readonly PackedFrame[]>;
}

/**
 * The frames of a render that are being made while those before them are written, and the memory that they are decoded
 * into, which the next are decoded into when nothing looks into it any more.
 */
export class FramesInFlight {
  readonly decodedInto = new FrameMemory();
  readonly #frames: Frame[] = [];
  /** Those whose memory is in use still. */
  readonly #decoded: ArrayBufferLike[] = [];
  readonly #most: number;
  readonly #reach: number;
  #written = 0;

  /** `most`: so many at once; `reach`: so many frames before and after it a frame may be steadied by. */
  constructor(most: number, reach: number) {
    this.#most = most;
    this.#reach = reach;
  }
  /** The next frame; waits until the oldest is written where there are too many. Throws what one failed of. */
  async add(frame: Frame): Promise<void> {
    this.#frames.push(frame);
    this.#decoded.push(frame.codes.r.buffer);
    if (this.#frames.length > this.#most) await this.#write();
  }
  /** Waits until all are written. */
  async end(): Promise<void> {
    while (this.#frames.length > 0) await this.#write();
  }
  async #write(): Promise<void> {
    const { of, made } = this.#frames.shift()!;
    const packed = await made;
    await Promise.all(of.map((file, i) => file.write(packed[i]!)));
    // those after it may be steadied by it as far as they reach
    if (++this.#written > this.#reach) this.decodedInto.giveBack(this.#decoded.shift()!);
  }
}
