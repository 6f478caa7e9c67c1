import { describe, expect, it } from 'vitest';
import { labFromHex } from './hex.ts';
import { linear709FromLab } from './lab.ts';
import { smoothestReflectance } from './smoothestReflectance.ts';
import { xyzOfSpectrum } from './spectrum.ts';
import { xyzFromLinear709 } from './xyz.ts';

const roughness = (values: readonly number[]) => {
  const z = values.map((r) => Math.atanh(2 * r - 1));
  return z.slice(1).reduce((sum, v, i) => sum + (v - z[i]!) ** 2, 0);
};

describe('the smoothest reflectance', () => {
  it.each(['#d99a2b', '#6d3a66', '#4f8a4b', '#974246', '#6a2320', '#2f5a6e', '#202020', '#f2f2f2'])(
    'of %s looks like it, between black and white',
    (hex) => {
      const xyz = xyzFromLinear709(linear709FromLab(labFromHex(hex)!));
      const spectrum = smoothestReflectance(xyz, 'D65');
      xyzOfSpectrum(spectrum, 'D65').forEach((v, i) => expect(v).toBeCloseTo(xyz[i]!, 7));
      expect(Math.min(...spectrum.reflectance)).toBeGreaterThan(0);
      expect(Math.max(...spectrum.reflectance)).toBeLessThan(1);
    },
  );
  it('of a grey is flat', () => {
    const white = xyzOfSpectrum({ nm: [380, 730], reflectance: [0.3, 0.3] }, 'D65');
    const { reflectance } = smoothestReflectance(white, 'D65');
    for (const r of reflectance) expect(r).toBeCloseTo(0.3, 6);
  });
  it('is smoother than any other that looks the same: a metamer of it has steeper slopes', () => {
    const own = Array.from({ length: 36 }, (_, i) => 0.3 + 0.2 * Math.sin(i / 4) + 0.1 * Math.sin(i * 1.3));
    const spectrum = { nm: Array.from({ length: 36 }, (_, i) => 380 + 10 * i), reflectance: own };
    const smooth = smoothestReflectance(xyzOfSpectrum(spectrum, 'D50'), 'D50');
    expect(roughness(smooth.reflectance)).toBeLessThan(roughness(own));
  });
  it('is refused where there is none', () =>
    expect(() => smoothestReflectance([0.5, 0.1, 1.2], 'D65')).toThrow('no reflectance between 0 and 1'));
});
