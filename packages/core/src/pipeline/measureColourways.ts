import { cutOut } from '../matte/bounds.ts';
import { coverageByParts } from '../measure/coverage.ts';
import type { Program } from '../recolour/program.ts';
import { measureSighting, measureSource, type MeasuredSource, type SightingMeasurement } from './measureSighting.ts';
import { measureSample, pieceSampleOf, type PieceSample } from './pieceSample.ts';
import { doOverlap } from './plainFrame.ts';
import { looksFurther, selectedBox } from './region.ts';
import { recolourFrame } from './renderFrame.ts';
import type { SightingRender } from './sightingRender.ts';
import type { SourceFrame, Tables } from './sourceFrame.ts';

/** A piece's sample on a frame; `nothing` where there is nothing of it to measure. */
export type FrameSample = PieceSample | 'nothing';

export interface MeasuredColourways {
  /** Per colourway; undefined where there is nothing to measure. */
  colourways: (SightingMeasurement | undefined)[];
  /** By which it was measured; undefined where a recolour looks further than that, or another piece meets it. */
  sample: FrameSample | undefined;
}

/**
 * A sighting measured in several colourways on one frame, each as `measureSighting` on the whole of it, to the bit:
 * recoloured only where the mattes select something. `colourways`: the programs of all sightings, for each of them.
 * `mattes`: α of all sightings.
 */
export function measureColourways(
  source: SourceFrame,
  sightings: readonly SightingRender[],
  index: number,
  colourways: readonly (readonly Program[])[],
  mattes: readonly Float32Array[],
  tables: Tables,
): MeasuredColourways {
  const { width, height } = source.codes;
  const own = mattes[index]!;
  const ownBox = selectedBox([own], width, height);
  if (!ownBox) return { colourways: colourways.map(() => undefined), sample: 'nothing' };
  const coverage = coverageByParts(source.oklabIn, own, width, height);
  const partIn = (box: typeof ownBox) => ({
    source: source.within(box),
    mattes: mattes.map((alpha) => cutOut(alpha, width, box)),
  });
  const isAlone = mattes.every((other, k) => k === index || !doOverlap([other, own], width, height));
  let sample: FrameSample | undefined;
  const sampled = (): FrameSample => {
    const part = partIn(ownBox);
    return pieceSampleOf(part.source, part.mattes[index]!, coverage) ?? 'nothing';
  };
  const whole = { source, mattes };
  let part: typeof whole | undefined;
  const known = new Map<typeof whole, MeasuredSource | undefined>();
  const knownOf = (of: typeof whole) => {
    if (!known.has(of)) known.set(of, measureSource(of.source, of.mattes[index]!, coverage));
    return known.get(of);
  };
  const measured = colourways.map((programs) => {
    const renders = sightings.map((s, i) => ({ ...s, program: programs[i]! }));
    const isFar = renders.some(looksFurther);
    if (isAlone && !isFar) return measureFrameSample((sample ??= sampled()), source, [programs[index]!], tables)[0];
    const of = isFar ? whole : (part ??= partIn(selectedBox(mattes, width, height)!));
    const recoloured = recolourFrame(of.source, renders, tables, (_, i) => of.mattes[i]!);
    return measureSighting(of.source, recoloured, index, knownOf(of));
  });
  return { colourways: measured, sample };
}

/** `measureSample`, with undefined for each recolour where there is nothing to measure. */
export const measureFrameSample = (
  sample: FrameSample,
  footage: Parameters<typeof measureSample>[1],
  programs: readonly Program[],
  tables: Tables,
): (SightingMeasurement | undefined)[] =>
  sample === 'nothing' ? programs.map(() => undefined) : measureSample(sample, footage, programs, tables);
