import { LRUCache } from 'lru-cache';
import type { CodePicture } from '@mellow/core';

interface Kept {
  /** The first of them, in order. */
  frames: readonly CodePicture[];
  bytes: number;
}
const bytesOf = ({ r, g, b }: CodePicture): number => r.byteLength + g.byteLength + b.byteLength;

/**
 * Decoded frames that will soon be wanted again: after each edit a piece is measured anew on the same ones, and to
 * decode them takes longer than to measure. Those that were not wanted for the longest are let go first.
 */
export class KeptFrames {
  readonly #most: number;
  /** By what was decoded. */
  readonly #kept: LRUCache<string, Kept>;

  /** `mostBytes`: so much is kept. */
  constructor(mostBytes: number) {
    this.#most = mostBytes;
    this.#kept = new LRUCache({ maxSize: mostBytes, sizeCalculation: ({ bytes }) => Math.max(bytes, 1) });
  }

  /**
   * So many frames in order, decoded as far as they are not kept. `what`: all that they depend on; `decode`: gives them
   * from one on, 0 being the first. They may be handed out again: nobody is to write to them, nor to move their memory.
   */
  async *frames(
    what: string,
    count: number,
    decode: (from: number) => AsyncIterable<CodePicture>,
  ): AsyncGenerator<CodePicture> {
    const known = this.#kept.get(what) ?? { frames: [], bytes: 0 };
    const frames = [...known.frames];
    let { bytes } = known;
    let isRoom = true;
    try {
      yield* frames.slice(0, count);
      if (frames.length >= count) return;
      for await (const frame of decode(frames.length)) {
        isRoom &&= bytes + bytesOf(frame) <= this.#most;
        if (isRoom) {
          frames.push(frame);
          bytes += bytesOf(frame);
        }
        yield frame;
      }
    } finally {
      // whoever wants no more of them leaves those that there are
      this.#keep(what, { frames, bytes });
    }
  }
  /** Lets go of all: others need the memory. */
  clear(): void {
    this.#kept.clear();
  }
  #keep(what: string, found: Kept): void {
    // another may have come further meanwhile
    const before = this.#kept.peek(what);
    if (!before || before.frames.length <= found.frames.length) this.#kept.set(what, found);
  }
}

/** Those that pieces are measured on: some 165 of 480 × 270 in 16 bits. */
export const measuredFrames = new KeptFrames(128 * 2 ** 20);
