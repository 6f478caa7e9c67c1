// Every colour formula against published tables or two independent libraries (culori 4, colorjs.io 0.7).
import { readFileSync } from 'node:fs';
import Color from 'colorjs.io';
import { converter } from 'culori';
import { describe, expect, it } from 'vitest';
import { ciede2000 } from './ciede2000.ts';
import {
  codeFromLinear,
  codesFromLinear709,
  decodeTable,
  ENCODING_NAMES,
  encodeTable,
  linear709FromCodes,
  linearFromCode,
} from './encoding.ts';
import { d65LabFrom, labFromLinear709, labFromXyz, lchFromLab, linear709FromLab, xyzFromLab } from './lab.ts';
import { transform } from './matrix3.ts';
import { linear709FromOklab, oklabFromLinear709, oklabFromOklch, oklchFromOklab } from './oklab.ts';
import { cubeRootTable } from './oklabPlanes.ts';
import { LUMA_709 } from './rec709.ts';
import { bradfordMatrix, WHITE_XYZ } from './whitePoint.ts';
import { XYZ_FROM_LINEAR_709 } from './xyz.ts';

/**
 * An even grid of codes 0..1 and random colours with a fixed seed (linear congruential, Numerical Recipes constants).
 */
function sampleCodes(): [number, number, number][] {
  const colours: [number, number, number][] = [];
  for (let r = 0; r <= 4; r++)
    for (let g = 0; g <= 4; g++) for (let b = 0; b <= 4; b++) colours.push([r / 4, g / 4, b / 4]);
  let state = 20261124;
  const next = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
  for (let i = 0; i < 300; i++) colours.push([next(), next(), next()]);
  return colours;
}
const linearOf = (codes: [number, number, number]) =>
  codes.map((c) => linearFromCode('srgb', c)) as [number, number, number];
const worst = (pairs: [number, number][]) => pairs.reduce((m, [p, q]) => Math.max(m, Math.abs(p - q)), 0);

describe('CIEDE2000', () => {
  const pairs = readFileSync(new URL('../../reference/ciede2000-pairs.tsv', import.meta.url), 'utf8')
    .split('\n')
    .filter((line) => line && !line.startsWith('#'))
    .map((line) => line.split('\t').map(Number) as [number, number, number, number, number, number, number]);

  it('holds the 34 published pairs', () => expect(pairs).toHaveLength(34));
  it.each(pairs)('(%f %f %f) to (%f %f %f) is %f', (L1, a1, b1, L2, a2, b2, dE) => {
    // Sharma et al. 2005 Table 1, printed to four decimals.
    expect(Math.abs(ciede2000({ L: L1, a: a1, b: b1 }, { L: L2, a: a2, b: b2 }) - dE)).toBeLessThanOrEqual(0.0001);
    expect(Math.abs(ciede2000({ L: L2, a: a2, b: b2 }, { L: L1, a: a1, b: b1 }) - dE)).toBeLessThanOrEqual(0.0001);
  });
});

describe('sRGB', () => {
  it('agrees with culori and colorjs.io over a grid and random colours', () => {
    const lrgb = converter('lrgb');
    for (const [r, g, b] of sampleCodes()) {
      const ours = linearOf([r, g, b]);
      const c = lrgb({ mode: 'rgb', r, g, b });
      const j = new Color('srgb', [r, g, b]).to('srgb-linear').coords as number[];
      // all three state the same formula: rounding of doubles only
      expect(
        worst([
          [ours[0], c.r],
          [ours[1], c.g],
          [ours[2], c.b],
          [ours[0], j[0]!],
          [ours[1], j[1]!],
          [ours[2], j[2]!],
        ]),
      ).toBeLessThan(1e-9);
    }
  });
  it('puts 18 % grey at code 0.46', () => {
    // IEC 61966-2-1: 1.055·0.18^(1/2.4) − 0.055 = 0.46135…
    expect(codeFromLinear('srgb', 0.18)).toBeCloseTo(0.46135, 4);
  });
});

describe('BT.709 and BT.1886', () => {
  it('derives the luma coefficients from the primaries and white', () => {
    // BT.709-6 item 3.2 prints 0.2126, 0.7152, 0.0722 for the Y row: half of the last decimal.
    const [, , , yr, yg, yb] = XYZ_FROM_LINEAR_709;
    expect(Math.abs(yr - LUMA_709.r)).toBeLessThanOrEqual(0.00005);
    expect(Math.abs(yg - LUMA_709.g)).toBeLessThanOrEqual(0.00005);
    expect(Math.abs(yb - LUMA_709.b)).toBeLessThanOrEqual(0.00005);
  });
  it('shows a half signal as 0.5^2.4 of white', () =>
    expect(linearFromCode('rec709', 0.5)).toBeCloseTo(0.5 ** 2.4, 12));
});

/** They go on straight below zero; the others are odd around it. */
const LOGS: ReadonlySet<string> = new Set([
  'acescct',
  'logc3',
  'logc4',
  'slog3',
  'slog3-cine',
  'vlog',
  'log3g10',
  'canon-log2',
  'canon-log3',
  'slog2',
  'f-log',
  'f-log2',
  'n-log',
  'd-log',
  'apple-log',
]);
describe.each(ENCODING_NAMES)('encoding %s', (encoding) => {
  it('comes back from every 16-bit code through the fast table, to an eighth of a code', () => {
    const decode = decodeTable(encoding, 65535);
    const encode = encodeTable(encoding);
    let off = 0;
    for (let code = 0; code <= 65535; code++) off = Math.max(off, Math.abs(encode(decode[code]!) * 65535 - code));
    expect(off).toBeLessThan(0.125);
  });
  it('goes on below zero and past white, and comes back', () => {
    for (const x of [-1.7, -0.5, -0.02, -0.001, 0.001, 0.02, 0.5, 1.7])
      expect(codeFromLinear(encoding, linearFromCode(encoding, x))).toBeCloseTo(x, 9);
    if (!LOGS.has(encoding))
      for (const x of [0.001, 0.02, 0.5, 1.7])
        expect(linearFromCode(encoding, -x)).toBeCloseTo(-linearFromCode(encoding, x), 12);
    expect(linearFromCode(encoding, Number.NaN)).toBeNaN();
    expect(encodeTable(encoding)(Number.NaN)).toBeNaN();
  });
});

describe('high dynamic range', () => {
  // Rep. ITU-R BT.2408 table 1 and Rec. ITU-R BT.2100-2 table 4: signals to a tenth of a per cent, light in cd/m²
  it.each([
    [0.508, 100],
    [0.581, 203],
    [0.752, 1000],
    [1, 10_000],
  ])('has a PQ signal of %f for %f cd/m²', (signal, light) =>
    expect(Math.abs(codeFromLinear('rec2100-pq', light / 203) - signal)).toBeLessThanOrEqual(0.0005),
  );
  it('gives no light no PQ signal', () => expect(codeFromLinear('rec2100-pq', 0)).toBe(0));
  it('has 75 % HLG for diffuse white and a half for a twelfth of the peak', () => {
    // BT.2408 table 1; BT.2100-2 table 5: E' = 0.5 at E = 1/12, 1 at E = 1
    expect(codeFromLinear('rec2100-hlg', 1)).toBeCloseTo(0.75, 9);
    const peak = linearFromCode('rec2100-hlg', 1);
    expect(codeFromLinear('rec2100-hlg', peak / 12)).toBeCloseTo(0.5, 7);
    // the table prints its constants to 8 decimals
    expect(linearFromCode('rec2100-hlg', 0.75) / peak).toBeCloseTo(0.265, 3);
  });
});

describe('ACES', () => {
  // AMPAS S-2016-001 section 4.4 and its appendix; the values from memory
  it.each([
    [0, 0.0729055341958355],
    [0.0078125, 0.155251141552511],
    [0.18, 0.4135884],
    [1, 0.554794520547945],
    [222.860944204, 1],
  ])('has ACEScct of %f at %f', (light, code) => {
    expect(codeFromLinear('acescct', light)).toBeCloseTo(code, 7);
    expect(linearFromCode('acescct', code) / Math.max(light, 1)).toBeCloseTo(light / Math.max(light, 1), 7);
  });
  it('goes from AP0 to AP1 by the printed matrix', () => {
    // AMPAS S-2014-004 (and S-2016-001) TRA_1, printed to ten decimals; from memory
    const printed = [
      [1.4514393161, -0.2365107469, -0.2149285693],
      [-0.0765537734, 1.1762296998, -0.0996759264],
      [0.0083161484, -0.0060324498, 0.9977163014],
    ];
    [0, 1, 2].forEach((column) => {
      const unit = [0, 0, 0].map((_, k) => (k === column ? 1 : 0)) as [number, number, number];
      const ap1 = codesFromLinear709('acescg', linear709FromCodes('aces2065-1', unit));
      ap1.forEach((v, row) => expect(v).toBeCloseTo(printed[row]![column]!, 8));
    });
  });
});

describe.each([
  ['display-p3', 'p3'],
  ['rec2020', 'rec2020'],
  ['rec2100-pq', 'rec2100pq'],
  ['rec2100-hlg', 'rec2100hlg'],
  ['linear-p3', 'p3-linear'],
  ['linear2020', 'rec2020-linear'],
  ['acescg', 'acescg'],
  ['rec709', undefined],
  ['srgb', 'srgb'],
] as const)('colours of %s', (encoding, name) => {
  it('are those of colorjs.io in BT.709 light, and come back', () => {
    for (const codes of sampleCodes()) {
      const ours = linear709FromCodes(encoding, codes);
      // colorjs.io has no display-referred BT.709: its linear sRGB of the BT.1886 light is the same thing
      const linear = name
        ? new Color(name, codes).to('srgb-linear')
        : new Color('srgb-linear', codes.map((c) => c ** 2.4) as [number, number, number]);
      // its matrices are printed to 10 decimals or more, its constants of HLG to 6
      const most = Math.max(1, ...linear.coords.map((v) => Math.abs(v!)));
      const bound = encoding === 'rec2100-hlg' ? 6e-5 : 2e-6;
      ours.forEach((v, c) => expect(Math.abs(v - linear.coords[c]!)).toBeLessThanOrEqual(bound * most));
      // a power law makes a millionth of a code out of rounding at black, PQ's steeper one two
      const back = encoding === 'rec2100-pq' ? 2e-6 : 1e-6;
      codesFromLinear709(encoding, ours).forEach((v, c) => expect(Math.abs(v - codes[c]!)).toBeLessThanOrEqual(back));
    }
  });
});

describe('OKLab', () => {
  it('agrees with culori and colorjs.io', () => {
    const oklab = converter('oklab');
    for (const [r, g, b] of sampleCodes()) {
      const ours = oklabFromLinear709(linearOf([r, g, b]));
      const c = oklab({ mode: 'rgb', r, g, b });
      const j = new Color('srgb', [r, g, b]).to('oklab').coords as number[];
      expect(
        worst([
          [ours.L, c.l],
          [ours.a, c.a],
          [ours.b, c.b],
        ]),
      ).toBeLessThan(1e-6);
      // colorjs.io recomputed the matrices from XYZ with more digits than were published
      expect(
        worst([
          [ours.L, j[0]!],
          [ours.a, j[1]!],
          [ours.b, j[2]!],
        ]),
      ).toBeLessThan(2e-4);
    }
  });
  it('round-trips, in and out of the gamut', () => {
    for (const rgb of [
      [0.2, 0.5, 0.9],
      [1.4, -0.1, 0.3],
      [0, 0, 0],
    ] as [number, number, number][]) {
      const lab = oklabFromLinear709(rgb);
      const back = linear709FromOklab(oklabFromOklch(oklchFromOklab(lab)));
      expect(worst(back.map((v, i) => [v, rgb[i]!]))).toBeLessThan(1e-12);
    }
  });
  it('takes cube roots from the table to 2e-7 relative', () => {
    const root = cubeRootTable();
    for (let e = -39.5; e < 3.9; e += 0.0137) {
      const x = 2 ** e;
      expect(Math.abs(root(x) / Math.cbrt(x) - 1)).toBeLessThan(2e-7 + 6e-8 /* x is read as binary32 */);
    }
    expect(root(0)).toBe(0);
    expect(root(-8)).toBe(-2);
  });
});

describe('CIELAB and Bradford', () => {
  it('agrees with colorjs.io for D65 Lab', () => {
    for (const codes of sampleCodes()) {
      const ours = labFromLinear709(linearOf(codes));
      const j = new Color('srgb', codes).to('lab-d65').coords as number[];
      expect(
        worst([
          [ours.L, j[0]!],
          [ours.a, j[1]!],
          [ours.b, j[2]!],
        ]),
      ).toBeLessThan(2e-3);
    }
  });
  it('agrees with culori for D50 Lab through Bradford', () => {
    const lab = converter('lab');
    for (const [r, g, b] of sampleCodes()) {
      const c = lab({ mode: 'rgb', r, g, b });
      const ours = labFromLinear709(linearOf([r, g, b]));
      const theirs = d65LabFrom({ L: c.l, a: c.a, b: c.b }, 'D50');
      // culori's matrices carry seven decimals
      expect(
        worst([
          [ours.L, theirs.L],
          [ours.a, theirs.a],
          [ours.b, theirs.b],
        ]),
      ).toBeLessThan(2e-2);
    }
  });
  it('adapts XYZ from D65 to D50 as colorjs.io does', () => {
    const matrix = bradfordMatrix('D65', 'D50');
    for (const xyz of [
      [0.3, 0.4, 0.2],
      [0.95, 1, 1.09],
      [0.1, 0.02, 0.6],
    ] as [number, number, number][]) {
      const theirs = new Color('xyz-d65', xyz).to('xyz-d50').coords as number[];
      // colorjs.io stores the matrix with the five-digit ASTM E308 whites folded in
      expect(worst(transform(matrix, xyz).map((v, i) => [v, theirs[i]!]))).toBeLessThan(5e-4);
    }
  });
  it('maps each white to Lab 100, 0, 0 and round-trips through XYZ', () => {
    for (const light of ['D65', 'D50'] as const) {
      const white = labFromXyz(WHITE_XYZ[light], light);
      expect(
        worst([
          [white.L, 100],
          [white.a, 0],
          [white.b, 0],
        ]),
      ).toBeLessThan(1e-10);
      const odd = { L: 4, a: -3, b: 60 };
      const back = labFromXyz(xyzFromLab(odd, light), light);
      expect(
        worst([
          [back.L, odd.L],
          [back.a, odd.a],
          [back.b, odd.b],
        ]),
      ).toBeLessThan(1e-9);
    }
    const lab = { L: 61, a: -20, b: 33 };
    const back = labFromLinear709(linear709FromLab(lab));
    expect(
      worst([
        [back.L, 61],
        [back.a, -20],
        [back.b, 33],
      ]),
    ).toBeLessThan(1e-9);
    expect(lchFromLab({ L: 50, a: 0, b: -10 }).hDeg).toBe(270);
  });
});
