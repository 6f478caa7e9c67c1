// A piece matched over some frames of its shot: the samples of all are solved for at once.
import {
  carriedLab,
  clippingOf,
  compile,
  labFromLinear709,
  NEUTRAL_GAIN,
  NEUTRAL_PROGRAM,
  NEUTRAL_SHIFT,
  meanAfter,
  pieceSamples,
  REFERENCE_LIGHT,
  solveGain,
  solveShift,
  type Encoding,
  type PieceSamples,
} from '@mellow/core';
import type { FrameScene, MatchAnswer, Task } from './frameProtocol.ts';
import type { FrameStore } from './frameStore.ts';
import { mattesOf } from './stackMattes.ts';

/** The pixels of the piece in hand on all frames; undefined where none shows any. */
async function samplesOf(store: FrameStore, scenes: readonly FrameScene[]): Promise<PieceSamples | undefined> {
  const all: PieceSamples[] = [];
  for (const scene of scenes) {
    const frame = await store.frame(scene.frame);
    const alpha = (await mattesOf(store, frame, scene))(scene.sightings[scene.index]!, scene.index);
    const samples = pieceSamples(frame.linear(), alpha, clippingOf(frame.codes));
    // each frame counts alike, as it does in the shot's own colour
    if (samples) all.push({ ...samples, weight: normalised(samples.weight) });
  }
  if (all.length === 0) return undefined;
  const joined = (of: (s: PieceSamples) => Float32Array) => Float32Array.from(all.flatMap((s) => [...of(s)]));
  return { r: joined((s) => s.r), g: joined((s) => s.g), b: joined((s) => s.b), weight: joined((s) => s.weight) };
}
function normalised(weight: Float32Array): Float32Array {
  const sum = weight.reduce((a, b) => a + b, 0);
  return weight.map((w) => w / sum);
}

const encodingOf = (scenes: readonly FrameScene[]): Encoding => scenes[0]!.frame.encoding;

export async function sourceColour(
  store: FrameStore,
  scenes: readonly FrameScene[],
): Promise<{ meanLinear: [number, number, number] } | undefined> {
  const samples = await samplesOf(store, scenes);
  return samples && { meanLinear: [...meanAfter(samples, NEUTRAL_PROGRAM, encodingOf(scenes))] as never };
}

export async function matched(
  store: FrameStore,
  { scenes, way, wanted, carried, recipe, light = REFERENCE_LIGHT, trim }: Extract<Task, { kind: 'match' }>,
): Promise<MatchAnswer | undefined> {
  const samples = await samplesOf(store, scenes);
  if (!samples) return undefined;
  const encoding = encodingOf(scenes);
  const source = labFromLinear709(meanAfter(samples, NEUTRAL_PROGRAM, encoding));
  const target = carriedLab(source, wanted, carried);
  if (way === 'shift') {
    const by = solveShift(samples, target, encoding, (shift) =>
      compile({ ...recipe, match: NEUTRAL_GAIN, shift }, light, trim),
    );
    return { shift: by.found, reached: by.reached, deltaE: by.deltaE };
  }
  const program =
    way === 'gain'
      ? (match: MatchGain) => compile({ ...recipe, match, shift: NEUTRAL_SHIFT }, light, trim)
      : (gain: MatchGain) => compile(recipe, light, { gain, shift: trim?.shift ?? NEUTRAL_SHIFT });
  const by = solveGain(samples, target, encoding, light, program);
  return { gain: by.found, reached: by.reached, deltaE: by.deltaE };
}
type MatchGain = Parameters<Parameters<typeof solveGain>[4]>[0];
