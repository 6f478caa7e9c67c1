// Unpacks a request, calls core, sends the buffers back.
import {
  boundsOfMatte,
  grownBox,
  makeTables,
  measureSighting,
  measureSource,
  provideSelector,
  renderFrame,
  resampledMatte,
  thinned,
  type MeasuredSource,
  type RenderedFrame,
  type SightingMeasurement,
  type SourceFrame,
} from '@mellow/core';
import { expose, transfer } from 'comlink';
import type { AnswerOf, FrameScene, Picture, ShowTask, Task } from './frameProtocol.ts';
import { FrameStore } from './frameStore.ts';
import { Looks } from './looks.ts';
import { needsRender, pictureOf, seen, type Computed, type SeenThrough } from './pictureOf.ts';
import { croppedPicture, greyOnScreen, markNearInPlace, onScreen, scaledPicture } from './screen.ts';
import { SharedPictures } from './sharedPictures.ts';
import { layerMatte, mattesOf } from './stackMattes.ts';
import { workerCount } from './workerCount.ts';

const tables = makeTables();
const shared = new SharedPictures();
const store = new FrameStore(tables, { workers: workerCount(), shared });
const looks = new Looks();
/** Loaded when they are asked for: the first picture does without. */
const figures = () => import('./figures.ts');
const overTime = () => import('./overTime.ts');
/** What was shown last, for the probe. */
let shown: { key: string; url: string; computed: Computed; index: number } | undefined;
/** What a picture depends on: not whether it is measured too. */
const pictureKey = (task: ShowTask): string => JSON.stringify({ ...task, measure: undefined, onTheWay: undefined });
/** Of a picture that changes under the hand the newest there is will do. */
const isShown = (task: ShowTask): boolean =>
  shown !== undefined && (task.onTheWay ? shown.url === task.frame.url : shown.key === pictureKey(task));

async function compute(task: ShowTask): Promise<Computed> {
  const { index, sightings, solo } = task;
  const frame = await store.frame(task.frame);
  const matteOf = await mattesOf(store, frame, task);
  const rendered = needsRender(task) ? renderFrame(frame, sightings, tables, matteOf) : undefined;
  const alpha = () => {
    if (solo) return layerMatte(frame, solo);
    if (index < 0 || task.show === 'Source') return new Float32Array(frame.codes.r.length);
    return rendered?.mattes[index] ?? matteOf(sightings[index]!, index);
  };
  return { frame, rendered, alpha: alpha(), isSolo: solo !== undefined, through: await seenThrough(task) };
}
async function seenThrough({ look: asked, viewTableUrl, stops }: ShowTask): Promise<SeenThrough> {
  if (!asked && viewTableUrl === undefined) return { stops };
  const { throughLook } = await figures();
  const look = asked && (await looks.look(asked));
  const table = await looks.table(viewTableUrl);
  return {
    look: look && ((codes) => throughLook(codes, look)),
    viewTable: table && ((codes) => throughLook(codes, { table })),
    stops,
  };
}

/** While a hand moves figures are of about so many pixels of a piece: within a few hundredths of a ΔE00 of all. */
const PIXELS_ON_THE_WAY = 6000;
interface Known {
  whole: MeasuredSource;
  onTheWay: MeasuredSource;
}
/** What a matte measures on a frame whatever the recolour, kept for as long as frame and matte are. */
const known = new WeakMap<SourceFrame, WeakMap<Float32Array, Known>>();
function knownOf(frame: SourceFrame, matte: Float32Array): Known | undefined {
  const ofFrame = known.get(frame) ?? new WeakMap<Float32Array, Known>();
  known.set(frame, ofFrame);
  const before = ofFrame.get(matte);
  if (before) return before;
  const whole = measureSource(frame, matte);
  if (!whole) return undefined;
  const found = { whole, onTheWay: { ...whole, pixels: thinned(whole.pixels, PIXELS_ON_THE_WAY) } };
  ofFrame.set(matte, found);
  return found;
}
function measuredOf(
  frame: SourceFrame,
  rendered: RenderedFrame,
  { index, onTheWay }: ShowTask,
): SightingMeasurement | undefined {
  const found = knownOf(frame, rendered.mattes[index]!);
  return found && measureSighting(frame, rendered, index, onTheWay ? found.onTheWay : found.whole);
}

async function scopeIn(
  { frame, rendered, alpha }: Computed,
  { show, index }: ShowTask,
  asked: ShowTask['scope'] & object,
) {
  const codes = show === 'Source' ? frame.codes : (rendered?.codes ?? frame.codes);
  const { scopeOf } = await figures();
  return scopeOf(asked.kind, codes, frame.encoding, asked.part, rendered?.mattes[index] ?? alpha);
}

/** What the shown picture is compared with: the source, a layer's own matte, or the result of another scene. */
async function otherPicture({ frame, through }: Computed, { against, againstLayer }: ShowTask): Promise<Picture> {
  const { width, height } = frame.codes;
  if (againstLayer) return greyOnScreen(layerMatte(frame, againstLayer), width, height);
  if (!against) return seen(frame.codes, frame, through);
  const other = await store.frame(against.frame);
  const rendered = renderFrame(other, against.sightings, tables, await mattesOf(store, other, against));
  return seen(rendered.codes, other, through);
}

/** The matte with those of the frames beside it; at either end of the shot with the one that there is. */
async function matteAndBeside({ frame, alpha }: Computed, { before, after }: ShowTask['beside'] & object) {
  const [was, next] = [before && (await matteInHand(before)).alpha, after && (await matteInHand(after)).alpha];
  const { ghosted } = await overTime();
  return ghosted(alpha, was ?? alpha, next ?? alpha, frame.codes.width, frame.codes.height);
}

async function show(task: ShowTask): Promise<AnswerOf['show']> {
  const computed = await compute(task);
  const { frame, rendered } = computed;
  const picture = task.beside ? await matteAndBeside(computed, task.beside) : pictureOf(computed, task);
  if (task.near) markNearInPlace(picture, frame.oklab().a, frame.oklab().b, task.near);
  shown = { key: pictureKey(task), url: task.frame.url, computed, index: task.index };
  const isMeasured = task.measure && task.index >= 0 && rendered;
  return {
    picture,
    source: task.withSource ? await otherPicture(computed, task) : undefined,
    measured: isMeasured ? measuredOf(frame, rendered, task) : undefined,
    scope: task.scope && (await scopeIn(computed, task, task.scope)),
  };
}

/** The matte in hand on a scene, at the size of its proxy. */
async function matteInHand(scene: FrameScene) {
  const source = await store.frame(scene.frame);
  const alpha = (await mattesOf(store, source, scene))(scene.sightings[scene.index]!, scene.index);
  const { width, height } = source.codes;
  return { source, alpha, width, height, scale: source.scale };
}

/** Loaded where something is matched: the first picture does without. */
const matching = () => import('./matching.ts');

/** What each task does. */
const DO: { [K in Task['kind']]: (task: Extract<Task, { kind: K }>) => Promise<AnswerOf[K]> } = {
  show,
  async load({ frame, around = [] }) {
    await Promise.all([frame, ...around.map((a) => a.frame)].map((ref) => store.frame(ref)));
    return undefined;
  },
  async meet({ port }) {
    shared.meet(port);
    return undefined;
  },
  prefetch: async ({ url }) => ({ bytes: await store.prefetch(url) }),
  async layer({ frame: ref, layer, width }) {
    const frame = await store.frame(ref);
    const small = resampledMatte(layerMatte(frame, layer), frame.codes.width, frame.codes.height, width);
    return greyOnScreen(small.alpha, small.width, small.height);
  },
  async sample({ frame: ref, reads, ...rect }) {
    const frame = await store.frame(ref);
    const { width, height } = frame.codes;
    const { pickedSamples } = await figures();
    return { samples: pickedSamples(frame.oklab(reads), { width, height, scale: frame.scale }, rect) };
  },
  async looks({ frame: ref, stroke }) {
    const frame = await store.frame(ref);
    const { width, height } = frame.codes;
    const { strokeLooks } = await figures();
    return { looks: strokeLooks({ oklab: frame.oklab('balanced'), width, height, scale: frame.scale }, stroke) };
  },
  async holding({ frame: ref, strokes }) {
    const frame = await store.frame(ref);
    const { width, height } = frame.codes;
    const { partsThatHold } = await figures();
    const held = partsThatHold(strokes, { oklab: frame.oklab('balanced'), width, height, scale: frame.scale });
    const isWhole = (k: number) => held[k]!.length === 1 && held[k]![0] === strokes[k];
    return { parts: held.map((parts, k) => (isWhole(k) ? null : parts.map(({ points }) => points))) };
  },
  async 'patch colours'({ patches }) {
    const { meanOfRect } = await figures();
    const means: [number, number, number][] = [];
    for (const { frame: ref, ...rect } of patches) {
      const frame = await store.frame(ref);
      means.push(meanOfRect(frame.linear(), frame.codes, rect, frame.scale));
    }
    return { means };
  },
  async density({ frame: ref, reads }) {
    const frame = await store.frame(ref);
    const { colourDensity } = await figures();
    return colourDensity(frame.oklab(reads), frame.matteSource.encoded(reads), frame.linear());
  },
  async matte(scene) {
    const { alpha, width, height } = await matteInHand(scene);
    const small = resampledMatte(alpha, width, height, scene.width);
    return greyOnScreen(small.alpha, small.width, small.height);
  },
  async meter(scene) {
    const { source, alpha, width, height } = await matteInHand(scene);
    const { clippingOf, meterMatte } = await figures();
    return meterMatte(alpha, width, height, clippingOf(source.codes));
  },
  async 'over time'({ now, before, track }) {
    const { heldOverTime } = await overTime();
    const [here, was] = [await matteInHand(now), before && (await matteInHand(before))];
    const reference = track && (await matteInHand(track.reference));
    return heldOverTime(here, was, track && { reference: reference!, motion: track.motion });
  },
  async probe({ x, y, task }) {
    // the picture on screen may have come from the cache of computed frames
    if (!isShown(task)) await show(task);
    const { probePixel } = await figures();
    return shown && probePixel(shown.computed.frame, shown.computed.rendered, shown.index, x, y);
  },
  match: async (task) => (await matching()).matched(store, task),
  reach: async (task) => (await matching()).reached(store, task),
  async split(scene) {
    const frame = await store.frame(scene.frame);
    const alpha = (await mattesOf(store, frame, scene))(scene.sightings[scene.index]!, scene.index);
    const { splitPictures } = await import('./split.ts');
    return splitPictures(frame, alpha, scene.sightings[scene.index]!.program, scene.width);
  },
  async texture(scene) {
    const frame = await store.frame(scene.frame);
    const rendered = renderFrame(frame, scene.sightings, tables, await mattesOf(store, frame, scene));
    const matte = rendered.mattes[scene.index]!;
    const { textureFigures } = await figures();
    return textureFigures(frame.linear(), rendered.linear, matte, frame.codes.width, frame.scale);
  },
  async 'recipe cube'({ title, program, encoding, size, as }) {
    const { beyondTable, clfText, cubeText, recipeCube } = await import('@mellow/core/handOver');
    const { cube, ...off } = recipeCube(title, program, encoding, size);
    const text = as === 'clf' ? clfText(cube, `urn:uuid:${crypto.randomUUID()}`) : cubeText(cube);
    return { text, ...off, beyond: beyondTable(program) };
  },
  async 'recipe CDL'({ program, encoding }) {
    const { beyondTable, recipeCdl } = await import('@mellow/core/handOver');
    return { ...recipeCdl(program, encoding), beyond: beyondTable(program) };
  },
  'source colour': async ({ scenes }) => (await matching()).sourceColour(store, scenes),
  async thumbnail(scene) {
    const frame = await store.frame(scene.frame);
    const rendered = renderFrame(frame, scene.sightings, tables, await mattesOf(store, frame, scene));
    return {
      picture: scaledPicture(onScreen(rendered.codes, frame.encoding), scene.width),
      measured: scene.index >= 0 ? measureSighting(frame, rendered, scene.index) : undefined,
    };
  },
  async 'cut-out'(scene) {
    const { source, alpha } = await matteInHand(scene);
    const { cutOutCell } = await overTime();
    return cutOutCell(onScreen(source.codes, source.encoding), alpha, scene.width, scene.height);
  },
  async 'carry quickly'({ frame: on, layer, following, ...cell }) {
    const frame = await store.frame(on);
    const next: SourceFrame[] = [];
    for (const ref of following) next.push(await store.frame(ref));
    const { carriedCells } = await import('./carriedCells.ts');
    return { cells: carriedCells(frame, layerMatte(frame, layer), next, cell) };
  },
  async crop(scene) {
    const frame = await store.frame(scene.frame);
    const { width, height } = frame.codes;
    const rendered = renderFrame(frame, scene.sightings, tables, await mattesOf(store, frame, scene));
    const bounds = boundsOfMatte(rendered.mattes[scene.index]!, width, height);
    if (!bounds) return undefined;
    const box = grownBox(bounds, CROP_MARGIN, width, height);
    return {
      before: croppedPicture(onScreen(frame.codes, frame.encoding), box),
      after: croppedPicture(onScreen(rendered.codes, frame.encoding), box),
    };
  },
};
/** Round a piece cut out of its frame, of its longer side. */
const CROP_MARGIN = 0.12;

const isPicture = (value: unknown): value is Picture => typeof value === 'object' && value !== null && 'rgba' in value;

/** Selecting by strokes is loaded with the first scribble, wherever in a task one stands. */
async function loadedFor(task: Task): Promise<void> {
  if (canSelect || !JSON.stringify(task).includes('"kind":"scribble"')) return;
  provideSelector((await import('@mellow/core/selection')).selectionInto);
  canSelect = true;
}
let canSelect = false;

/** Does a task. Pictures are handed over, not copied. */
async function run<T extends Task>(task: T): Promise<AnswerOf[T['kind']]> {
  await loadedFor(task);
  const answer = await (DO[task.kind] as unknown as (task: T) => Promise<AnswerOf[T['kind']]>)(task);
  if (answer === undefined) return answer;
  const parts: unknown[] = [answer, ...(Object.values(answer) as unknown[])];
  return transfer(answer, [...new Set(parts.filter(isPicture).map((p) => p.rgba.buffer))]);
}
export type FrameWorker = typeof run;
expose(run);
