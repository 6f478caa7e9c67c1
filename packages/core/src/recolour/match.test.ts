// Matches on pieces whose pixels are known: what is found takes their mean where it is wanted.
import { describe, expect, it } from 'vitest';
import { ciede2000 } from '../colour/ciede2000.ts';
import { labFromHex } from '../colour/hex.ts';
import { labFromLinear709, lchFromLab, linear709FromLab, type Lab } from '../colour/lab.ts';
import { gainMatrix } from '../colour/cat16.ts';
import { transform } from '../colour/matrix3.ts';
import type { Encoding } from '../colour/encoding.ts';
import type { Gain, RecipeNumbers, SheenBody } from '../document/recipe.ts';
import { carriedLab, dyeForLift, meanAfter, pieceSamples, softenForGain, solveGain, solveShift } from './match.ts';
import { compile, recoloured, REFERENCE_LIGHT } from './program.ts';
import { NEUTRAL_GAIN, NEUTRAL_RECIPE, NEUTRAL_SHIFT } from './shift.ts';
import { seededRandom } from '../testing/mattes.ts';

type Rgb = readonly [number, number, number];
const TEAL: Rgb = [0.045, 0.24, 0.235];
/** A body in many shades, with some sheen. */
function piece([r, g, b]: Rgb, n = 600) {
  const random = seededRandom(9);
  const planes = { r: new Float32Array(n), g: new Float32Array(n), b: new Float32Array(n) };
  for (let i = 0; i < n; i++) {
    const [shade, sheen] = [0.3 + 0.9 * random(), 0.03 * random() ** 3];
    planes.r[i] = r * shade + sheen;
    planes.g[i] = g * shade + sheen;
    planes.b[i] = b * shade + sheen;
  }
  return pieceSamples(planes, new Float32Array(n).fill(1), () => false)!;
}
const [MARIGOLD, PLUM, PETROL, OXBLOOD] = ['#d99a2b', '#6d3a66', '#2f5a6e', '#6a2320'].map((h) => labFromHex(h)!) as [
  Lab,
  Lab,
  Lab,
  Lab,
];
const withMatch = (match: Gain) => compile({ ...NEUTRAL_RECIPE, match });
const withShift = (shift: RecipeNumbers['shift']) => compile({ ...NEUTRAL_RECIPE, shift });
const byGain = (samples: ReturnType<typeof piece>, wanted: Lab, encoding: Encoding = 'srgb') =>
  solveGain(samples, wanted, encoding, REFERENCE_LIGHT, withMatch);

describe('a match by gain', () => {
  it.each([
    ['teal to marigold', TEAL, MARIGOLD],
    ['teal to plum', TEAL, PLUM],
    ['pale grey to petrol', [0.56, 0.565, 0.57] as Rgb, PETROL],
    ['mint to oxblood', [0.33, 0.56, 0.44] as Rgb, OXBLOOD],
    ['black to grey', [0.02, 0.02, 0.02] as Rgb, { L: 50, a: 0, b: 0 }],
  ])('%s lands within ΔE00 0.1, and what it says is so', (_, from, wanted) => {
    const samples = piece(from);
    const { found, reached, deltaE } = byGain(samples, wanted);
    const after = labFromLinear709(meanAfter(samples, withMatch(found), 'srgb'));
    expect(ciede2000(after, wanted)).toBeLessThan(0.1);
    expect(deltaE).toBeCloseTo(ciede2000(after, wanted), 9);
    expect(ciede2000(reached, after)).toBeLessThan(1e-9);
  });
  it('is the ratio of cone responses where nothing is cut off', () => {
    const samples = piece([0.2, 0.2, 0.2]);
    const mean = meanAfter(samples, withMatch(NEUTRAL_GAIN), 'linear709');
    const wanted = labFromLinear709(transform(gainMatrix([1.3, 1.1, 0.8]), mean));
    const { found } = byGain(samples, wanted, 'linear709');
    [found.long, found.middle, found.short].forEach((v, i) => expect(v).toBeCloseTo([1.3, 1.1, 0.8][i]!, 4));
  });
  it('says how near it comes where the encoding ends before the colour does', () => {
    // no display of BT.709 shows a green of chroma 150 at L* 60
    const { deltaE, reached } = byGain(piece(TEAL), { L: 60, a: -150, b: 60 });
    expect(deltaE).toBeGreaterThan(2);
    expect(deltaE).toBeCloseTo(ciede2000(reached, { L: 60, a: -150, b: 60 }), 9);
  });
  it('is stated in the reference light: a warmer, darker shot needs the same gain', () => {
    const light = gainMatrix([0.9, 0.8, 0.45]);
    const seen = piece(TEAL);
    for (let i = 0; i < seen.r.length; i++)
      [seen.r[i], seen.g[i], seen.b[i]] = transform(light, [seen.r[i]!, seen.g[i]!, seen.b[i]!]);
    const here = labFromLinear709(transform(light, linear709FromLab(PLUM)));
    const found = solveGain(seen, here, 'srgb', light, (match) => compile({ ...NEUTRAL_RECIPE, match }, light)).found;
    const reference = byGain(piece(TEAL), PLUM).found;
    for (const k of ['long', 'middle', 'short'] as const) expect(found[k] / reference[k]).toBeCloseTo(1, 2);
  });
  it('as a trim takes up what the recipe leaves', () => {
    const recipe = { ...NEUTRAL_RECIPE, shift: { ...NEUTRAL_SHIFT, hueDeg: -120 } };
    const trimmed = (gain: Gain) => compile(recipe, REFERENCE_LIGHT, { gain, shift: NEUTRAL_SHIFT });
    const { deltaE } = solveGain(piece(TEAL), MARIGOLD, 'srgb', REFERENCE_LIGHT, trimmed);
    expect(deltaE).toBeLessThan(0.1);
  });
  it('makes up for a strength of less than all', () => {
    const half = (match: Gain) => compile({ ...NEUTRAL_RECIPE, match, strength: 0.7 });
    expect(solveGain(piece(TEAL), { L: 50, a: 0, b: 0 }, 'srgb', REFERENCE_LIGHT, half).deltaE).toBeLessThan(0.1);
  });
});

describe('a match of the body', () => {
  /** Teal with more and more sheen of a warm light. */
  const light = [1.1, 1, 0.7] as const;
  const sheen = Float32Array.from({ length: 400 }, (_, i) => 0.0003 * i);
  const plane = (c: 0 | 1 | 2) => sheen.map((s, i) => TEAL[c] * (0.6 + (i % 7) / 10) + s * light[c]);
  const glossy = { r: plane(0), g: plane(1), b: plane(2), weight: sheen.map(() => 1), sheen };
  const told: SheenBody = { light: [...light], slope: 1.7, direction: -1, confidence: 1, invariant: 0 };
  const split = (match: Gain, kept = 1) =>
    compile({ ...NEUTRAL_RECIPE, match, repaint: { on: true, sheen: kept } }, undefined, undefined, told);
  it('lands the body on the required colour and leaves the sheen on it, however much of it is kept', () => {
    const bare = { ...glossy, r: glossy.r.map((v, i) => v - sheen[i]! * light[0]) };
    for (const kept of [1, 0.4]) {
      const { found, deltaE } = solveGain(glossy, PLUM, 'linear709', REFERENCE_LIGHT, (g) => split(g, kept), 'body');
      expect(deltaE).toBeLessThan(0.1);
      const of = (what: 'mean' | 'body') => labFromLinear709(meanAfter(glossy, split(found, kept), 'linear709', what));
      expect(ciede2000(of('body'), PLUM)).toBeLessThan(0.1);
      expect(ciede2000(of('mean'), PLUM)).toBeGreaterThan(1);
      // the body is what the same gain makes of the picture without its sheen
      const own = { ...bare, g: glossy.g.map((v, i) => v - sheen[i]!), b: glossy.b.map((v, i) => v - sheen[i]! * 0.7) };
      const plain = labFromLinear709(meanAfter({ ...own, sheen: undefined }, withMatch(found), 'linear709'));
      expect(ciede2000(of('body'), plain)).toBeLessThan(0.01);
    }
  });
  it('is one of the mean where sheen is not told apart', () => {
    const program = withMatch({ long: 2, middle: 0.8, short: 0.5 });
    expect(meanAfter(glossy, program, 'srgb', 'body')).toEqual(meanAfter(glossy, program, 'srgb'));
  });
});

describe('a match by hue, saturation and density', () => {
  it.each([
    ['marigold', MARIGOLD],
    ['plum', PLUM],
    ['petrol', PETROL],
  ])('takes a teal piece to %s', (_, wanted) => {
    const { found, deltaE } = solveShift(piece(TEAL), wanted, 'srgb', withShift);
    expect(deltaE).toBeLessThan(0.1);
    expect(Math.abs(found.hueDeg)).toBeLessThanOrEqual(180);
    expect(found.exposureStops).toBe(0);
  });
  it('cannot take a grey to a colour, and says how far it stays', () => {
    const { deltaE } = solveShift(piece([0.3, 0.3, 0.3]), OXBLOOD, 'srgb', withShift);
    expect(deltaE).toBeGreaterThan(8);
  });
});

describe('what is carried of a colour', () => {
  const [from, to] = [
    { L: 40, a: 30, b: 0 },
    { L: 70, a: 0, b: 50 },
  ];
  const carried = (hue: boolean, saturation: boolean, lightness: boolean) => {
    const lch = lchFromLab(carriedLab(from, to, { hue, saturation, lightness }));
    return [lch.L, lch.C, lch.hDeg].map((v) => +v.toFixed(6));
  };
  it('is the wanted, the rest the source’s', () => {
    expect(carried(true, true, true)).toEqual([70, 50, 90]);
    expect(carried(true, false, false)).toEqual([40, 30, 90]);
    expect(carried(false, true, false)).toEqual([40, 50, 0]);
    expect(carried(false, false, true)).toEqual([70, 30, 0]);
  });
});

describe('the samples of a piece', () => {
  const n = 10_000;
  const ramp = Float32Array.from({ length: n }, (_, i) => i / n);
  const planes = { r: ramp, g: ramp, b: ramp };
  it('are its solid, unclipped pixels, evenly spread, 4,096 at most', () => {
    const alpha = Float32Array.from({ length: n }, (_, i) => (i < 8000 ? 0.95 : 0.85));
    const all = pieceSamples(planes, alpha, (i) => i < 100)!;
    expect(all.r.length).toBe(4096);
    expect([all.r[0], all.r.at(-1)! > 0.79, Math.max(...all.r) < 0.8]).toEqual([ramp[100], true, true]);
    const few = pieceSamples(planes, alpha, (i) => i % 2000 !== 0)!;
    expect([...few.r]).toEqual([0, 2000, 4000, 6000].map((i) => ramp[i]));
    expect(few.weight[0]).toBe(alpha[0]);
  });
  it('there are none where nothing is solid', () =>
    expect(pieceSamples(planes, new Float32Array(n).fill(0.5), () => false)).toBeUndefined());
  it('have the mean that is encoded: what no code holds is cut off', () => {
    const two = pieceSamples(
      { r: Float32Array.of(0.5, 0.9), g: Float32Array.of(0.2, 0.2), b: Float32Array.of(0.1, 0.1) },
      Float32Array.of(1, 1),
      () => false,
    )!;
    const brighter = compile({ ...NEUTRAL_RECIPE, shift: { ...NEUTRAL_SHIFT, exposureStops: 1 } });
    meanAfter(two, brighter, 'srgb').forEach((v, c) => expect(v).toBeCloseTo([1, 0.4, 0.2][c]!, 6));
  });
});

it('colour is softened by more where a gain lifts a channel, with it its grain', () => {
  const grey = (gain: number) => softenForGain({ long: gain, middle: gain, short: gain });
  expect([0.1, 1, 1.49].map(grey)).toEqual([1.3, 1.3, 1.3]);
  expect([1.51, 4].map(grey)).toEqual([2.7, 2.7]);
  // more red and less green: no cone response is lifted by half, but red light is, more than twice
  expect(softenForGain({ long: 1.4, middle: 0.8, short: 1 })).toBe(2.7);
});
describe('a dark piece made light', () => {
  it('keeps all its dye up to eight times the light', () => {
    expect(dyeForLift(0.1, 0.79)).toBeUndefined();
    expect(dyeForLift(0.5, 0.1)).toBeUndefined();
  });
  it('has no contrast lifted more than eight times the light would: (x/m)^c · 8 is the rest', () => {
    // 64 times the light: half the dye, in optical density
    expect(dyeForLift(0.01, 0.64)).toBeCloseTo(0.5, 12);
    const c = dyeForLift(0.005, 0.5)!;
    expect(100 ** c).toBeCloseTo(8, 9);
  });
  it('is reached by gain and dye together, its grain not cut off', () => {
    const random = seededRandom(4);
    const n = 4000;
    const shade = Float32Array.from(
      { length: n },
      () => 0.006 * Math.exp(0.7 * (random() + random() + random() - 1.5)),
    );
    const samples = { r: shade, g: shade, b: shade, weight: new Float32Array(n).fill(1) };
    const wanted = labFromLinear709([0.55, 0.52, 0.44]);
    const dye = { on: true, concentration: dyeForLift(0.006, 0.52)! };
    const by = (finer: RecipeNumbers['finer']) =>
      solveGain(samples, wanted, 'rec709', REFERENCE_LIGHT, (match) => compile({ ...NEUTRAL_RECIPE, match, finer }));
    const shared = by({ ...NEUTRAL_RECIPE.finer, dye });
    expect(shared.deltaE).toBeLessThan(0.1);
    const recipe = { ...NEUTRAL_RECIPE, match: shared.found, finer: { ...NEUTRAL_RECIPE.finer, dye } };
    const cut = [...shade].filter((v) => recoloured(compile(recipe), [v, v, v]).some((c) => c > 1)).length;
    const alone = by(NEUTRAL_RECIPE.finer);
    const cutAlone = [...shade].filter((v) =>
      recoloured(compile({ ...NEUTRAL_RECIPE, match: alone.found }), [v, v, v]).some((c) => c > 1),
    ).length;
    expect(cut).toBeLessThan(0.2 * cutAlone);
  });
});
