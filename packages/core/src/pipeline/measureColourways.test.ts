// Measured on a part of the frame is measured on all of it.
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { NEUTRAL_FINER } from '../recolour/neutralFiner.ts';
import { compile } from '../recolour/program.ts';
import { NEUTRAL_RECIPE } from '../recolour/shift.ts';
import { seededRandom } from '../testing/mattes.ts';
import { shiftProgram } from '../testing/recipes.ts';
import { measureColourways, measureFrameSample } from './measureColourways.ts';
import { measureSighting } from './measureSighting.ts';
import { recolourWhole } from './renderFrame.ts';
import type { SightingRender } from './sightingRender.ts';
import { makeTables, sourceFrame } from './sourceFrame.ts';

const tables = makeTables();
const [W, H] = [48, 32];
function plane(seed: number): Uint16Array {
  const random = seededRandom(seed);
  return Uint16Array.from({ length: W * H }, (_, i) => 65_535 * Math.min(random() * 0.3 + (i % W) / W, 1));
}
/** A soft disc. */
const disc = (x: number, y: number, radius: number): Float32Array =>
  Float32Array.from({ length: W * H }, (_, i) =>
    Math.min(Math.max((radius - Math.hypot((i % W) - x, Math.floor(i / W) - y)) / 3 + 0.5, 0), 1),
  );
const place = fc.record({
  x: fc.integer({ min: -4, max: W + 4 }),
  y: fc.integer({ min: -4, max: H + 4 }),
  radius: fc.integer({ min: 0, max: 12 }),
});
const turned = shiftProgram({ hueDeg: 120, saturation: 1.4 });
const texture = { ...NEUTRAL_FINER.texture, on: true, softenPx: 2 };
const softened = compile({ ...NEUTRAL_RECIPE, finer: { ...NEUTRAL_FINER, texture } });
/** In the last colourway the other piece looks further than its own pixels. */
const COLOURWAYS = [
  [turned, shiftProgram({ density: 0.4 })],
  [shiftProgram({ exposureStops: 3 }), turned],
  [turned, softened],
];

it('in every colourway, where mattes lie apart, over one another, at the rim, or nowhere', () => {
  const source = sourceFrame({ width: W, height: H, r: plane(1), g: plane(2), b: plane(3) }, 'rec709', 1, tables);
  const sightings: SightingRender[] = COLOURWAYS[0]!.map((program) => ({ program, layers: [] }));
  let isMeasured = 0;
  let isSampled = 0;
  fc.assert(
    fc.property(place, fc.integer({ min: -36, max: 36 }), fc.integer({ min: 4, max: 12 }), (one, aside, radius) => {
      const mattes = [disc(one.x, one.y, one.radius), disc(one.x + aside, one.y + 3, radius)];
      const found = measureColourways(source, sightings, 0, COLOURWAYS, mattes, tables);
      COLOURWAYS.forEach((programs, k) => {
        const renders = sightings.map((s, i) => ({ ...s, program: programs[i]! }));
        const whole = recolourWhole(source, renders, mattes, tables);
        const wanted = measureSighting(source, whole, 0);
        if (wanted) isMeasured++;
        expect(found.colourways[k]).toEqual(wanted);
        if (!found.sample || programs.includes(softened)) return;
        if (wanted) isSampled++;
        expect(measureFrameSample(found.sample, source, [programs[0]!], tables), 'without the frame').toEqual([wanted]);
      });
    }),
    { numRuns: 100, seed: 4 },
  );
  expect(isMeasured).toBeGreaterThan(60);
  expect(isSampled).toBeGreaterThan(60);
});
