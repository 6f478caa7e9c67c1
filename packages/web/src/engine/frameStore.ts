// The frames a worker holds: decoded pictures and plates, each kept while it is among the last used.
import { pictureFromRgba, plateKey, sourceFrame, type CodePicture, type SourceFrame, type Tables } from '@mellow/core';
import type { FrameRef } from './frameProtocol.ts';

/** A map that forgets what was used longest ago. */
export class Recent<V> {
  readonly #kept = new Map<string, V>();
  readonly #limit: number;
  constructor(limit: number) {
    this.#limit = limit;
  }
  get(key: string): V | undefined {
    const value = this.#kept.get(key);
    if (value !== undefined) {
      this.#kept.delete(key);
      this.#kept.set(key, value);
    }
    return value;
  }
  set(key: string, value: V): V {
    this.#kept.delete(key);
    this.#kept.set(key, value);
    if (this.#kept.size > this.#limit) this.#kept.delete(this.#kept.keys().next().value!);
    return value;
  }
}

async function fetchPicture(url: string): Promise<CodePicture> {
  const response = await fetch(url);
  if (!response.ok)
    throw new Error(
      response.status === 409
        ? 'The proxies of this shot are not made yet.'
        : `The frame could not be loaded (${response.status}).`,
    );
  const bitmap = await createImageBitmap(await response.blob(), {
    colorSpaceConversion: 'none',
    premultiplyAlpha: 'none',
  });
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  return pictureFromRgba(context.getImageData(0, 0, canvas.width, canvas.height).data, canvas.width, canvas.height);
}

/** Every second pixel of every second row: quick to make and enough while a hand moves. */
function halved({ width, height, r, g, b }: CodePicture): CodePicture {
  const [w, h] = [width >> 1, height >> 1];
  const pick = (plane: CodePicture['r']) => {
    const out = new Uint8Array(w * h);
    for (let y = 0; y < h; y++) for (let x = 0; x < w; x++) out[y * w + x] = plane[2 * y * width + 2 * x]!;
    return out;
  };
  return { width: w, height: h, r: pick(r), g: pick(g), b: pick(b) };
}

/** α of a plate's proxy at the picture's size: luma of the codes, nearest sample (proxies of one job have one size). */
function plateAlpha({ width, height, r, g, b }: CodePicture, w: number, h: number): Float32Array {
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = Math.floor(((y + 0.5) * height) / h) * width + Math.floor(((x + 0.5) * width) / w);
      out[y * w + x] = (0.2126 * r[i]! + 0.7152 * g[i]! + 0.0722 * b[i]!) / 255;
    }
  return out;
}

const MAX_FRAMES = 24;

export class FrameStore {
  readonly #frames = new Recent<SourceFrame>(MAX_FRAMES);
  readonly #pictures = new Recent<CodePicture>(MAX_FRAMES);
  /** Frames on their way, so that two who ask at once load one. */
  readonly #coming = new Map<string, Promise<SourceFrame>>();
  readonly #tables: Tables;
  constructor(tables: Tables) {
    this.#tables = tables;
  }

  async #picture(url: string): Promise<CodePicture> {
    return this.#pictures.get(url) ?? this.#pictures.set(url, await fetchPicture(url));
  }

  /** The frame a reference names, with its balance and plates; at half size for step 2. */
  async frame(ref: FrameRef, step: 1 | 2 = 1): Promise<SourceFrame> {
    const key = JSON.stringify([ref.url, ref.encoding, ref.balance, ref.plates, step]);
    const known = this.#frames.get(key);
    if (known) return known;
    let coming = this.#coming.get(key);
    if (!coming) {
      coming = this.#made(ref, step)
        .then((frame) => this.#frames.set(key, frame))
        .finally(() => this.#coming.delete(key));
      this.#coming.set(key, coming);
    }
    return coming;
  }
  async #made(ref: FrameRef, step: 1 | 2): Promise<SourceFrame> {
    const full = await this.#picture(ref.url);
    const picture = step === 1 ? full : halved(full);
    const plates = new Map<string, Float32Array>();
    for (const [name, url] of Object.entries(ref.plates))
      plates.set(name, plateAlpha(await this.#picture(url), picture.width, picture.height));
    return sourceFrame(picture, ref.encoding, picture.width / ref.fullWidth, this.#tables, {
      balance: ref.balance,
      plate: (layer) => plates.get(plateKey(layer)),
    });
  }
}
