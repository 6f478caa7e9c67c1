import type { StoredMedia } from '../db/media.ts';
import { decodeLuma } from '../media/decode.ts';
import type { MediaStore } from '../media/store.ts';

/**
 * Frames of a block: so many that going backwards begins decoding anew only now and then, in no more memory than this.
 */
const MOST_HELD = 48;
const BLOCK_BYTES = 128 * 2 ** 20;
/** The decoder runs this many frames ahead of what was asked for, then waits: it must not take the tracker's core. */
const AHEAD = 6;
/** Frames that nobody asks for any longer are kept for so long. */
const KEPT_MS = 60_000;

interface Block {
  first: number;
  last: number;
  /** Each frame as soon as it is decoded. */
  frames: Promise<Uint16Array>[];
  /** How far frames of the block have been asked for; and what lets the decoder go on when that grows. */
  asked: number;
  goOn: () => void;
  /** Ends its decoder. */
  end: () => void;
}

/**
 * Luma of single frames at full resolution, read in any order. Footage is decoded forwards in blocks that begin (or,
 * going backwards, end) at the frame that is asked for, so that the first is there at once; two are held, and one goes
 * on being decoded while its frames are tracked.
 */
export class LumaFrames {
  readonly mediaId: string;
  readonly #store: MediaStore;
  readonly #media: StoredMedia;
  #isClosed = false;
  readonly #held: number;
  #blocks: Block[] = [];
  constructor(store: MediaStore, media: StoredMedia) {
    this.#store = store;
    this.#media = media;
    this.mediaId = media.media.id;
    const { width, height } = media.media;
    this.#held = Math.min(Math.max(Math.floor(BLOCK_BYTES / (width * height * 2)), 4), MOST_HELD);
  }
  async frame(at: number): Promise<Uint16Array> {
    if (this.#isClosed) throw new Error('the frames are no longer read');
    const { frames } = this.#media.media;
    let block = this.#blocks.find((b) => at >= b.first && at <= b.last);
    if (!block) {
      const backwards = this.#blocks.length > 0 && at < this.#blocks.at(-1)!.first;
      block = this.#decoded(
        backwards ? Math.max(at - this.#held + 1, 0) : at,
        backwards ? at : Math.min(at + this.#held, frames) - 1,
      );
      // a decoder that waits for somebody to ask must not outlive its block
      for (const old of this.#blocks.slice(0, -1)) old.end();
      this.#blocks = [...this.#blocks.slice(-1), block];
    }
    block.asked = Math.max(block.asked, at - block.first);
    block.goOn();
    return block.frames[at - block.first]!;
  }
  /** Ends the decoders; frames still asked for are refused. */
  close(): void {
    this.#isClosed = true;
    for (const block of this.#blocks) block.end();
  }
  #decoded(first: number, last: number): Block {
    const waiting: { resolve: (luma: Uint16Array) => void; reject: (error: unknown) => void }[] = [];
    const frames = Array.from(
      { length: last - first + 1 },
      () => new Promise<Uint16Array>((resolve, reject) => waiting.push({ resolve, reject })),
    );
    // a frame nobody asks for any more may fail unheard
    for (const frame of frames) frame.catch(() => undefined);
    const ending = new AbortController();
    const { signal } = ending;
    const end = () => {
      ending.abort();
      block.goOn();
    };
    const block: Block = { first, last, frames, asked: 0, goOn: () => undefined, end };
    const decode = async () => {
      let n = 0;
      for await (const luma of decodeLuma(this.#store, this.#media, first, last, signal)) {
        waiting[n++]?.resolve(luma);
        while (n > block.asked + AHEAD && !signal.aborted) await new Promise<void>((resolve) => (block.goOn = resolve));
      }
      for (; n < waiting.length; n++) waiting[n]!.reject(new Error(`frame ${first + n} could not be decoded`));
    };
    decode().catch((error: unknown) => waiting.forEach((w) => w.reject(error)));
    return block;
  }
}

let kept: { frames: LumaFrames; timer: NodeJS.Timeout } | undefined;
/** The frames of a media, those that were kept if there are any. Whoever takes them gives them back or closes them. */
export function takeLumaFrames(store: MediaStore, media: StoredMedia): LumaFrames {
  if (kept?.frames.mediaId !== media.media.id) return new LumaFrames(store, media);
  const { frames, timer } = kept;
  clearTimeout(timer);
  kept = undefined;
  return frames;
}
/** Keeps frames for a while: who tracks frame by frame, or anew after a change, asks for the same ones again. */
export function giveBackLumaFrames(frames: LumaFrames): void {
  closeKeptLumaFrames();
  kept = { frames, timer: setTimeout(closeKeptLumaFrames, KEPT_MS).unref() };
}
/** Decodes the frame that a track drawn just now will ask for first, while the hand is on its way to the button. */
export function decodeAhead(store: MediaStore, media: StoredMedia, frame: number): void {
  const frames = takeLumaFrames(store, media);
  // what cannot be decoded says so when it is tracked
  frames.frame(frame).catch(() => undefined);
  giveBackLumaFrames(frames);
}
export function closeKeptLumaFrames(): void {
  if (!kept) return;
  clearTimeout(kept.timer);
  kept.frames.close();
  kept = undefined;
}
