// Unpacks a request, calls core, sends the buffers back. Keeps the frames last used, decoded, within a bound.
import { frameMatte, linearFromCode, makeTables, measureSighting, ownMatte, pictureFromRgba, renderFrame, sourceFrame, srgbCodeFromLinear, type CodePicture, type Encoding, type Layer, type SourceFrame } from '@mellow/core';
import { FIELD_REACH, type Answer, type AnswerOf, type CropAnswer, type DensityAnswer, type FrameRef, type Picture, type Request, type Task } from './frameProtocol.ts';

const MAX_FRAMES = 24;
const tables = makeTables();
const frames = new Map<string, SourceFrame>();
const layerMattes = new WeakMap<SourceFrame, Map<string, Float32Array>>();

async function frameOf(ref: FrameRef, step: 1 | 2 = 1): Promise<SourceFrame> {
  const key = `${ref.url} ${ref.encoding} ${step}`;
  const known = frames.get(key);
  if (known) {
    frames.delete(key);
    frames.set(key, known);
    return known;
  }
  const picture = step === 1 ? await fetchPicture(ref.url) : halved((await frameOf(ref)).codes);
  const frame = sourceFrame(picture, ref.encoding, picture.width / ref.fullWidth, tables);
  frames.set(key, frame);
  for (const oldest of frames.keys()) {
    if (frames.size <= MAX_FRAMES) break;
    frames.delete(oldest);
  }
  return frame;
}

async function fetchPicture(url: string): Promise<CodePicture> {
  const response = await fetch(url);
  if (!response.ok) throw new Error(response.status === 409 ? 'The proxies of this shot are not made yet.' : `The frame could not be loaded (${response.status}).`);
  const bitmap = await createImageBitmap(await response.blob(), { colorSpaceConversion: 'none', premultiplyAlpha: 'none' });
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

/** A layer's own matte, kept as long as the frame is: moving one layer leaves the others' as they are. */
function cachedMatte(frame: SourceFrame, layer: Layer): Float32Array {
  const own = layerMattes.get(frame) ?? new Map<string, Float32Array>();
  layerMattes.set(frame, own);
  const what = layer.kind === 'shape' ? [layer.geometry, layer.feather] : [layer.key];
  const key = JSON.stringify([layer.kind, layer.invert, what]);
  let matte = own.get(key);
  if (!matte) {
    matte = ownMatte(frame, layer);
    if (own.size > 6) own.delete(own.keys().next().value!);
    own.set(key, matte);
  }
  return matte;
}
const matteOf = (frame: SourceFrame, layers: readonly Layer[]) => frameMatte(frame, layers, (layer) => cachedMatte(frame, layer));

/** Codes of an encoding as sRGB codes of the same light, for the screen. */
const toScreen = new Map<Encoding, Uint8Array>();
function screenTable(encoding: Encoding): Uint8Array {
  const known = toScreen.get(encoding) ?? Uint8Array.from({ length: 256 }, (_, code) => Math.round(255 * srgbCodeFromLinear(linearFromCode(encoding, code / 255))));
  toScreen.set(encoding, known);
  return known;
}
function onScreen({ width, height, r, g, b }: CodePicture, encoding: Encoding): Picture {
  const table = screenTable(encoding);
  const rgba = new Uint8ClampedArray(width * height * 4);
  for (let i = 0, j = 0; i < r.length; i++, j += 4) {
    rgba[j] = table[r[i]!]!;
    rgba[j + 1] = table[g[i]!]!;
    rgba[j + 2] = table[b[i]!]!;
    rgba[j + 3] = 255;
  }
  return { rgba, width, height };
}
function greyOnScreen(alpha: Float32Array, width: number, height: number): Picture {
  const rgba = new Uint8ClampedArray(width * height * 4);
  for (let i = 0, j = 0; i < alpha.length; i++, j += 4) {
    rgba[j] = rgba[j + 1] = rgba[j + 2] = alpha[i]! * 255;
    rgba[j + 3] = 255;
  }
  return { rgba, width, height };
}
/** The tint lies over what is selected: a light violet no garment or product has, at 60 %. */
function tint({ rgba }: Picture, alpha: Float32Array): void {
  for (let i = 0, j = 0; i < alpha.length; i++, j += 4) {
    const a = alpha[i]! * 0.6;
    rgba[j] = rgba[j]! * (1 - a) + 214 * a;
    rgba[j + 1] = rgba[j + 1]! * (1 - a) + 92 * a;
    rgba[j + 2] = rgba[j + 2]! * (1 - a) + 255 * a;
  }
}

async function show(task: Extract<Task, { kind: 'show' }>): Promise<AnswerOf['show']> {
  const frame = await frameOf(task.frame, task.step);
  const { width, height } = frame.codes;
  if (task.show === 'Matte') {
    const alpha = task.index < 0 ? new Float32Array(width * height) : matteOf(frame, task.sightings[task.index]!.layers);
    return { picture: greyOnScreen(alpha, width, height), measured: undefined };
  }
  if (task.show === 'Source' && !task.measure) return { picture: onScreen(frame.codes, frame.encoding), measured: undefined };
  const rendered = renderFrame(frame, task.sightings, tables, (s) => matteOf(frame, s.layers));
  const picture = onScreen(task.show === 'Result' ? rendered.codes : frame.codes, frame.encoding);
  if (task.show === 'Tint' && task.index >= 0) tint(picture, rendered.mattes[task.index]!);
  return { picture, measured: task.measure && task.index >= 0 ? measureSighting(frame, rendered, task.index) : undefined };
}

async function layerPicture({ frame: ref, layer, width }: Extract<Task, { kind: 'layer' }>): Promise<Picture> {
  const frame = await frameOf(ref);
  const alpha = cachedMatte(frame, layer);
  const height = Math.round((width * frame.codes.height) / frame.codes.width);
  const small = new Float32Array(width * height);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) small[y * width + x] = alpha[Math.floor(((y + 0.5) * frame.codes.height) / height) * frame.codes.width + Math.floor(((x + 0.5) * frame.codes.width) / width)]!;
  return greyOnScreen(small, width, height);
}

/** Up to 25 colours spread evenly over a rectangle in full-resolution pixels; a point is grown to 5 × 5 pixels of the proxy. */
async function sample({ frame: ref, ...rect }: Extract<Task, { kind: 'sample' }>): Promise<AnswerOf['sample']> {
  const frame = await frameOf(ref);
  const { width, height } = frame.codes;
  const lab = frame.oklab();
  const span = (from: number, to: number, limit: number): number[] => {
    const [lo, hi] = [Math.floor(Math.min(from, to) * frame.scale), Math.floor(Math.max(from, to) * frame.scale)];
    const [a, b] = hi - lo < 4 ? [Math.floor((lo + hi) / 2) - 2, Math.floor((lo + hi) / 2) + 2] : [lo, hi];
    return [0, 1, 2, 3, 4].map((k) => Math.min(Math.max(Math.round(a + ((b - a) * k) / 4), 0), limit - 1));
  };
  const samples = span(rect.y0, rect.y1, height).flatMap((y) => span(rect.x0, rect.x1, width).map((x) => ({ L: lab.L[y * width + x]!, a: lab.a[y * width + x]!, b: lab.b[y * width + x]! })));
  return { samples };
}

async function density({ frame: ref }: Extract<Task, { kind: 'density' }>): Promise<DensityAnswer> {
  const frame = await frameOf(ref);
  const { L, a, b } = frame.oklab();
  const linear = frame.linear();
  const size = 128;
  const sums = new Float32Array(size * size * 4);
  const lightness = new Array<number>(64).fill(0);
  for (let i = 0; i < L.length; i += 2) {
    const x = Math.floor(((a[i]! / FIELD_REACH + 1) / 2) * size);
    const y = Math.floor(((1 - b[i]! / FIELD_REACH) / 2) * size);
    lightness[Math.min(Math.max(Math.floor(L[i]! * 64), 0), 63)]!++;
    if (x < 0 || y < 0 || x >= size || y >= size) continue;
    const j = 4 * (y * size + x);
    sums[j]! += linear.r[i]!;
    sums[j + 1]! += linear.g[i]!;
    sums[j + 2]! += linear.b[i]!;
    sums[j + 3]!++;
  }
  const rgba = new Uint8ClampedArray(size * size * 4);
  for (let j = 0; j < sums.length; j += 4) {
    const n = sums[j + 3]!;
    if (n === 0) continue;
    for (let c = 0; c < 3; c++) rgba[j + c] = 255 * srgbCodeFromLinear(sums[j + c]! / n);
    rgba[j + 3] = 90 + 165 * Math.min(Math.log1p(n) / 5, 1);
  }
  return { size, reach: FIELD_REACH, rgba, lightness };
}

/** The piece cut out of source and result: its matte's bounds with a margin. Null where nothing is selected. */
async function crop({ frame: ref, sightings, index }: Extract<Task, { kind: 'crop' }>): Promise<CropAnswer | null> {
  const frame = await frameOf(ref);
  const { width, height } = frame.codes;
  const rendered = renderFrame(frame, sightings, tables, (s) => matteOf(frame, s.layers));
  const alpha = rendered.mattes[index]!;
  let [x0, y0, x1, y1] = [width, height, 0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if (alpha[y * width + x]! > 0.5) {
        x0 = Math.min(x0, x);
        x1 = Math.max(x1, x + 1);
        y0 = Math.min(y0, y);
        y1 = Math.max(y1, y + 1);
      }
  if (x1 <= x0) return null;
  const margin = Math.round(0.12 * Math.max(x1 - x0, y1 - y0));
  [x0, y0, x1, y1] = [Math.max(x0 - margin, 0), Math.max(y0 - margin, 0), Math.min(x1 + margin, width), Math.min(y1 + margin, height)];
  const cut = ({ rgba }: Picture): Picture => {
    const [w, h] = [x1 - x0, y1 - y0];
    const out = new Uint8ClampedArray(w * h * 4);
    for (let y = 0; y < h; y++) out.set(rgba.subarray(4 * ((y + y0) * width + x0), 4 * ((y + y0) * width + x1)), 4 * y * w);
    return { rgba: out, width: w, height: h };
  };
  return { before: cut(onScreen(frame.codes, frame.encoding)), after: cut(onScreen(rendered.codes, frame.encoding)) };
}

const run = (task: Task): Promise<AnswerOf[keyof AnswerOf]> => {
  switch (task.kind) {
    case 'show': return show(task);
    case 'layer': return layerPicture(task);
    case 'sample': return sample(task);
    case 'density': return density(task);
    case 'crop': return crop(task);
  }
};

self.onmessage = async ({ data: { id, task } }: MessageEvent<Request>) => {
  let message: Answer;
  try {
    message = { id, ok: true, answer: await run(task) };
  } catch (error) {
    message = { id, ok: false, message: error instanceof Error ? error.message : String(error) };
  }
  const pictures = message.ok && message.answer ? [message.answer, ...Object.values(message.answer)] : [];
  const buffers = pictures.flatMap((p) => (p && typeof p === 'object' && 'rgba' in p ? [(p as Picture).rgba.buffer] : []));
  self.postMessage(message, { transfer: [...new Set(buffers)] });
};
