import type { StoredMedia } from '../db/media.ts';
import { decodeLuma } from '../media/decode.ts';
import type { MediaStore } from '../media/store.ts';

/** Frames of a block: so many that going backwards begins decoding anew only now and then, in no more memory than this. */
const MOST_HELD = 48;
const BLOCK_BYTES = 128 * 2 ** 20;

interface Block {
  first: number;
  last: number;
  /** Each frame as soon as it is decoded. */
  frames: Promise<Uint16Array>[];
}

/**
 * Luma of single frames at full resolution, read in any order. Footage is decoded forwards in blocks that begin (or, going
 * backwards, end) at the frame that is asked for, so that the first is there at once; two are held, and one goes on
 * being decoded while its frames are tracked.
 */
export class LumaFrames {
  readonly #store: MediaStore;
  readonly #media: StoredMedia;
  readonly #signal: AbortSignal;
  readonly #held: number;
  #blocks: Block[] = [];
  constructor(store: MediaStore, media: StoredMedia, signal: AbortSignal) {
    this.#store = store;
    this.#media = media;
    this.#signal = signal;
    const { width, height } = media.media;
    this.#held = Math.min(Math.max(Math.floor(BLOCK_BYTES / (width * height * 2)), 4), MOST_HELD);
  }
  async frame(at: number): Promise<Uint16Array> {
    const { frames } = this.#media.media;
    const known = this.#blocks.find((b) => at >= b.first && at <= b.last);
    if (known) return known.frames[at - known.first]!;
    const backwards = this.#blocks.length > 0 && at < this.#blocks.at(-1)!.first;
    const block = this.#decoded(backwards ? Math.max(at - this.#held + 1, 0) : at, backwards ? at : Math.min(at + this.#held, frames) - 1);
    this.#blocks = [...this.#blocks.slice(-1), block];
    return block.frames[at - block.first]!;
  }
  #decoded(first: number, last: number): Block {
    const waiting: { resolve: (luma: Uint16Array) => void; reject: (error: unknown) => void }[] = [];
    const frames = Array.from({ length: last - first + 1 }, () => new Promise<Uint16Array>((resolve, reject) => waiting.push({ resolve, reject })));
    // a frame nobody asks for any more may fail unheard
    for (const frame of frames) frame.catch(() => undefined);
    const decode = async () => {
      let n = 0;
      for await (const luma of decodeLuma(this.#store, this.#media, first, last, this.#signal)) waiting[n++]?.resolve(luma);
      for (; n < waiting.length; n++) waiting[n]!.reject(new Error(`frame ${first + n} could not be decoded`));
    };
    decode().catch((error: unknown) => waiting.forEach((w) => w.reject(error)));
    return { first, last, frames };
  }
}
