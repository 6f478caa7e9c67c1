import type { StoredMedia } from '../db/media.ts';
import { decodeLuma } from '../media/decode.ts';
import type { MediaStore } from '../media/store.ts';

/** Frames held at once: enough that going backwards decodes each of them about twice. */
const HELD = 48;

/**
 * Luma of single frames at full resolution, read in any order. Footage is decoded forwards in blocks of frames, two of
 * which are held; a block is decoded while the one before is tracked.
 */
export class LumaFrames {
  readonly #store: MediaStore;
  readonly #media: StoredMedia;
  readonly #signal: AbortSignal;
  #blocks: { first: number; frames: Promise<Uint16Array[]> }[] = [];
  constructor(store: MediaStore, media: StoredMedia, signal: AbortSignal) {
    this.#store = store;
    this.#media = media;
    this.#signal = signal;
  }
  async frame(at: number): Promise<Uint16Array> {
    const first = Math.floor(at / HELD) * HELD;
    const frame = (await this.#block(first).frames)[at - first];
    if (!frame) throw new Error(`frame ${at} could not be decoded`);
    return frame;
  }
  #block(first: number) {
    const known = this.#blocks.find((b) => b.first === first);
    if (known) return known;
    const frames = this.#decode(first);
    frames.catch(() => undefined);
    const block = { first, frames };
    this.#blocks = [...this.#blocks.slice(-1), block];
    return block;
  }
  async #decode(first: number): Promise<Uint16Array[]> {
    const out: Uint16Array[] = [];
    for await (const luma of decodeLuma(this.#store, this.#media, first, Math.min(first + HELD, this.#media.media.frames) - 1, this.#signal)) out.push(luma);
    return out;
  }
}
