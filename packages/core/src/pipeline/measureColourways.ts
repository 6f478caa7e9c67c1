import { cutOut } from '../matte/bounds.ts';
import { coverageOf } from '../measure/coverage.ts';
import type { Program } from '../recolour/program.ts';
import { measureSighting, measureSource, type MeasuredSource, type SightingMeasurement } from './measureSighting.ts';
import { looksFurther, selectedBox } from './region.ts';
import { recolourFrame } from './renderFrame.ts';
import type { SightingRender } from './sightingRender.ts';
import type { SourceFrame, Tables } from './sourceFrame.ts';

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
): (SightingMeasurement | undefined)[] {
  const { width, height } = source.codes;
  const own = mattes[index]!;
  const box = selectedBox(mattes, width, height);
  if (!box) return colourways.map(() => undefined);
  const coverage = coverageOf(source.oklab(), own, width, height);
  const part = { source: source.within(box), mattes: mattes.map((alpha) => cutOut(alpha, width, box)) };
  const whole = { source, mattes };
  const known = new Map<typeof whole, MeasuredSource | undefined>();
  const knownOf = (of: typeof whole) => {
    if (!known.has(of)) known.set(of, measureSource(of.source, of.mattes[index]!, coverage));
    return known.get(of);
  };
  return colourways.map((programs) => {
    const renders = sightings.map((s, i) => ({ ...s, program: programs[i]! }));
    const of = renders.some(looksFurther) ? whole : part;
    const recoloured = recolourFrame(of.source, renders, tables, (_, i) => of.mattes[i]!);
    return measureSighting(of.source, recoloured, index, knownOf(of));
  });
}
