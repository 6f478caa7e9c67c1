// Frames of a matte made elsewhere, at the size of the shot they belong to.
import { lumaOf, planeOf, type PlateLayer } from '@mellow/core';
import type { StoredMedia } from '../db/media.ts';
import { decodeAlpha, decodeFrames } from './decode.ts';
import type { MediaStore } from './store.ts';

interface Size {
  width: number;
  height: number;
}

async function* alphaFrames(
  store: MediaStore,
  stored: StoredMedia,
  channel: PlateLayer['channel'],
  size: Size,
  signal: AbortSignal,
): AsyncGenerator<Float32Array> {
  if (channel === 'alpha') {
    for await (const codes of decodeAlpha(store, stored, size, signal))
      yield planeOf(codes.length, (i) => codes[i]! / 65535);
    return;
  }
  for await (const { r, g, b } of decodeFrames(store, stored, { size, signal })) {
    const full = r instanceof Float32Array ? 1 : 65535;
    const out = new Float32Array(r.length);
    for (let i = 0; i < out.length; i++) out[i] = Math.min(Math.max(lumaOf(r[i]!, g[i]!, b[i]!) / full, 0), 1);
    yield out;
  }
}

/** Reads a plate along with a shot: frames are asked for in rising order, and decoded forwards only. */
export class PlateReader {
  readonly #frames: AsyncGenerator<Float32Array>;
  readonly #offset: number;
  #next = 0;
  constructor(
    store: MediaStore,
    stored: StoredMedia,
    { channel, offsetFrames }: Pick<PlateLayer, 'channel' | 'offsetFrames'>,
    size: Size,
    signal: AbortSignal,
  ) {
    this.#frames = alphaFrames(store, stored, channel, size, signal);
    this.#offset = offsetFrames;
  }
  /** α that goes with frame `frame` of the shot; undefined before the plate's first frame and after its last. */
  async frame(frame: number): Promise<Float32Array | undefined> {
    const wanted = frame + this.#offset;
    if (wanted < 0) return undefined;
    for (;;) {
      const next = await this.#frames.next();
      if (next.done) return undefined;
      if (this.#next++ === wanted) return next.value;
    }
  }
  async close(): Promise<void> {
    await this.#frames.return(undefined);
  }
}
