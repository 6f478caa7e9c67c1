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
import { KEYS, keyFromPicks, keyWithPick } from './keys.ts';

const at = (L: number, C: number, hDeg: number): Oklab => oklabFromOklch({ L, C, hDeg });
const teal = [at(0.5, 0.1, 190), at(0.52, 0.11, 192), at(0.47, 0.1, 188), at(0.55, 0.105, 191)];
const cushion = [at(0.5, 0.1, 175), at(0.52, 0.1, 176)];
const add = (samples: Oklab[]) => ({ sign: 'add' as const, samples });
const remove = (samples: Oklab[]) => ({ sign: 'remove' as const, samples });
const off = { on: false, lo: 0, hi: 0, softLo: 0, softHi: 0 };

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

it('names the windows of a range and an RGB key, with their ends', () => {
  const range = { hue: off, chroma: off, lightness: off };
  const of = (windows: { name: string; label: string; max: number }[]) => windows.map((w) => [w.name, w.label, w.max]);
  expect(of(KEYS.range.windows(range))).toEqual([
    ['hue', 'Hue °', 720],
    ['chroma', 'Chroma', 0.5],
    ['lightness', 'Lightness', 1.5],
  ]);
  expect(KEYS.rgb.windows({ red: off, green: off, blue: off }).map((w) => w.name)).toEqual(['red', 'green', 'blue']);
  expect(KEYS.sample.windows(sampleKeyFromPicks([add(teal)])!)).toEqual([]);
});

describe('a luma key’s picks', () => {
  const { withPick, kept, windows } = KEYS.luma;
  const grey = (L: number) => add([at(L, 0, 0)]);
  it('are of luma until lightness is asked for, and widen what is there', () => {
    const first = withPick(null, grey(0.5), [], 'srgb')!;
    expect(first).toMatchObject({ of: 'luma', luma: { on: true } });
    const wider = withPick(first, grey(0.7), [grey(0.5)], 'srgb')!;
    expect([wider.luma.lo, wider.luma.hi > first.luma.hi]).toEqual([first.luma.lo, true]);
    // one that only says what it reads has no window yet: the first pick makes it, whatever numbers stand there
    const stated = { of: 'lightness' as const, luma: { on: false, lo: 0.9, hi: 0.95, softLo: 0, softHi: 0 } };
    const made = withPick(stated, grey(0.5), [], 'srgb')!;
    expect([made.of, made.luma.lo < 0.5, made.luma.hi < 0.9]).toEqual(['lightness', true, true]);
    expect(kept(first)).toEqual({ of: 'luma', luma: { on: false, lo: 0, hi: 0, softLo: 0, softHi: 0 } });
    expect(kept(null)).toBeNull();
  });
  it('solve a lightness window on OKLab L itself', () => {
    const { luma } = withPick({ of: 'lightness', luma: off }, grey(0.5), [], 'srgb')!;
    expect([luma.lo, luma.hi].map((v) => +v.toFixed(6))).toEqual([0.44, 0.56]);
  });
  it('are shown under the name of what they read', () => {
    const of = (what: 'luma' | 'lightness') => windows({ of: what, luma: off }).map((w) => [w.name, w.label]);
    expect([of('luma'), of('lightness')]).toEqual([[['luma', 'Luma']], [['luma', 'Lightness']]]);
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
  describe('of round clouds, worked by hand', () => {
    // standard deviations of 0.1, so that a distance of 0.1 in OKLab is 1; precision is 1 / σ²
    const round = (L: number): SampleKey['positive'][number] => ({
      mean: [L, 0, 0],
      precision: [100, 0, 0, 0, 100, 0, 0, 0, 100],
    });
    const key: SampleKey = { positive: [round(0.5)], negative: [], tolerance: 2, softness: 1 };
    const along = (of: SampleKey, ...distances: number[]) =>
      distances.map((d) => +sampleKeyAt(of, { L: 0.5 + d / 10, a: 0, b: 0 }).toFixed(6));
    it('it is 1 up to the tolerance and falls by the smooth step over the softness', () => {
      // t² (3 − 2 t) at t = 0.75, 0.5, 0.25
      expect(along(key, 0, 1.99, 2.25, 2.5, 2.75, 3.01)).toEqual([1, 1, 0.84375, 0.5, 0.15625, 0]);
      expect(along(key, -2.5)).toEqual([0.5]);
      expect(along({ ...key, softness: 0 }, 0, 1.99, 2.01)).toEqual([1, 1, 0]);
      expect(along({ ...key, tolerance: 0, softness: 0 }, 0, 0.1)).toEqual([1, 0]);
    });
    it('it is pushed back from the middle between what is wanted and what is not', () => {
      // unwanted 4 away: at 1.6 of 4 the share is 0.6, at 2 it is 0.5, at 2.4 it is 0.4
      const pushed: SampleKey = { ...key, tolerance: 5, negative: [round(0.9)] };
      expect(along(pushed, 0, 1.59, 2, 2.41)).toEqual([1, 1, 0.5, 0]);
      // where the two are one, neither has it
      expect(along({ ...pushed, negative: [round(0.5)] }, 0)).toEqual([0.5]);
    });
    it('the nearest of several counts', () =>
      expect(along({ ...key, positive: [round(0.1), round(0.5), round(0.95)] }, 0, 3.25)).toEqual([1, 1]));
    it('a tilted cloud reaches further along its own direction', () => {
      const precision: SampleKey['positive'][number]['precision'] = [100, -60, 40, -60, 100, -30, 40, -30, 100];
      const tilted: SampleKey = { ...key, positive: [{ mean: [0.5, 0, 0], precision }] };
      const [x, y, z] = [0.1, 0.15, -0.1];
      // xᵀ P x written out
      const squared = 100 * (x * x + y * y + z * z) + 2 * (-60 * x * y + 40 * x * z - 30 * y * z);
      const past = Math.sqrt(squared) - 0.5;
      const t = 1 - past / 2;
      const soft = { ...tilted, tolerance: 0.5, softness: 2 };
      expect(sampleKeyAt(soft, { L: 0.5 + x, a: y, b: z })).toBeCloseTo(t * t * (3 - 2 * t), 9);
    });
    it('it is the same over a picture, on both sides of all edges', () => {
      const tilt: SampleKey['positive'][number]['precision'] = [400, -100, 50, -100, 900, 20, 50, 20, 600];
      const clouds: SampleKey = {
        positive: [round(0.5), { mean: [0.7, 0.12, -0.1], precision: tilt }],
        negative: [round(0.8)],
        tolerance: 1,
        softness: 0.8,
      };
      const steps = (from: number, to: number) => Array.from({ length: 15 }, (_, k) => from + ((to - from) * k) / 14);
      const colours = steps(0.2, 1).flatMap((L) =>
        steps(-0.3, 0.3).flatMap((a) => steps(-0.35, 0.3).map((b): [number, number, number] => [L, a, b])),
      );
      const plane = (c: 0 | 1 | 2) => Float32Array.from(colours, (v) => v[c]);
      const planes = { L: plane(0), a: plane(1), b: plane(2) };
      const out = new Float32Array(colours.length).fill(7);
      sampleKeyInto(out, planes, clouds);
      const exact = colours.map((_, i) => sampleKeyAt(clouds, { L: planes.L[i]!, a: planes.a[i]!, b: planes.b[i]! }));
      expect(exact.reduce((most, e, i) => Math.max(most, Math.abs(e - out[i]!)), 0)).toBeLessThan(1e-6);
      expect(
        [exact.filter((e) => e === 1).length, exact.filter((e) => e > 0 && e < 1).length].every((n) => n > 20),
      ).toBe(true);
    });
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
