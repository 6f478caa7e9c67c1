// RGB, luma and sample keys, and what all keys share.
import type { RangeKey, SampleKey } from '../document/key.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { codeFromLinear } from '../colour/encoding.ts';
import { linear709FromOklab, oklabFromOklch, type Oklab } from '../colour/oklab.ts';
import { seededRandom } from '../testing/mattes.ts';
import { lumaKeyInto, lumaOf } from './lumaKey.ts';
import { crossesNeutral } from './rangeKey.ts';
import { encodedOf, rgbKeyAt, rgbKeyInto } from './rgbKey.ts';
import { ellipsoidOf, sampleKeyAt, sampleKeyFromPicks, sampleKeyInto } from './sampleKey.ts';
import { keyFromPicks, keyWithPick } from './keys.ts';

const at = (L: number, C: number, hDeg: number): Oklab => oklabFromOklch({ L, C, hDeg });
const teal = [at(0.5, 0.1, 190), at(0.52, 0.11, 192), at(0.47, 0.1, 188), at(0.55, 0.105, 191)];
const cushion = [at(0.5, 0.1, 175), at(0.52, 0.1, 176)];
const add = (samples: Oklab[]) => ({ sign: 'add' as const, samples });
const remove = (samples: Oklab[]) => ({ sign: 'remove' as const, samples });

describe('RGB key', () => {
  it('is the product of its three windows on encoded values, and its plane loop says the same', () => {
    const key = keyFromPicks('rgb', null, [add(teal)], 'rec709')!;
    for (const s of teal) expect(rgbKeyAt(key, ...encodedOf(s, 'rec709'))).toBeGreaterThan(0.99);
    expect(rgbKeyAt(key, 0.9, 0.1, 0.1)).toBe(0);
    const off = { ...key, green: { ...key.green, on: false } };
    const [r, , b] = encodedOf(teal[0]!, 'rec709');
    expect(rgbKeyAt(off, r, 0, b)).toBe(1);
    const out = new Float32Array(1);
    rgbKeyInto(out, { r: Float32Array.of(r), g: Float32Array.of(0), b: Float32Array.of(b) }, off);
    expect(out[0]).toBe(1);
  });
  it('a remove pick narrows it where that costs least', () => {
    const first = keyFromPicks('rgb', null, [add(teal)], 'srgb')!;
    const wide = { red: { ...first.red, hi: 0.9 }, green: first.green, blue: first.blue };
    const bright = at(0.6, 0.03, 190);
    const cut = keyWithPick('rgb', wide, remove([bright]), [add(teal)], 'srgb')!;
    expect(rgbKeyAt(cut, ...encodedOf(bright, 'srgb'))).toBeLessThanOrEqual(0.02);
    for (const s of teal) expect(rgbKeyAt(cut, ...encodedOf(s, 'srgb'))).toBeGreaterThan(0.95);
  });
});

describe('luma key', () => {
  it('weighs encoded values as Rec. ITU-R BT.709 item 3.2 does', () => {
    expect(lumaOf(1, 1, 1)).toBeCloseTo(1, 12);
    expect([lumaOf(1, 0, 0), lumaOf(0, 1, 0), lumaOf(0, 0, 1)]).toEqual([0.2126, 0.7152, 0.0722]);
  });
  it('reads luma or lightness, as asked', () => {
    const dark = at(0.2, 0.02, 40);
    const light = at(0.8, 0.02, 40);
    for (const of of ['luma', 'lightness'] as const) {
      const key = keyFromPicks(
        'luma',
        { of, luma: { on: true, lo: 0, hi: 0, softLo: 0, softHi: 0 } },
        [add([dark])],
        'srgb',
      )!;
      const planes = [dark, light].map((s) => linear709FromOklab(s).map((v) => codeFromLinear('srgb', v)));
      const plane = (c: number) => Float32Array.from(planes, (p) => p[c]!);
      const out = new Float32Array(2);
      const picture = {
        encoded: () => ({ r: plane(0), g: plane(1), b: plane(2) }),
        oklab: () => ({ L: Float32Array.of(dark.L, light.L), a: new Float32Array(2), b: new Float32Array(2) }),
      };
      lumaKeyInto(out, picture, key);
      expect([...out]).toEqual([1, 0]);
    }
  });
});

describe('sample key', () => {
  it('gives an ellipsoid the mean and covariance of its samples, with a floor on its axes', () => {
    const random = seededRandom(5);
    const cloud = Array.from({ length: 4000 }, () => ({
      L: 0.5 + 0.3 * (random() - 0.5),
      a: 0.1 + 0.06 * (random() - 0.5),
      b: -0.05,
    }));
    const { mean, precision } = ellipsoidOf(cloud);
    [0.5, 0.1, -0.05].forEach((v, i) => expect(mean[i]).toBeCloseTo(v, 2));
    // a uniform span s has variance s²/12; the floors are 0.04 and 0.012
    expect(1 / precision[0]).toBeCloseTo(0.09 / 12 + 0.04 ** 2, 3);
    expect(Math.sqrt(1 / precision[8])).toBeCloseTo(0.012, 3);
    expect(() => ellipsoidOf([])).toThrow(RangeError);
  });
  it('is 1 within the tolerance, 0 past the softness, and is pushed back by a remove pick', () => {
    const key = sampleKeyFromPicks([add(teal)])!;
    for (const s of teal) expect(sampleKeyAt(key, s)).toBe(1);
    expect(sampleKeyAt(key, at(0.5, 0.1, 20))).toBe(0);
    expect(sampleKeyAt(key, cushion[0]!)).toBeGreaterThan(0.5);
    const pushed = sampleKeyFromPicks([add(teal), remove(cushion)])!;
    for (const s of cushion) expect(sampleKeyAt(pushed, s)).toBe(0);
    for (const s of teal) expect(sampleKeyAt(pushed, s)).toBeGreaterThan(0.9);
    expect(sampleKeyFromPicks([remove(cushion)])).toBeUndefined();
  });
  it('stays within 0..1, falls with distance, and equals its plane loop for any clouds', () => {
    const colour = fc.record({
      L: fc.double({ min: 0, max: 1, noNaN: true }),
      a: fc.double({ min: -0.3, max: 0.3, noNaN: true }),
      b: fc.double({ min: -0.3, max: 0.3, noNaN: true }),
    });
    fc.assert(
      fc.property(
        fc.array(fc.array(colour, { minLength: 1, maxLength: 6 }), { minLength: 1, maxLength: 3 }),
        fc.array(fc.array(colour, { minLength: 1, maxLength: 4 }), { maxLength: 2 }),
        colour,
        fc.double({ min: 0, max: 5, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        (wanted, unwanted, probe, tolerance, softness) => {
          const key: SampleKey = {
            ...sampleKeyFromPicks([...wanted.map(add), ...unwanted.map(remove)])!,
            tolerance,
            softness,
          };
          const planes = { L: Float32Array.of(probe.L), a: Float32Array.of(probe.a), b: Float32Array.of(probe.b) };
          const exact = sampleKeyAt(key, { L: planes.L[0]!, a: planes.a[0]!, b: planes.b[0]! });
          const out = new Float32Array(1);
          sampleKeyInto(out, planes, key);
          expect(exact >= 0 && exact <= 1).toBe(true);
          expect(Math.abs(out[0]! - exact)).toBeLessThan(1e-6);
        },
      ),
    );
  });
  it('keeps tolerance and softness set by hand when picks are added or solved again', () => {
    const key = { ...sampleKeyFromPicks([add(teal)])!, tolerance: 4, softness: 0.5 };
    expect(keyWithPick('sample', key, remove(cushion), [add(teal)], 'srgb')).toMatchObject({
      tolerance: 4,
      softness: 0.5,
    });
    expect(keyFromPicks('sample', key, [add(teal)], 'srgb')).toMatchObject({ tolerance: 4, softness: 0.5 });
  });
});

it('warns when the soft edge of a range key runs over the neutral axis', () => {
  const w = { on: true, lo: 0.08, hi: 0.2, softLo: 0.03, softHi: 0.03 };
  const key: RangeKey = { hue: { ...w, lo: 170, hi: 200 }, chroma: w, lightness: w };
  expect(crossesNeutral(key)).toBe(false);
  expect(crossesNeutral({ ...key, chroma: { ...w, softLo: 0.08 } })).toBe(true);
  expect(crossesNeutral({ ...key, chroma: { ...w, on: false } })).toBe(true);
  expect(crossesNeutral({ ...key, hue: { ...w, on: false }, chroma: { ...w, on: false } })).toBe(false);
});
