// A piece matched over some frames of its shot: the samples of all are solved for at once.
import {
  carriedLab,
  clippingOf,
  compile,
  dyeForLift,
  findSheenBody,
  labFromLinear709,
  NEUTRAL_GAIN,
  NEUTRAL_PROGRAM,
  NEUTRAL_RECIPE,
  NEUTRAL_SHIFT,
  NO_REPAINT,
  meanAfter,
  pieceSamples,
  reachOutline,
  REFERENCE_LIGHT,
  sheenOf,
  sheenSamples,
  softenForGain,
  solveGain,
  solveShift,
  type Encoding,
  linear709FromLab,
  luminanceOf,
  type Gain,
  type Lab,
  type PieceSamples,
  type SheenBody,
  type SourceFrame,
} from '@mellow/core';
import type { FrameScene, MatchAnswer, Task } from './frameProtocol.ts';
import type { FrameStore } from './frameStore.ts';
import { mattesOf } from './stackMattes.ts';

/** A frame with the matte of the piece in hand. */
interface Matted {
  frame: SourceFrame;
  alpha: Float32Array;
}
async function mattedOf(store: FrameStore, scenes: readonly FrameScene[]): Promise<Matted[]> {
  const all: Matted[] = [];
  for (const scene of scenes) {
    const frame = await store.frame(scene.frame);
    all.push({ frame, alpha: (await mattesOf(store, frame, scene))(scene.sightings[scene.index]!, scene.index) });
  }
  return all;
}

/** The pixels of the piece in hand on all frames; undefined where none shows any. */
function samplesOf(matted: readonly Matted[], body?: SheenBody): PieceSamples | undefined {
  const all: PieceSamples[] = [];
  for (const { frame, alpha } of matted) {
    const { width, height } = frame.codes;
    const sheen = body && sheenOf(frame.linear(), alpha, width, height, body, frame.scale);
    const samples = pieceSamples(frame.linear(), alpha, clippingOf(frame.codes), sheen);
    // each frame counts alike, as it does in the shot's own colour
    if (samples) all.push({ ...samples, weight: normalised(samples.weight) });
  }
  if (all.length === 0) return undefined;
  const joined = (of: (s: PieceSamples) => Float32Array) => Float32Array.from(all.flatMap((s) => [...of(s)]));
  const planes = { r: joined((s) => s.r), g: joined((s) => s.g), b: joined((s) => s.b) };
  return { ...planes, weight: joined((s) => s.weight), ...(body && { sheen: joined((s) => s.sheen!) }) };
}
function normalised(weight: Float32Array): Float32Array {
  const sum = weight.reduce((a, b) => a + b, 0);
  return weight.map((w) => w / sum);
}

const luminanceOfLab = (lab: Lab): number => Math.max(luminanceOf(linear709FromLab(lab)), 1e-6);
const encodingOf = (scenes: readonly FrameScene[]): Encoding => scenes[0]!.frame.encoding;

export async function sourceColour(
  store: FrameStore,
  scenes: readonly FrameScene[],
): Promise<{ meanLinear: [number, number, number] } | undefined> {
  const samples = samplesOf(await mattedOf(store, scenes));
  return samples && { meanLinear: [...meanAfter(samples, NEUTRAL_PROGRAM, encodingOf(scenes))] as never };
}

/** What tells sheen from body, from all frames at once. */
const bodyIn = (matted: readonly Matted[]): SheenBody | undefined =>
  findSheenBody(
    matted.flatMap(({ frame, alpha }) => sheenSamples(frame.linear(), alpha, frame.codes.width, frame.codes.height)),
  );

/** Nothing but sheen told apart. */
const SPLIT_RECIPE = { ...NEUTRAL_RECIPE, repaint: { on: true, sheen: 1 } };

export async function matched(
  store: FrameStore,
  {
    scenes,
    way,
    wanted,
    carried,
    of,
    recipe,
    light = REFERENCE_LIGHT,
    trim,
    body: known,
  }: Extract<Task, { kind: 'match' }>,
): Promise<MatchAnswer | undefined> {
  const matted = await mattedOf(store, scenes);
  const body = way === 'repaint' ? bodyIn(matted) : known;
  const isSplit = way === 'repaint' || (way === 'trim' && recipe.repaint.on);
  const samples = samplesOf(matted, isSplit ? body : undefined);
  if (!samples) return undefined;
  const encoding = encodingOf(scenes);
  const asFilmed = body && isSplit ? compile(SPLIT_RECIPE, undefined, undefined, body) : NEUTRAL_PROGRAM;
  const source = labFromLinear709(meanAfter(samples, asFilmed, encoding, of));
  const target = carriedLab(source, wanted, carried);
  if (way === 'shift') {
    const by = solveShift(samples, target, encoding, (shift) =>
      compile({ ...recipe, match: NEUTRAL_GAIN, repaint: NO_REPAINT, shift }, light, trim, undefined, encoding),
    );
    return { shift: by.found, reached: by.reached, deltaE: by.deltaE };
  }
  const isMatch = way === 'gain' || way === 'repaint';
  const lifted =
    isMatch && !recipe.finer.dye.on ? dyeForLift(luminanceOfLab(source), luminanceOfLab(target)) : undefined;
  const finer = lifted ? { ...recipe.finer, dye: { on: true, concentration: lifted } } : recipe.finer;
  const repaint = way === 'repaint' ? { ...recipe.repaint, on: true } : NO_REPAINT;
  const program =
    way === 'trim'
      ? (gain: Gain) => compile(recipe, light, { gain, shift: trim?.shift ?? NEUTRAL_SHIFT }, body, encoding)
      : (match: Gain) =>
          compile({ ...recipe, finer, match, repaint, shift: NEUTRAL_SHIFT }, light, trim, body, encoding);
  const by = solveGain(samples, target, encoding, light, program, of);
  const softenPx = recipe.finer.texture.on ? undefined : softenForGain(by.found);
  return {
    gain: by.found,
    reached: by.reached,
    deltaE: by.deltaE,
    ...(lifted && { dye: lifted }),
    ...(isMatch && softenPx !== undefined && { softenPx }),
    ...(way === 'repaint' && body && { body }),
  };
}

/** So many samples show what is cut off of a piece. */
const REACH_SAMPLES = 300;
/** What the piece can be matched to, from some of its pixels. */
export async function reached(
  store: FrameStore,
  { scenes, lightness, tolerance, recipe, light = REFERENCE_LIGHT }: Extract<Task, { kind: 'reach' }>,
): Promise<{ outline: { a: number; b: number }[] } | undefined> {
  const samples = samplesOf(await mattedOf(store, scenes));
  if (!samples) return undefined;
  const step = Math.max(Math.floor(samples.r.length / REACH_SAMPLES), 1);
  const some = (plane: Float32Array) => plane.filter((_, i) => i % step === 0);
  const few = { r: some(samples.r), g: some(samples.g), b: some(samples.b), weight: some(samples.weight) };
  const encoding = encodingOf(scenes);
  const program = (match: Gain) =>
    compile({ ...recipe, match, repaint: NO_REPAINT, shift: NEUTRAL_SHIFT }, light, undefined, undefined, encoding);
  return { outline: reachOutline(few, lightness, encoding, light, tolerance, program) };
}
