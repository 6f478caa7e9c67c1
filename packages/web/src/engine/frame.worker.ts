// Unpacks a request, calls core, sends the buffers back. Keeps the frames last used, decoded, within a bound.
import {
  chatterBetween,
  clippingOf,
  driftOf,
  driftReference,
  frameMatte,
  labFromLinear709,
  lumaOf,
  makeTables,
  measureSighting,
  meterMatte,
  oklabFromLinear709,
  ownMatte,
  renderFrame,
  srgbCodeFromLinear,
  steadiedMatte,
  type DriftReference,
  type Layer,
  type RenderedFrame,
  type SightingRender,
  type SourceFrame,
} from '@mellow/core';
import {
  FIELD_REACH,
  type Answer,
  type AnswerOf,
  type CropAnswer,
  type DensityAnswer,
  type HoldAnswer,
  type Moment,
  type Picture,
  type ProbeAnswer,
  type Request,
  type ShowTask,
  type Task,
} from './frameProtocol.ts';
import { FrameStore, Recent } from './frameStore.ts';
import {
  cutOutInPlace,
  difference,
  greyOnScreen,
  markNearInPlace,
  onScreen,
  SPILL_TINT,
  TINT,
  tintInPlace,
} from './screen.ts';

const tables = makeTables();
const store = new FrameStore(tables);
/** Mattes of layers and of whole stacks, kept as long as their frame is: moving one layer leaves the others' as they are. */
const mattes = new WeakMap<SourceFrame, Recent<Float32Array>>();
const KEPT_MATTES = 12;
/** What was shown last, for the probe. */
let shown: { key: string; frame: SourceFrame; rendered: RenderedFrame | undefined; index: number } | undefined;

/** What a layer's own matte depends on: not its name, nor how it joins. */
const contentOf = ({
  id: _i,
  name: _n,
  mode: _m,
  strength: _s,
  on: _o,
  locked: _l,
  picks: _p,
  ...rest
}: Record<string, unknown>): unknown =>
  'layers' in rest
    ? {
        ...rest,
        layers: (rest.layers as Record<string, unknown>[]).map((l) => [l.mode, l.strength, l.on, contentOf(l)]),
      }
    : rest;

function cached(frame: SourceFrame, key: string, make: () => Float32Array): Float32Array {
  const own = mattes.get(frame) ?? new Recent<Float32Array>(KEPT_MATTES);
  mattes.set(frame, own);
  return own.get(key) ?? own.set(key, make());
}
const layerMatte = (frame: SourceFrame, layer: Layer): Float32Array =>
  cached(frame, JSON.stringify(contentOf(layer as unknown as Record<string, unknown>)), () =>
    ownMatte(frame, layer, (inner) => layerMatte(frame, inner)),
  );
const stackMatte = (frame: SourceFrame, { layers, cleanUp }: SightingRender): Float32Array =>
  cached(frame, JSON.stringify([cleanUp, contentOf({ layers })]), () =>
    frameMatte(frame, layers, cleanUp, (layer) => layerMatte(frame, layer)),
  );

type MatteOf = (sighting: SightingRender, index: number) => Float32Array;
/** α of the sightings of a moment, steadied where they ask for it; the frames around are loaded first. */
async function mattesOf(frame: SourceFrame, { around = [] }: Moment, step: 1 | 2 = 1): Promise<MatteOf> {
  const near = await Promise.all(around.map(async (a) => ({ ...a, source: await store.frame(a.frame, step) })));
  return (sighting, i) => {
    const taken = near
      .filter(({ off }) => Math.abs(off) <= (sighting.steadyFrames ?? 0))
      .map((n) => ({ source: n.source, sighting: n.sightings[i]! }));
    if (taken.length === 0) return stackMatte(frame, sighting);
    const key = JSON.stringify(
      [sighting, ...taken.map((n) => n.sighting)].map(({ cleanUp, layers }) => [cleanUp, contentOf({ layers })]),
    );
    return cached(frame, `steady ${key}`, () => steadiedMatte(frame, sighting, taken, stackMatte));
  };
}

function inView(
  frame: SourceFrame,
  task: ShowTask,
  matteOf: MatteOf,
): { picture: Picture; rendered: RenderedFrame | undefined } {
  const { width, height } = frame.codes;
  const { show, index, sightings } = task;
  const own = task.solo && layerMatte(frame, task.solo);
  if (show === 'Matte' && !task.measure) {
    const alpha = own ?? (index < 0 ? new Float32Array(width * height) : matteOf(sightings[index]!, index));
    return { picture: greyOnScreen(alpha, width, height), rendered: undefined };
  }
  if (show === 'Source' && !task.measure)
    return { picture: onScreen(frame.codes, frame.encoding), rendered: undefined };
  const rendered = renderFrame(frame, sightings, tables, matteOf);
  const alpha = own ?? (index < 0 ? new Float32Array(width * height) : rendered.mattes[index]!);
  const source = () => onScreen(frame.codes, frame.encoding);
  const result = () => onScreen(rendered.codes, frame.encoding);
  switch (show) {
    case 'Source':
      return { picture: source(), rendered };
    case 'Matte':
      return { picture: greyOnScreen(alpha, width, height), rendered };
    case 'Difference':
      return { picture: difference(source(), result()), rendered };
    case 'Result':
      return { picture: result(), rendered };
    case 'Cut-out': {
      const picture = result();
      cutOutInPlace(picture, alpha, task.ground);
      return { picture, rendered };
    }
    case 'Tint': {
      const picture = source();
      tintInPlace(picture, alpha, TINT, task.tint);
      const spill = index < 0 || own ? undefined : rendered.spills[index];
      if (spill) tintInPlace(picture, spill.share, SPILL_TINT, Math.min(task.tint * 1.4, 1));
      return { picture, rendered };
    }
  }
}

async function show(task: ShowTask): Promise<AnswerOf['show']> {
  const frame = await store.frame(task.frame, task.step);
  const { picture, rendered } = inView(frame, task, await mattesOf(frame, task, task.step));
  if (task.near) markNearInPlace(picture, frame.oklab().a, frame.oklab().b, task.near);
  shown = { key: JSON.stringify(task), frame, rendered, index: task.index };
  return {
    picture,
    source: task.withSource ? onScreen(frame.codes, frame.encoding) : undefined,
    measured: task.measure && task.index >= 0 && rendered ? measureSighting(frame, rendered, task.index) : undefined,
  };
}

async function probe({ x, y, task }: Extract<Task, { kind: 'probe' }>): Promise<ProbeAnswer | null> {
  // the picture on screen may have come from the cache of computed frames
  if (shown?.key !== JSON.stringify(task)) await show(task);
  if (!shown) return null;
  const { frame, rendered, index } = shown;
  const { width, height, r, g, b } = frame.codes;
  const [px, py] = [Math.floor(x * frame.scale), Math.floor(y * frame.scale)];
  if (px < 0 || py < 0 || px >= width || py >= height) return null;
  const i = py * width + px;
  const linear = frame.linear();
  const at = (planes: {
    r: ArrayLike<number>;
    g: ArrayLike<number>;
    b: ArrayLike<number>;
  }): [number, number, number] => [planes.r[i]!, planes.g[i]!, planes.b[i]!];
  const side = (codes: [number, number, number], light: [number, number, number]) => ({
    codes,
    linear: light,
    lab: labFromLinear709(light),
  });
  return {
    before: side(at({ r, g, b }), at(linear)),
    after: rendered && side(at(rendered.codes), at(rendered.linear)),
    alpha: rendered && index >= 0 ? rendered.mattes[index]![i]! : undefined,
    oklab: oklabFromLinear709(at(linear)),
  };
}

async function layerPicture({ frame: ref, layer, width }: Extract<Task, { kind: 'layer' }>): Promise<Picture> {
  const frame = await store.frame(ref);
  const alpha = layerMatte(frame, layer);
  const height = Math.round((width * frame.codes.height) / frame.codes.width);
  const small = new Float32Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      small[y * width + x] =
        alpha[
          Math.floor(((y + 0.5) * frame.codes.height) / height) * frame.codes.width +
            Math.floor(((x + 0.5) * frame.codes.width) / width)
        ]!;
  return greyOnScreen(small, width, height);
}

/** Up to 25 colours spread evenly over a rectangle in full-resolution pixels; a point is grown to 5 × 5 pixels of the proxy. */
async function sample({ frame: ref, reads, ...rect }: Extract<Task, { kind: 'sample' }>): Promise<AnswerOf['sample']> {
  const frame = await store.frame(ref);
  const { width, height } = frame.codes;
  const lab = frame.oklab(reads);
  const span = (from: number, to: number, limit: number): number[] => {
    const [lo, hi] = [Math.floor(Math.min(from, to) * frame.scale), Math.floor(Math.max(from, to) * frame.scale)];
    const [a, b] = hi - lo < 4 ? [Math.floor((lo + hi) / 2) - 2, Math.floor((lo + hi) / 2) + 2] : [lo, hi];
    return [0, 1, 2, 3, 4].map((k) => Math.min(Math.max(Math.round(a + ((b - a) * k) / 4), 0), limit - 1));
  };
  const samples = span(rect.y0, rect.y1, height).flatMap((y) =>
    span(rect.x0, rect.x1, width).map((x) => ({
      L: lab.L[y * width + x]!,
      a: lab.a[y * width + x]!,
      b: lab.b[y * width + x]!,
    })),
  );
  return { samples };
}

const BINS = 64;
async function density({ frame: ref, reads }: Extract<Task, { kind: 'density' }>): Promise<DensityAnswer> {
  const frame = await store.frame(ref);
  const { L, a, b } = frame.oklab(reads);
  const encoded = frame.matteSource.encoded(reads);
  const linear = frame.linear();
  const size = 128;
  const sums = new Float32Array(size * size * 4);
  const bins = () => new Array<number>(BINS).fill(0);
  const [lightness, red, green, blue, luma] = [bins(), bins(), bins(), bins(), bins()];
  const bin = (v: number) => Math.min(Math.max(Math.floor(v * BINS), 0), BINS - 1);
  for (let i = 0; i < L.length; i += 2) {
    const x = Math.floor(((a[i]! / FIELD_REACH + 1) / 2) * size);
    const y = Math.floor(((1 - b[i]! / FIELD_REACH) / 2) * size);
    const [er, eg, eb] = [encoded.r[i]!, encoded.g[i]!, encoded.b[i]!];
    lightness[bin(L[i]!)]!++;
    red[bin(er)]!++;
    green[bin(eg)]!++;
    blue[bin(eb)]!++;
    luma[bin(lumaOf(er, eg, eb))]!++;
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
  return { size, reach: FIELD_REACH, rgba, lightness, encoded: { red, green, blue, luma } };
}

async function meter(moment: Moment): Promise<AnswerOf['meter']> {
  const frame = await store.frame(moment.frame);
  return meterMatte(
    (await mattesOf(frame, moment))(moment.sightings[moment.index]!, moment.index),
    frame.codes.width,
    frame.codes.height,
    clippingOf(frame.codes),
  );
}

/** The reference frame's matte, prepared once for all the frames laid over it. */
let lastReference: { of: Float32Array; made: DriftReference } | undefined;
function referenceFor({
  alpha,
  width,
  height,
  scale,
}: {
  alpha: Float32Array;
  width: number;
  height: number;
  scale: number;
}): DriftReference {
  if (lastReference?.of !== alpha) lastReference = { of: alpha, made: driftReference(alpha, width, height, scale) };
  return lastReference.made;
}
async function hold({ now, before, track }: Extract<Task, { kind: 'hold' }>): Promise<HoldAnswer> {
  const at = async (moment: Moment) => {
    const source = await store.frame(moment.frame);
    const { width, height } = source.codes;
    return {
      width,
      height,
      scale: source.scale,
      alpha: (await mattesOf(source, moment))(moment.sightings[moment.index]!, moment.index),
      luma: source.luma(),
    };
  };
  const here = await at(now);
  const chatter = before && chatterBetween(await at(before), here, here.scale);
  const drift = track && driftOf(referenceFor(await at(track.reference)), here.alpha, track.motion);
  return { chatter, driftPx: drift?.px };
}

/** The piece cut out of source and result: its matte's bounds with a margin. Null where nothing is selected. */
async function crop(moment: Moment): Promise<CropAnswer | null> {
  const { frame: ref, sightings, index } = moment;
  const frame = await store.frame(ref);
  const { width, height } = frame.codes;
  const rendered = renderFrame(frame, sightings, tables, await mattesOf(frame, moment));
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
  [x0, y0, x1, y1] = [
    Math.max(x0 - margin, 0),
    Math.max(y0 - margin, 0),
    Math.min(x1 + margin, width),
    Math.min(y1 + margin, height),
  ];
  const cut = ({ rgba }: Picture): Picture => {
    const [w, h] = [x1 - x0, y1 - y0];
    const out = new Uint8ClampedArray(w * h * 4);
    for (let y = 0; y < h; y++)
      out.set(rgba.subarray(4 * ((y + y0) * width + x0), 4 * ((y + y0) * width + x1)), 4 * y * w);
    return { rgba: out, width: w, height: h };
  };
  return { before: cut(onScreen(frame.codes, frame.encoding)), after: cut(onScreen(rendered.codes, frame.encoding)) };
}

async function run(task: Task): Promise<AnswerOf[keyof AnswerOf]> {
  switch (task.kind) {
    case 'show':
      return show(task);
    case 'layer':
      return layerPicture(task);
    case 'sample':
      return sample(task);
    case 'density':
      return density(task);
    case 'meter':
      return meter(task);
    case 'hold':
      return hold(task);
    case 'probe':
      return probe(task);
    case 'crop':
      return crop(task);
  }
}

self.onmessage = async ({ data: { id, task } }: MessageEvent<Request>) => {
  let message: Answer;
  try {
    message = { id, ok: true, answer: await run(task) };
  } catch (error) {
    message = { id, ok: false, message: error instanceof Error ? error.message : String(error) };
  }
  const pictures = message.ok && message.answer ? [message.answer, ...Object.values(message.answer)] : [];
  const buffers = pictures.flatMap((p) =>
    p && typeof p === 'object' && 'rgba' in p ? [(p as Picture).rgba.buffer] : [],
  );
  self.postMessage(message, { transfer: [...new Set(buffers)] });
};
