import type { Balance } from '../document/balance.ts';
import { describe, expect, it } from 'vitest';
import { daylightChromaticity } from '../colour/daylight.ts';
import { codeFromLinear, encodeTable, linearFromCode } from '../colour/encoding.ts';
import { transform } from '../colour/matrix3.ts';
import { xyzFromLinear709 } from '../colour/xyz.ts';
import { balanceInPlace, cdlChannel, isNeutralBalance, NEUTRAL_BALANCE, warmthMatrix } from './balance.ts';

const balanced = (rgb: [number, number, number], change: Partial<Balance>) => {
  const planes = { r: Float32Array.of(rgb[0]), g: Float32Array.of(rgb[1]), b: Float32Array.of(rgb[2]) };
  balanceInPlace(planes, { ...NEUTRAL_BALANCE, ...change }, 'rec709', encodeTable('rec709'));
  return [planes.r[0]!, planes.g[0]!, planes.b[0]!];
};

it('has the daylights of CIE 15:2018 Table T.3 on its locus', () => {
  // D50, D55, D65, D75 with their temperatures after the 1968 revision of c₂ (5003, 5503, 6504, 7504 K); printed to 4
  // digits
  for (const [kelvin, x, y] of [
    [5003, 0.3457, 0.3585],
    [5503, 0.3324, 0.3474],
    [6504, 0.3127, 0.329],
    [7504, 0.299, 0.3149],
  ] as const) {
    const [dx, dy] = daylightChromaticity(kelvin);
    expect(Math.abs(dx - x)).toBeLessThanOrEqual(0.00015);
    expect(Math.abs(dy - y)).toBeLessThanOrEqual(0.00025);
  }
  expect(() => daylightChromaticity(3000)).toThrow(RangeError);
});

describe('balance', () => {
  it('neutral, changes nothing', () => {
    expect(isNeutralBalance(NEUTRAL_BALANCE)).toBe(true);
    balanced([0.2, 0.4, 0.05], {}).forEach((v, i) => expect(v).toBeCloseTo([0.2, 0.4, 0.05][i]!, 6));
  });
  it('doubles light for a stop', () =>
    balanced([0.1, 0.2, 0.3], { exposureStops: 1 }).forEach((v, i) => expect(v).toBeCloseTo([0.2, 0.4, 0.6][i]!, 6)));
  it('makes a grey warmer at the same luminance, onto the daylight locus', () => {
    const [r, g, b] = transform(warmthMatrix(40), [0.5, 0.5, 0.5]);
    expect(r).toBeGreaterThan(g);
    expect(g).toBeGreaterThan(b);
    const [X, Y, Z] = xyzFromLinear709([r, g, b]);
    expect(Y).toBeCloseTo(0.5, 3);
    const [x, y] = daylightChromaticity(1e6 / (1e6 / 6504 + 40));
    expect(X / (X + Y + Z)).toBeCloseTo(x, 3);
    expect(Y / (X + Y + Z)).toBeCloseTo(y, 3);
  });
  it('is the ASC CDL on encoded values: out = (in × slope + offset)^power, then saturation about BT.709 luma', () => {
    // the formula of ASC CDL v1.2, section on SOP and saturation, worked by hand for one colour
    expect(cdlChannel(0.5, 1.2, -0.1, 2)).toBeCloseTo(0.25, 12);
    const codes: [number, number, number] = [0.2, 0.5, 0.7];
    const out = balanced(codes.map((c) => linearFromCode('rec709', c)) as typeof codes, {
      slope: [1.1, 1, 0.9],
      offset: [0.02, 0, -0.05],
      power: [1, 1.3, 0.8],
      saturation: 0.6,
    });
    const sop = [0.2 * 1.1 + 0.02, 0.5 ** 1.3, (0.7 * 0.9 - 0.05) ** 0.8];
    const luma = 0.2126 * sop[0]! + 0.7152 * sop[1]! + 0.0722 * sop[2]!;
    out.forEach((v, i) => expect(codeFromLinear('rec709', v)).toBeCloseTo(luma + 0.6 * (sop[i]! - luma), 5));
  });
});
