import { describe, expect, it } from 'vitest';
import { codeFromLinear, codesFromLinear709, linear709FromCodes, linearFromCode } from './encoding.ts';

describe('the logarithm of a camera', () => {
  // what OpenColorIO 2.1.2's own transforms to ACES2065-1 make of these codes
  it.each([
    ['vlog', [0.1, 0.1, 0.1], [-0.0044642, -0.0044642, -0.0044642]],
    ['vlog', [0.1, 0.4, 0.7], [0.305860817, 0.123576388, 2.657499313]],
    ['vlog', [0.9, 0.5, 0.05], [12.929822922, 0.757482409, -0.177935079]],
    ['log3g10', [0.1, 0.1, 0.1], [0.001487013, 0.001487013, 0.001487013]],
    ['log3g10', [0.1, 0.4, 0.7], [1.140900135, -0.533411682, 11.622649193]],
    ['log3g10', [0.9, 0.5, 0.05], [51.914562225, 2.695278883, -5.214031219]],
    ['logc3', [0.1, 0.1, 0.1], [0.001339624, 0.001339624, 0.001339624]],
    ['slog3', [0.1, 0.1, 0.1], [0.00107761, 0.00107761, 0.00107761]],
    ['slog3-cine', [0.1, 0.1, 0.1], [0.00107761, 0.00107761, 0.00107761]],
    ['canon-log2', [0.1, 0.1, 0.1], [0.0007279384, 0.0007279384, 0.0007279384]],
    ['canon-log2', [0.05, 0.05, 0.05], [-0.00522023, -0.00522023, -0.00522023]],
    ['canon-log2', [0.5, 0.5, 0.5], [0.4920826, 0.4920826, 0.4920826]],
    ['canon-log3', [0.1, 0.1, 0.1], [-0.01144531, -0.01144531, -0.01144531]],
    ['canon-log3', [0.05, 0.05, 0.05], [-0.03778656, -0.03778656, -0.03778656]],
    ['canon-log3', [0.5, 0.5, 0.5], [0.5807776, 0.5807776, 0.5807776]],
  ] as const)('has of %s %j the light that OpenColorIO has', (encoding, codes, light) => {
    codesFromLinear709('aces2065-1', linear709FromCodes(encoding, codes)).forEach((v, c) =>
      expect(Math.abs(v - light[c]!)).toBeLessThan(2e-6 * Math.max(1, ...light.map(Math.abs))),
    );
  });
  // here that program goes from D65 to the white of ACES by CAT02, we by Bradford: a part in a hundred of the brightest
  it.each([
    ['logc3', [0.1, 0.4, 0.7], [0.328331262, -0.145495027, 3.549950361]],
    ['logc3', [0.9, 0.5, 0.05], [14.876689911, 2.376135349, 0.004036829]],
    ['slog3-cine', [0.1, 0.4, 0.7], [0.273095816, -0.038913205, 2.706993103]],
    ['slog3-cine', [0.9, 0.5, 0.05], [10.07930851, 0.391283303, -0.484445393]],
    ['slog3', [0.1, 0.4, 0.7], [0.290180176, 0.070244133, 2.582774878]],
    ['slog3', [0.9, 0.5, 0.05], [11.807377815, 0.760561764, -0.152027816]],
    ['canon-log2', [0.1, 0.4, 0.7], [0.3246329, -0.1706257, 4.104707]],
    ['canon-log2', [0.9, 0.5, 0.05], [17.47882, 0.6287221, -0.3284693]],
    ['canon-log3', [0.1, 0.4, 0.7], [0.2254641, 0.07068768, 2.62172]],
    ['canon-log3', [0.9, 0.5, 0.05], [6.04132, 0.6756356, -0.2466833]],
  ] as const)('has of %s %j nearly that light', (encoding, codes, light) => {
    codesFromLinear709('aces2065-1', linear709FromCodes(encoding, codes)).forEach((v, c) =>
      expect(Math.abs(v - light[c]!)).toBeLessThan(0.006 * Math.max(...light)),
    );
  });
  // mid-grey as the makers' papers state it, from memory: codes of ten bits of a reflectance of 18 %
  it.each([
    ['logc3', 400],
    ['slog3', 420],
    ['vlog', 433],
    ['log3g10', 341],
    ['logc4', 285],
    ['canon-log2', 407],
    ['canon-log3', 351],
    ['slog2', 347],
    ['f-log', 470],
    ['f-log2', 400],
    ['n-log', 372],
    ['d-log', 408],
    ['apple-log', 499.5],
  ] as const)('has 18 %% grey of %s at code %d', (encoding, code) => {
    expect(1023 * codeFromLinear(encoding, 0.18)).toBeCloseTo(code, 0);
  });
  // codes of black and of a white of 90 % as the makers' papers state them, from memory
  it.each([
    ['slog2', 90, 582],
    ['f-log', 95, 705],
    ['f-log2', 95, 570],
    ['n-log', 127, 603],
    ['d-log', 95, 586],
  ] as const)('has black of %s at code %d and white at %d', (encoding, black, white) => {
    expect(1023 * codeFromLinear(encoding, 0)).toBeCloseTo(black, -0.3);
    expect(1023 * codeFromLinear(encoding, 0.9)).toBeCloseTo(white, -0.3);
  });
  // numbers that were remembered wrongly would not meet: the parts of a curve are as high where one ends
  it.each(['slog2', 'f-log', 'f-log2', 'n-log', 'd-log', 'apple-log'] as const)('%s rises without a step', (name) => {
    for (let i = -60; i < 4000; i++) {
      const step = codeFromLinear(name, (i + 1) / 10_000) - codeFromLinear(name, i / 10_000);
      expect(step, `at ${i / 10_000}`).toBeGreaterThan(0);
      expect(step).toBeLessThan(0.002);
    }
  });
  // section 3 of its specification, from memory: no light at code 95 of 1023, and 469.8 times white at the last one
  it('has of LogC4 black and the brightest where its specification has them', () => {
    expect(1023 * codeFromLinear('logc4', 0)).toBeCloseTo(95, 6);
    expect(linearFromCode('logc4', 1)).toBeCloseTo(469.8, 1);
  });
  it('rises without a step where LogC4 turns straight', () => {
    const slopes = Array.from({ length: 400 }, (_, i) => {
      const x = -0.03 + i * 0.0001;
      return (codeFromLinear('logc4', x + 0.0001) - codeFromLinear('logc4', x)) / 0.0001;
    });
    for (let i = 1; i < slopes.length; i++) expect(slopes[i]! / slopes[i - 1]!).toBeCloseTo(1, 1);
  });
});
