// The frames a worker holds: decoded pictures and plates, kept while they are among the last used; fewer of them with
// what was derived from them and their mattes, which take ten times as much.
import {
  carriedId,
  floatsFromRgba,
  maskOfBytes,
  maxCodeOf,
  pictureFromRgba,
  plateId,
  sourceFrame,
  type CarriedMask,
  type CodePicture,
  type SourceFrame,
  type Tables,
} from '@mellow/core';
import { LRUCache } from 'lru-cache';
import type { FrameRef } from './frameProtocol.ts';
import { isOfHalves } from './frameUrl.ts';
import { isIsolated, SharedPictures } from './sharedPictures.ts';
import { matteBytes } from './stackMattes.ts';

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
  const { width, height } = bitmap;
  reading ??= new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  if (reading.canvas.width !== width || reading.canvas.height !== height)
    [reading.canvas.width, reading.canvas.height] = [width, height];
  // what was there before is replaced, whatever is transparent
  reading.globalCompositeOperation = 'copy';
  reading.drawImage(bitmap, 0, 0);
  bitmap.close();
  const { data } = reading.getImageData(0, 0, width, height);
  return (isOfHalves(url) ? floatsFromRgba : pictureFromRgba)(data, width, height);
}
/** Where pictures are read back: one, since the memory of a canvas is let go of late. */
let reading: OffscreenCanvasRenderingContext2D | undefined;

async function fetchMask(url: string): Promise<CarriedMask> {
  const response = await fetch(url);
  if (!response.ok) throw new Error(`What was carried to this frame could not be loaded (${response.status}).`);
  return maskOfBytes(new Uint8Array(await response.arrayBuffer()));
}

/** α of a plate's proxy at the picture's size: luma of the codes, nearest sample (proxies of one job have one size). */
function plateAlpha({ width, height, r, g, b }: CodePicture, w: number, h: number): Float32Array {
  const out = new Float32Array(w * h);
  const maxCode = maxCodeOf(r);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = Math.floor(((y + 0.5) * height) / h) * width + Math.floor(((x + 0.5) * width) / w);
      out[y * w + x] = (0.2126 * r[i]! + 0.7152 * g[i]! + 0.0722 * b[i]!) / maxCode;
    }
  return out;
}

const MAX_FRAMES = 24;
/** So many are kept whatever they take: steadying over three on either side goes through seven again and again. */
const LEAST_FRAMES = 7;
/** Memory of all workers together for decoded pictures, and for all else that is kept with frames. */
const MEMORY = { pictures: 96 * 2 ** 20, derived: 96 * 2 ** 20 };
const pictureBytes = ({ r, g, b }: CodePicture): number => r.byteLength + g.byteLength + b.byteLength;

interface Surroundings {
  fetched?: (url: string) => Promise<CodePicture>;
  workers?: number;
  memory?: typeof MEMORY;
  shared?: SharedPictures;
}
export class FrameStore {
  readonly #pictures: LRUCache<string, CodePicture>;
  /** Two who ask at once load one: lru-cache shares what is on its way. */
  readonly #frames: LRUCache<string, SourceFrame, FrameRef>;
  readonly #masks = new LRUCache<string, CarriedMask>({ max: MAX_FRAMES, fetchMethod: (url) => fetchMask(url) });
  readonly #tables: Tables;
  readonly #derivedBytes: number;
  /** `workers`: how many there are, each with a store of its own; `shared`: what they share. */
  constructor(tables: Tables, more: Surroundings = {}) {
    const { fetched = fetchPicture, workers = 1, memory = MEMORY, shared = new SharedPictures() } = more;
    this.#tables = tables;
    this.#derivedBytes = memory.derived / workers;
    this.#pictures = new LRUCache({
      maxSize: memory.pictures / (isIsolated ? 1 : workers),
      sizeCalculation: pictureBytes,
      // what is on its way is not broken off by the same picture from another
      ignoreFetchAbort: true,
      fetchMethod: async (url) => shared.share(url, await fetched(url)),
    });
    shared.listen((url, picture) => void (this.#pictures.has(url) || this.#pictures.set(url, picture)));
    this.#frames = new LRUCache({ max: MAX_FRAMES, fetchMethod: (_key, _stale, { context }) => this.#made(context) });
  }

  /** Loads a picture that may be needed soon; says how many bytes it takes. */
  async prefetch(url: string): Promise<number> {
    return pictureBytes((await this.#pictures.fetch(url))!);
  }
  /** The frame a reference names, with its balance and plates. */
  async frame(ref: FrameRef): Promise<SourceFrame> {
    const key = JSON.stringify([ref.url, ref.encoding, ref.balance, ref.plates, ref.carried]);
    const frame = (await this.#frames.fetch(key, { context: ref }))!;
    this.#letGo();
    return frame;
  }
  /** Of frames used longest ago, what was derived from them: their pictures stay. */
  #letGo(): void {
    let [frames, bytes] = [0, 0];
    for (const [key, frame] of [...this.#frames.entries()]) {
      bytes += frame.heldBytes() + matteBytes(frame);
      if (++frames > LEAST_FRAMES && bytes > this.#derivedBytes) this.#frames.delete(key);
    }
  }
  async #made(ref: FrameRef): Promise<SourceFrame> {
    const picture = (await this.#pictures.fetch(ref.url))!;
    const plates = new Map<string, Float32Array>();
    for (const [name, url] of Object.entries(ref.plates))
      plates.set(name, plateAlpha((await this.#pictures.fetch(url))!, picture.width, picture.height));
    const masks = new Map<string, CarriedMask>();
    for (const [name, url] of Object.entries(ref.carried ?? {})) masks.set(name, (await this.#masks.fetch(url))!);
    return sourceFrame(picture, ref.encoding, picture.width / ref.fullWidth, this.#tables, {
      balance: ref.balance,
      sharesChroma: ref.sharesChroma,
      plate: (layer) => plates.get(plateId(layer)),
      carried: (from) => masks.get(carriedId(from)),
    });
  }
}
