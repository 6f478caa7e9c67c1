// Straight from codes to codes gives what the way over planes of light gives, to the bit, in every encoding.
import { describe, expect, it } from 'vitest';
import { gatheredLight } from '../colour/planes.ts';
import { ENCODING_NAMES, type Encoding } from '../colour/encoding.ts';
import { NEUTRAL_BALANCE } from '../light/balance.ts';
import { randomMatte } from '../testing/mattes.ts';
import { shiftProgram } from '../testing/recipes.ts';
import { toolProgram } from '../testing/finer.ts';
import type { CodePicture } from './picture.ts';
import { noiseOfCodes } from '../testing/codes.ts';
import { plainCodes } from './plainCodes.ts';
import { plainRecolours } from './plainFrame.ts';
import { codesOf, recolourWhole, renderFrame } from './renderFrame.ts';
import type { SightingRender } from './sightingRender.ts';
import { makeTables, sourceFrame, type SourceFrame } from './sourceFrame.ts';

const tables = makeTables();
const program = shiftProgram({ hueDeg: 120, saturation: 1.6, exposureStops: 0.6, density: 0.1 }, 0.9);
const other = shiftProgram({ hueDeg: -60, saturation: 0.6, exposureStops: -0.5 });
const sighting = (of: SightingRender['program']): SightingRender => ({ layers: [], program: of });

/** Two mattes with soft edges that nowhere overlap, cut by a line down the middle. */
function apart(width: number, height: number, seed: number): Float32Array[] {
  const matte = randomMatte(width, height, seed);
  return [0, 1].map((side) => matte.map((a, i) => ((2 * (i % width) < width ? 0 : 1) === side ? a : 0)));
}
/** Codes and light as by way of planes of light, and what is not selected as it came in. */
function checkSame(codes: CodePicture, encoding: Encoding, mattes: Float32Array[]): void {
  for (const sharesChroma of [false, true])
    checkSameOf(() => sourceFrame(codes, encoding, 1, tables, { sharesChroma }), mattes);
}
function checkSameOf(source: () => SourceFrame, mattes: Float32Array[]): void {
  const { codes } = source();
  const sightings = mattes.map((_, k) => sighting(k === 0 ? program : other));
  const own = renderFrame(source(), sightings, tables, (_, i) => mattes[i]!);
  const whole = recolourWhole(source(), sightings, mattes, tables);
  expect(own.codes).toEqual(codesOf(source(), whole, tables));
  const everyThird = Uint32Array.from({ length: Math.ceil(codes.r.length / 3) }, (_, k) => 3 * k);
  expect(own.lightAt(everyThird)).toEqual(gatheredLight(whole.linear, everyThird));
  for (const c of ['r', 'g', 'b'] as const)
    expect(own.codes[c].every((code, i) => mattes.some((m) => m[i]! > 0) || code === codes[c][i])).toBe(true);
}
const straight = (source: SourceFrame, sightings: SightingRender[], mattes: Float32Array[]) => {
  const plain = plainRecolours(source, sightings, mattes);
  return plain && plainCodes(source, plain, tables);
};

describe('plain recolours by kernels', () => {
  it.each(ENCODING_NAMES)('of %s, 8 and 16 bit, one matte and two', (encoding) => {
    for (const Plane of [Uint8Array, Uint16Array]) {
      const codes = noiseOfCodes(Plane, 93, 61, 7);
      checkSame(codes, encoding, [randomMatte(93, 61, 3)]);
      checkSame(codes, encoding, apart(93, 61, 5));
    }
  });
  it.each([
    [1, 1],
    [3, 1],
    [64, 64],
    [67, 62],
    [4099, 2],
  ])('of %i × %i pixels: blocks that are not whole', (width, height) => {
    for (const Plane of [Uint8Array, Uint16Array]) {
      const codes = noiseOfCodes(Plane, width, height, 9);
      checkSame(codes, 'rec709', [new Float32Array(width * height).fill(1)]);
      checkSame(codes, 'rec709', [new Float32Array(width * height)]);
    }
  });
  it('changes what is selected', () => {
    const codes = noiseOfCodes(Uint16Array, 32, 32, 4);
    const all = new Float32Array(1024).fill(1);
    const { r } = straight(sourceFrame(codes, 'rec709', 1, tables), [sighting(program)], [all])!;
    expect(r.filter((code, i) => code !== codes.r[i]).length).toBeGreaterThan(800);
  });
  it('leaves to the other way what it cannot: mattes that meet, finer tools, floats, a balance', () => {
    const codes = noiseOfCodes(Uint16Array, 32, 32, 4);
    const source = sourceFrame(codes, 'rec709', 1, tables);
    const [matte, two] = [randomMatte(32, 32, 3), [sighting(program), sighting(other)]];
    expect(straight(source, two, [matte, matte])).toBeUndefined();
    const finer = sighting(toolProgram({ guard: { on: true } }));
    expect(straight(source, [finer], [matte])).toBeUndefined();
    const floats = { ...codes, r: new Float32Array(1024), g: new Float32Array(1024), b: new Float32Array(1024) };
    expect(straight(sourceFrame(floats, 'rec709', 1, tables), [sighting(program)], [matte])).toBeUndefined();
    const balanced = sourceFrame(codes, 'rec709', 1, tables, { balance: { ...NEUTRAL_BALANCE, warmthMired: 20 } });
    expect(balanced.isBalanced).toBe(true);
    expect(straight(balanced, [sighting(program)], [matte])).toBeUndefined();
  });
});
