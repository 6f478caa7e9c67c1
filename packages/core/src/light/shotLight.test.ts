// Lights found from things seen in two shots, made here under lights that are known.
import { describe, expect, it } from 'vitest';
import { daylightChromaticity } from '../colour/daylight.ts';
import { gainMatrix } from '../colour/cat16.ts';
import { IDENTITY, inverse, transform, type Matrix3, type Triple } from '../colour/matrix3.ts';
import { linear709FromXyz, xyzFromChromaticity } from '../colour/xyz.ts';
import {
  inReferenceLight,
  lightBetween,
  lightInWords,
  lightOfBoth,
  lightOfPatches,
  rebasedLight,
} from './shotLight.ts';

const WARM = gainMatrix([1.05, 0.92, 0.5]);
const TEAL: Triple = [0.045, 0.24, 0.235];
const GREY: Triple = [0.4, 0.4, 0.4];
const near = (m: Matrix3, wanted: Matrix3, by = 1e-9) =>
  m.forEach((v, i) => expect(Math.abs(v - wanted[i]!)).toBeLessThanOrEqual(by));
const under = (light: Matrix3, of: Triple) => ({ reference: of, here: transform(light, of) });

describe('a shot’s light', () => {
  it('comes out of a grey, or the piece itself, seen in both shots', () => {
    for (const of of [GREY, TEAL]) {
      const { reference, here } = under(WARM, of);
      near(lightBetween(reference, here), WARM);
    }
    near(lightBetween(GREY, GREY), IDENTITY, 1e-12);
  });
  it('has its colour from the grey and its strength from the piece, where those stand apart', () => {
    // the card lies in half the light of the piece
    const card = { reference: GREY, here: transform(WARM, [0.2, 0.2, 0.2]) };
    near(lightOfBoth(card, under(WARM, TEAL)), WARM, 1e-9);
  });
  it('comes out of patches whatever 3×3 it is, and best of all when they do not quite agree', () => {
    const odd: Matrix3 = [1.1, 0.06, 0.01, 0.03, 0.8, 0.02, -0.01, 0.05, 0.5];
    const patches: Triple[] = [GREY, TEAL, [0.4, 0.06, 0.04], [0.05, 0.05, 0.3]];
    near(lightOfPatches(patches.map((p) => under(odd, p))), odd, 1e-9);
    const noisy = patches.map((p, i) => ({
      reference: p,
      here: transform(odd, p).map((v) => v * (i % 2 ? 1.02 : 0.98)) as never,
    }));
    near(lightOfPatches(noisy), odd, 0.08);
  });
  it('is refused of black, of two patches, of patches all alike', () => {
    expect(() => lightBetween([0, 0, 0], GREY)).toThrow(RangeError);
    expect(() => lightOfPatches([under(WARM, GREY), under(WARM, TEAL)])).toThrow('three');
    expect(() => lightOfPatches([0.2, 0.4, 0.6].map((v) => under(WARM, [v, v, v])))).toThrow('alike');
  });
  it('goes over to another reference shot: what was the reference has the inverse of the new one’s', () => {
    const dim = gainMatrix([0.5, 0.5, 0.5]);
    near(rebasedLight(undefined, WARM), inverse(WARM), 1e-12);
    near(rebasedLight(WARM, WARM), IDENTITY, 1e-12);
    const over = rebasedLight(dim, WARM);
    const inWarm = transform(WARM, TEAL);
    transform(over, inWarm).forEach((v, i) => expect(v).toBeCloseTo(0.5 * TEAL[i]!, 9));
  });
  it('takes a colour back to the reference shot', () => {
    inReferenceLight(WARM, transform(WARM, TEAL)).forEach((v, i) => expect(v).toBeCloseTo(TEAL[i]!, 12));
    expect(inReferenceLight(undefined, TEAL)).toEqual([...TEAL]);
  });
});

describe('a light in words', () => {
  it('is nothing for the reference’s own', () => {
    const { warmerMired, lighterStops } = lightInWords(IDENTITY);
    expect(Math.abs(warmerMired)).toBeLessThan(1);
    expect(lighterStops).toBeCloseTo(0, 12);
  });
  it('counts stops of white and mired of its correlated colour temperature', () => {
    // CIE 15 daylight of 5003 K (D50), half as strong
    const d50 = linear709FromXyz(xyzFromChromaticity(daylightChromaticity(5003))) as Triple;
    const { warmerMired, lighterStops } = lightInWords([d50[0] / 2, 0, 0, 0, d50[1] / 2, 0, 0, 0, d50[2] / 2]);
    expect(warmerMired).toBeCloseTo(1e6 / 5003 - 1e6 / 6504, -0.5);
    expect(lighterStops).toBeCloseTo(-1, 2);
    expect(lightInWords(gainMatrix([0.95, 1, 1.3])).warmerMired).toBeLessThan(-20);
  });
});
