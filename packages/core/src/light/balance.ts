import type { Balance } from '../document/balance.ts';
import type { Cdl } from '../document/look.ts';
import { encodedFromLinear709, linearFromCode, toLinear709InPlace, type Encoding } from '../colour/encoding.ts';
import type { Lookup } from '../colour/lookupTable.ts';
import { daylightChromaticity } from '../colour/daylight.ts';
import { multiply, type Matrix3 } from '../colour/matrix3.ts';
import { adaptationMatrix } from '../colour/whitePoint.ts';
import { LINEAR_709_FROM_XYZ, XYZ_FROM_LINEAR_709, xyzFromChromaticity } from '../colour/xyz.ts';
import type { LinearPlanes } from '../colour/planes.ts';

export const NEUTRAL_BALANCE: Balance = {
  exposureStops: 0,
  warmthMired: 0,
  slope: [1, 1, 1],
  offset: [0, 0, 0],
  power: [1, 1, 1],
  saturation: 1,
};

export const isNeutralBalance = (b: Balance): boolean =>
  b.exposureStops === 0 && b.warmthMired === 0 && isNeutralCdl(b);
/** Does a CDL change nothing? */
export const isNeutralCdl = ({ slope, offset, power, saturation }: Cdl): boolean =>
  saturation === 1 && [0, 1, 2].every((c) => slope[c] === 1 && offset[c] === 0 && power[c] === 1);

/** D65's correlated colour temperature, CIE 15:2018 Table T.3. */
const D65_KELVIN = 6504;
export const WARMTH_RANGE_MIRED = [-60, 90] as const;

/**
 * The matrix on linear BT.709 that turns neutral greys into greys lit by a daylight `mired` warmer, at equal luminance.
 */
export const warmthMatrix = (mired: number): Matrix3 => whiteMatrix(mired, 0);

/** Chromaticity in the CIE 1960 uniform chromaticity scale, and back: CIE 15:2018, 9.5, where Duv is reckoned. */
const ucsOf = ([x, y]: readonly [number, number]): [number, number] => [
  (4 * x) / (12 * y - 2 * x + 3),
  (6 * y) / (12 * y - 2 * x + 3),
];
const chromaticityOf = ([u, v]: readonly [number, number]): [number, number] => [
  (3 * u) / (2 * u - 8 * v + 4),
  (2 * v) / (2 * u - 8 * v + 4),
];
/**
 * The same, with the new light also `tint` thousandths of Duv off the daylight locus: green above, magenta below it.
 */
export function whiteMatrix(mired: number, tint: number): Matrix3 {
  const locus = (by: number) => daylightChromaticity(1e6 / (1e6 / D65_KELVIN + by));
  const [u, v] = ucsOf(locus(mired));
  const [u1, v1] = ucsOf(locus(mired - 1));
  const [u2, v2] = ucsOf(locus(mired + 1));
  // across the locus, on the side where v grows
  const [du, dv] = [(v1 - v2) / Math.hypot(u2 - u1, v2 - v1), (u2 - u1) / Math.hypot(u2 - u1, v2 - v1)];
  const off = tint / 1000;
  const to = tint === 0 ? locus(mired) : chromaticityOf([u + off * du, v + off * dv]);
  const adapt = adaptationMatrix(xyzFromChromaticity(locus(0)), xyzFromChromaticity(to));
  return multiply(LINEAR_709_FROM_XYZ, multiply(adapt, XYZ_FROM_LINEAR_709));
}

/** Luma weights of the CDL's saturation: Rec. ITU-R BT.709, as ASC CDL v1.2 prescribes. */
const [WR, WG, WB] = [0.2126, 0.7152, 0.0722];

/**
 * One channel of the ASC CDL: clamp(in × slope + offset)^power; clamped below at 0 only, so that highlights live on.
 */
export const cdlChannel = (x: number, slope: number, offset: number, power: number): number =>
  Math.max(x * slope + offset, 0) ** power;

/** The saturation of the ASC CDL on three codes, in place: away from their luma, or towards it. */
export function cdlSaturation(codes: { [c: number]: number }, saturation: number): void {
  const luma = WR * codes[0]! + WG * codes[1]! + WB * codes[2]!;
  for (let c = 0; c < 3; c++) codes[c] = luma + saturation * (codes[c]! - luma);
}

/**
 * The base correction of linear planes, in place: exposure and warmth in light, then the CDL on the values of the
 * shot's own encoding, as CDLs are exchanged. `encode` is the encoding's `encodeTable`.
 */
export function balanceInPlace(planes: LinearPlanes, balance: Balance, encoding: Encoding, encode: Lookup): void {
  exposeInPlace(planes, 2 ** balance.exposureStops, balance.warmthMired);
  const { slope, offset, power, saturation } = balance;
  if (isNeutralCdl(balance)) return;
  const { r, g, b } = planes;
  const codes = encodedFromLinear709(planes, encoding, encode);
  for (let i = 0; i < r.length; i++) {
    const er = cdlChannel(codes.r[i]!, slope[0], offset[0], power[0]);
    const eg = cdlChannel(codes.g[i]!, slope[1], offset[1], power[1]);
    const eb = cdlChannel(codes.b[i]!, slope[2], offset[2], power[2]);
    const luma = WR * er + WG * eg + WB * eb;
    r[i] = linearFromCode(encoding, luma + saturation * (er - luma));
    g[i] = linearFromCode(encoding, luma + saturation * (eg - luma));
    b[i] = linearFromCode(encoding, luma + saturation * (eb - luma));
  }
  toLinear709InPlace(planes, encoding);
}

function exposeInPlace({ r, g, b }: LinearPlanes, gain: number, warmthMired: number): void {
  const m = warmthMired === 0 ? undefined : warmthMatrix(warmthMired);
  for (let i = 0; i < r.length; i++) {
    const [R, G, B] = [r[i]! * gain, g[i]! * gain, b[i]! * gain];
    r[i] = m ? m[0] * R + m[1] * G + m[2] * B : R;
    g[i] = m ? m[3] * R + m[4] * G + m[5] * B : G;
    b[i] = m ? m[6] * R + m[7] * G + m[8] * B : B;
  }
}
