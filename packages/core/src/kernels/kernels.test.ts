// Each kernel against the TypeScript that says what it does: on pictures of any kind and size, at the ends of the
// numbers, and rebuilt from its source.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compiled } from '../../assembly/build.mjs';
import { cubeRootTable, oklabByTable, oklabFromLinear709Into } from '../colour/oklabPlanes.ts';
import type { RangeKey, Window } from '../document/key.ts';
import { rangeKeyBySamples, rangeKeyInto } from '../key/rangeKey.ts';
import { betweenBySamples, pixelsBetween } from '../matte/between.ts';
import { boxMeanBySamples, boxMeanInto } from '../matte/boxMean.ts';
import { blurByLines, gaussianInPlace, recursionOf } from '../matte/gaussian.ts';
import { guidedBySamples, guidedFilterInPlace } from '../matte/guidedFilter.ts';
import { BLOCK } from './blocks.ts';
import { combineBySamples, combineInto, LAYER_MODES } from '../matte/stack.ts';
import { joinByPixels, pictureFromRgba, rgbaOfCodes, splitByPixels } from '../pipeline/rgba.ts';
import { edgeParts, partsByPlaces } from '../recolour/edgeParts.ts';
import { mixedBandOf } from '../recolour/mixedBand.ts';
import { compile } from '../recolour/program.ts';
import { plainInto, recolourInto } from '../recolour/recolourInto.ts';
import { NEUTRAL_RECIPE } from '../recolour/shift.ts';
import { noiseOfCodes } from '../testing/codes.ts';
import { followPoints, stepsBySamples } from '../track/flow.ts';
import { lumaBySamples, lumaOfCodes } from '../track/luma.ts';
import { halvedBySamples, pyramidOf, smoothedBySamples } from '../track/pyramid.ts';
import { COMPILED } from './compiled.ts';
import { kernels } from './module.ts';

const root = cubeRootTable();
/** Sizes round the four lanes and round the blocks. */
const LENGTHS = [1, 2, 3, 4, 5, 4095, 4096, 4097, 9001];
const ODD = [0, -0, 1, 1e-9, -1e-9, -0.2, 1e-40, 4, 60_000, 0.18, 1e-20];
/** Light from far below black to far above white, odd numbers in between. */
function light(length: number, seed: number): Float32Array {
  let state = seed;
  return Float32Array.from({ length }, (_, i) => {
    state = (state * 16_807) % 2_147_483_647;
    return i % 7 === seed % 7 ? ODD[i % ODD.length]! : 1.4 * (state / 2_147_483_647) ** 3 - 0.01;
  });
}
const shares = (length: number, seed: number) => light(length, seed).map((v) => Math.min(Math.max(v, 0), 1));
/** The largest difference, in proportion where `size` is past 1. */
function furthest(a: Float32Array, b: Float32Array, size = b): number {
  let most = 0;
  for (let i = 0; i < a.length; i++) {
    const off = Math.abs(a[i]! - b[i]!) / Math.max(Math.abs(size[i]!), 1);
    if (!(off <= most)) most = off;
  }
  return most;
}
const planes = (length: number) => ({ r: light(length, 3), g: light(length, 5), b: light(length, 11) });
const empty = (length: number) => ({
  L: new Float32Array(length),
  a: new Float32Array(length),
  b: new Float32Array(length),
});

it('runs here: what follows would else compare the reference with itself', () => {
  expect(kernels()).toBeDefined();
});

it('is what its source compiles to', async () => {
  expect((await compiled()).join('')).toBe(COMPILED);
});

describe('OKLab', () => {
  it.each(LENGTHS)('of %i samples within 2e-6 of the table', (length) => {
    const { r, g, b } = planes(length);
    const [own, reference] = [empty(length), empty(length)];
    oklabFromLinear709Into(own, r, g, b, root);
    oklabByTable(reference, r, g, b, root);
    for (const channel of ['L', 'a', 'b'] as const)
      expect(furthest(own[channel], reference[channel], reference.L)).toBeLessThan(2e-6);
  });
  it('leaves 0 at 0 and passes on what is no number', () => {
    const out = empty(4);
    const plane = Float32Array.of(0, NaN, Infinity, 1);
    oklabFromLinear709Into(out, plane, plane, plane, root);
    expect(out.L[0]).toBe(0);
    expect(out.L[1]).toBeNaN();
    expect(Number.isFinite(out.L[2])).toBe(false);
    expect(out.L[3]).toBeCloseTo(1, 6);
  });
  it('may be written over its own input', () => {
    const { r, g, b } = planes(4097);
    const apart = empty(4097);
    oklabFromLinear709Into(apart, r, g, b, root);
    oklabFromLinear709Into({ L: r, a: g, b }, r, g, b, root);
    expect(furthest(r, apart.L) + furthest(g, apart.a) + furthest(b, apart.b)).toBe(0);
  });
});

describe('the recolour', () => {
  const shift = { hueDeg: 74, saturation: 1.3, exposureStops: 0.4, density: 0.15 };
  const program = compile({ ...NEUTRAL_RECIPE, shift, strength: 0.8 }, [1.1, 0.02, 0, 0.01, 0.95, 0, 0, 0.03, 0.8]);
  it.each(LENGTHS)('of %i samples within 1e-5 of the table', (length) => {
    const alpha = shares(length, 4);
    const [own, reference] = [planes(length), planes(length)];
    recolourInto(own, alpha, program, root);
    plainInto(reference, alpha, program, root);
    for (const channel of ['r', 'g', 'b'] as const)
      expect(furthest(own[channel], reference[channel])).toBeLessThan(1e-5);
  });
  it('leaves every bit where α is 0, of odd numbers too', () => {
    const alpha = shares(9001, 4).map((a, i) => (i % 3 === 0 ? 0 : a));
    const [before, own] = [planes(9001), planes(9001)];
    recolourInto(own, alpha, program, root);
    for (const channel of ['r', 'g', 'b'] as const) {
      const [was, is] = [before[channel], own[channel]].map((plane) => new Uint32Array(plane.buffer));
      expect(is!.filter((bits, i) => alpha[i] === 0 && bits !== was![i])).toHaveLength(0);
    }
    expect(furthest(before.r, own.r)).toBeGreaterThan(0.1);
  });
  it('changes nothing where the recipe changes nothing', () => {
    const [before, own] = [planes(4097), planes(4097)];
    recolourInto(own, shares(4097, 4), compile(NEUTRAL_RECIPE), root);
    for (const channel of ['r', 'g', 'b'] as const) expect(furthest(own[channel], before[channel])).toBe(0);
  });
});

describe('the range key', () => {
  const soft = fc.double({ min: 0.01, max: 0.2, noNaN: true });
  const range = (most: number): fc.Arbitrary<Window> =>
    fc.record({
      on: fc.boolean(),
      lo: fc.double({ min: 0, max: most, noNaN: true }),
      hi: fc.double({ min: most, max: 2 * most, noNaN: true }),
      softLo: soft.map((s) => s * most),
      softHi: soft.map((s) => s * most),
    });
  const narrow: fc.Arbitrary<Window> = fc
    .tuple(fc.double({ min: 0, max: 360, noNaN: true }), fc.double({ min: 0, max: 60, noNaN: true }), soft, soft)
    .map(([lo, span, a, b]) => ({ on: true, lo, hi: lo + span, softLo: 180 * a, softHi: 180 * b }));
  it('is that of single samples within 5e-5, whatever its windows', () => {
    const length = 500;
    const lab = empty(length);
    oklabFromLinear709Into(lab, ...(Object.values(planes(length)) as [Float32Array, Float32Array, Float32Array]), root);
    const [own, reference] = [new Float32Array(length), new Float32Array(length)];
    fc.assert(
      fc.property(fc.oneof(range(180), narrow), range(0.15), range(0.5), (hue, chroma, lightness) => {
        const key: RangeKey = { hue, chroma, lightness };
        rangeKeyInto(own, lab, key);
        rangeKeyBySamples(reference, lab, key);
        expect(furthest(own, reference)).toBeLessThan(5e-5);
      }),
      { numRuns: 300 },
    );
  });
  it('has the hard edge of a window belong to it', () => {
    const flat = { on: false, lo: 0, hi: 1, softLo: 0, softHi: 0 };
    const lightness = { on: true, lo: 0.25, hi: 0.75, softLo: 0, softHi: 0 };
    const L = Float32Array.of(0.2499, 0.25, 0.5, 0.75, 0.7501);
    const out = new Float32Array(5);
    rangeKeyInto(out, { L, a: new Float32Array(5), b: new Float32Array(5) }, { hue: flat, chroma: flat, lightness });
    expect([...out]).toEqual([0, 1, 1, 1, 0]);
  });
});

describe('the Gaussian', () => {
  it.each([
    [1, 1],
    [1, 40],
    [40, 1],
    [3, 5],
    [65, 17],
    [129, 63],
    [130, 33],
  ])('of %i × %i samples is that of lines to a bit of a float', (width, height) => {
    for (const sigma of [0.8, 2, 11]) {
      const [own, reference] = [shares(width * height, 9), shares(width * height, 9)];
      gaussianInPlace(own, width, height, sigma);
      blurByLines(reference, width, height, recursionOf(sigma));
      expect(furthest(own, reference)).toBeLessThan(1.2e-7);
    }
  });
});

describe('windows that slide', () => {
  const SIZES = [
    [1, 1, 1],
    [1, 40, 3],
    [40, 1, 3],
    [3, 5, 9],
    [65, 17, 2],
    [17, 66, 20],
    [130, 33, 1],
  ] as const;
  it.each(SIZES)('have the means of %i × %i samples to the bit, %i round', (width, height, radius) => {
    const plane = light(width * height, 9);
    const [own, reference] = [new Float32Array(plane.length), new Float32Array(plane.length)];
    boxMeanInto(own, plane, width, height, radius);
    boxMeanBySamples(reference, plane, width, height, radius);
    expect(own).toEqual(reference);
  });
  it('leave nothing behind for the next picture, larger or smaller', () => {
    const mean = (plane: Float32Array, width: number) => {
      const out = new Float32Array(plane.length);
      boxMeanInto(out, plane, width, plane.length / width, 2);
      return out;
    };
    const [small, large] = [light(7 * 5, 3), light(31 * 20, 5)];
    const first = mean(small, 7);
    mean(large, 31);
    expect(mean(small, 7)).toEqual(first);
  });
  it.each(SIZES)('guide %i × %i samples as the reference does, to the bit, %i round', (width, height, radius) => {
    const guide = shares(width * height, 9);
    const [own, reference] = [shares(guide.length, 4), shares(guide.length, 4)];
    guidedFilterInPlace(own, guide, width, height, radius, 1e-3);
    guidedBySamples(reference, guide, width, height, radius, 1e-3);
    expect(own).toEqual(reference);
  });
});

describe('mattes', () => {
  it.each(LENGTHS)('of %i samples are joined as the reference does, to the bit, odd numbers too', (length) => {
    for (const mode of LAYER_MODES)
      for (const strength of [1, 0.7]) {
        const [own, reference] = [light(length, 9), light(length, 9)];
        combineInto(own, light(length, 4), mode, strength);
        combineBySamples(reference, light(length, 4), mode, strength);
        expect(own).toEqual(reference);
      }
  });
  it('are joined alike where whole stretches of either are 0, or all but the last sample', () => {
    const length = 6 * BLOCK + 7;
    const zeroed = (plane: Float32Array, blocks: number[], but?: number) => {
      for (const block of blocks) plane.fill(0, block * BLOCK, (block + 1) * BLOCK);
      if (but !== undefined) plane[but] = 0.5;
      return plane;
    };
    for (const mode of LAYER_MODES)
      for (const strength of [1, 0.7])
        for (const last of [undefined, 2 * BLOCK - 1, length - 1]) {
          const stack = () => zeroed(shares(length, 3), [0, 1, 4, 6]);
          const layer = zeroed(shares(length, 5), [1, 2, 4, 5, 6], last);
          const [own, reference] = [stack(), stack()];
          combineInto(own, layer, mode, strength);
          combineBySamples(reference, layer, mode, strength);
          expect(own).toEqual(reference);
        }
  });
  it.each(LENGTHS)('of %i samples: the same pixels lie between two values, the ends left out', (length) => {
    const alpha = shares(length, 7).map((v, i) => (i % 5 === 0 ? Math.fround(0.004) : v));
    const found = pixelsBetween(alpha, Math.fround(0.004), Math.fround(0.996));
    expect(found).toEqual(betweenBySamples(alpha, Math.fround(0.004), Math.fround(0.996)));
    expect(found.length).toBeLessThan(length);
    // what is left over of a longer matte before it is none of its pixels
    expect(pixelsBetween(new Float32Array(1), 0, 1)).toHaveLength(0);
  });
});

describe('pixels of a canvas', () => {
  it.each(LENGTHS)('%i of them are split into planes', (length) => {
    const rgba = Uint8ClampedArray.from({ length: 4 * length }, (_, i) => (i * 97) % 251);
    const planes = () => [0, 1, 2].map(() => new Uint8Array(length)) as [Uint8Array, Uint8Array, Uint8Array];
    const [r, g, b] = planes();
    const reference = { width: length, height: 1, r, g, b };
    splitByPixels(reference, rgba);
    expect(pictureFromRgba(rgba, length, 1)).toEqual(reference);
  });
  it.each(LENGTHS)('%i of them are joined from codes, each by its table, one table after the other', (length) => {
    for (const [Plane, maxCode] of [
      [Uint8Array, 255],
      [Uint16Array, 65_535],
      [Uint8Array, 255],
    ] as const) {
      const codes = noiseOfCodes(Plane, length, 1, 5);
      const table = Uint8ClampedArray.from({ length: maxCode + 1 }, (_, code) => 255 - code / (maxCode / 255));
      const reference = new Uint32Array(length);
      joinByPixels(reference, codes, table);
      expect(new Uint32Array(rgbaOfCodes(codes, table).buffer)).toEqual(reference);
      expect(reference[0]! >>> 24).toBe(255);
    }
  });
});

describe('the parts of a soft edge', () => {
  const SIZES: [number, number][] = [
    [1, 1],
    [3, 2],
    [37, 29],
    [160, 90],
  ];
  /** A disc, soft as wide as asked for, with single samples of any α strewn over the picture. */
  const matte = (width: number, height: number, soft: number, seed: number) =>
    shares(width * height, seed).map((v, i) => {
      const off = Math.hypot((i % width) - width / 2, Math.floor(i / width) - height / 2);
      return i % 53 === 0 ? v : Math.min(Math.max((height / 3 - off) / soft, 0), 1);
    });
  it.each(SIZES)('%i × %i pixels are found as the reference finds them, to the bit', (width, height) => {
    let compared = 0;
    for (const soft of [0.5, 3, 40]) {
      const band = mixedBandOf(matte(width, height, soft, 7), width);
      if (!band) continue;
      const seen = light(3 * band.index.length, 13);
      const most = [1, 1.5, 1.2] as const;
      for (const sharesChroma of [false, true]) {
        const found = edgeParts(band, seen, most, sharesChroma);
        expect(found).toEqual(edgeParts(band, seen, most, sharesChroma, partsByPlaces));
      }
      compared += band.mixed;
    }
    expect(compared > 0).toBe(width > 1);
  });
  it('says how far a flood has come, and that none comes where the piece nowhere stands alone', () => {
    const band = mixedBandOf(Float32Array.of(0.5, 0.5, 1, 0.5, 0.5, 0.5, 0), 7)!;
    const found = edgeParts(band, light(3 * band.index.length, 3), [1, 1, 1]);
    // from both sides of what stands alone, and from the ground at the end
    expect([[...found.steps], [...found.known]]).toEqual([
      [2, 1, 3, 2, 3],
      [0, 0, 1, 1, 1],
    ]);
    expect([...found.order]).toEqual([1, 2, 3, 4, 0]);
    const lone = mixedBandOf(Float32Array.of(0.5, 0.2, 0), 3)!;
    expect(edgeParts(lone, light(9, 3), [1, 1, 1]).order).toHaveLength(0);
  });
});

describe('luma', () => {
  const size = fc.integer({ min: 1, max: 70 });
  it.each([
    ['one byte', Uint8Array, 255],
    ['two bytes', Uint16Array, 65535],
  ] as const)('of codes of %s to the bit', (_what, Codes, most) => {
    for (const length of LENGTHS) {
      const [r, g, b] = [2, 3, 4].map((seed) => Codes.from(shares(length, seed).map((v) => v * most)));
      expect(lumaOfCodes(r!, g!, b!, most)).toEqual(lumaBySamples(r!, g!, b!, most));
    }
    const white = Codes.of(most);
    expect(lumaOfCodes(white, white, white, most)[0]).toBeCloseTo(1, 6);
  });
  it('is smoothed and halved to the bit, at any size', () => {
    fc.assert(
      fc.property(size, size, fc.integer({ min: 0, max: 6 }), (width, height, seed) => {
        const luma = light(width * height, seed);
        const levels = [{ width, height, luma: smoothedBySamples(luma, width, height) }];
        while (levels.length < 4 && Math.min(levels.at(-1)!.width, levels.at(-1)!.height) >= 32)
          levels.push(halvedBySamples(levels.at(-1)!));
        expect(pyramidOf(luma, width, height)).toEqual(levels);
      }),
      { numRuns: 60, seed: 8 },
    );
  });
});

describe('points', () => {
  /** A picture of soft blobs, moved. */
  const blobs = (width: number, height: number, dx: number, dy: number) =>
    pyramidOf(
      Float32Array.from({ length: width * height }, (_, i) => {
        const [x, y] = [(i % width) - dx, Math.floor(i / width) - dy];
        return (
          0.5 + 0.2 * Math.sin(x / 3.1 + y / 9) + 0.15 * Math.cos(y / 4.3 - x / 17) + 0.1 * Math.sin((x * y) / 900)
        );
      }),
      width,
      height,
    );
  it.each([
    [160, 120, 3.3, -2.6],
    [161, 83, -0.4, 0.7],
    [97, 160, 9, 4],
  ])('of %i × %i are followed to a thousandth of a pixel, and lost where the reference loses them', (w, h, dx, dy) => {
    const [from, to] = [blobs(w, h, 0, 0), blobs(w, h, dx, dy)];
    const at = Array.from({ length: 400 }, (_, i) => [(i % 20) * (w / 20) + 0.3, Math.floor(i / 20) * (h / 20) + 0.9]);
    const points = Float64Array.from(at.flat());
    // some begin far off, off the picture and with no number
    const guesses = points.map((v, i) => (i % 50 === 7 ? [v + 30, v - 5000, NaN][((i / 50) % 3) | 0]! : v));
    const own = followPoints(from, to, points, guesses);
    const reference = followPoints(from, to, points, guesses, stepsBySamples(from, to));
    expect(own.kept).toEqual(reference.kept);
    expect(own.kept.filter((k) => k === 1).length).toBeGreaterThan(100);
    for (let i = 0; i < points.length; i++)
      if (own.kept[i >> 1]) expect(Math.abs(own.places[i]! - reference.places[i]!)).toBeLessThan(1e-3);
  });
});
