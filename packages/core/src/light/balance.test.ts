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

describe('balance', () => {
  it('neutral, changes nothing', () => {
    expect(isNeutralBalance(NEUTRAL_BALANCE)).toBe(true);
    balanced([0.2, 0.4, 0.05], {}).forEach((v, i) => expect(v).toBeCloseTo([0.2, 0.4, 0.05][i]!, 6));
  });
  it('is one as soon as any of its numbers is not neutral', () => {
    const changes: Partial<Balance>[] = [{ exposureStops: 0.1 }, { warmthMired: 5 }, { saturation: 0.9 }];
    for (const name of ['slope', 'offset', 'power'] as const)
      for (const c of [0, 1, 2])
        changes.push({ [name]: NEUTRAL_BALANCE[name].map((v, i) => (i === c ? v + 0.1 : v)) as never });
    for (const change of changes) expect(isNeutralBalance({ ...NEUTRAL_BALANCE, ...change })).toBe(false);
  });
  it('warms a colour of a picture as its matrix does', () => {
    const wanted = transform(warmthMatrix(40), [0.2, 0.4, 0.05]);
    balanced([0.2, 0.4, 0.05], { warmthMired: 40 }).forEach((v, i) => expect(v).toBeCloseTo(wanted[i]!, 5));
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
  it.each([
    [{ slope: [1.2, 1, 1] }, (c: number[]) => [c[0]! * 1.2, c[1]!, c[2]!]],
    [{ slope: [1, 1, 0.8] }, (c: number[]) => [c[0]!, c[1]!, c[2]! * 0.8]],
    [{ offset: [0, 0.05, 0] }, (c: number[]) => [c[0]!, c[1]! + 0.05, c[2]!]],
    [{ power: [1, 1.5, 1] }, (c: number[]) => [c[0]!, c[1]! ** 1.5, c[2]!]],
    [{ power: [1, 1, 0.7] }, (c: number[]) => [c[0]!, c[1]!, c[2]! ** 0.7]],
    [{ saturation: 0.5 }, (c: number[]) => c.map((v) => (v + 0.2126 * c[0]! + 0.7152 * c[1]! + 0.0722 * c[2]!) / 2)],
  ] as [Partial<Balance>, (codes: number[]) => number[]][])(
    'does so with one of its numbers alone: %j',
    (change, wanted) => {
      const codes = [0.2, 0.5, 0.7];
      const out = balanced(codes.map((c) => linearFromCode('rec709', c)) as [number, number, number], change);
      out.forEach((v, i) => expect(codeFromLinear('rec709', v)).toBeCloseTo(wanted(codes)[i]!, 5));
    },
  );
});
