import { aces2065 } from './encodings/aces2065.ts';
import { acescct } from './encodings/acescct.ts';
import { acescg } from './encodings/acescg.ts';
import { appleLog } from './encodings/appleLog.ts';
import { displayP3 } from './encodings/displayP3.ts';
import { dLog } from './encodings/dLog.ts';
import { fLog } from './encodings/fLog.ts';
import { fLog2 } from './encodings/fLog2.ts';
import { hlg2100 } from './encodings/hlg2100.ts';
import { linear2020 } from './encodings/linear2020.ts';
import { linear709 } from './encodings/linear709.ts';
import { linearP3 } from './encodings/linearP3.ts';
import { log3g10 } from './encodings/log3g10.ts';
import { canonLog2 } from './encodings/canonLog2.ts';
import { canonLog3 } from './encodings/canonLog3.ts';
import { logC3 } from './encodings/logC3.ts';
import { logC4 } from './encodings/logC4.ts';
import { nLog } from './encodings/nLog.ts';
import { pq2100 } from './encodings/pq2100.ts';
import { rec2020 } from './encodings/rec2020.ts';
import { rec709 } from './encodings/rec709.ts';
import type { EncodingRecord } from './encodings/record.ts';
import { sLog2 } from './encodings/sLog2.ts';
import { sLog3Cine } from './encodings/sLog3Cine.ts';
import { sLog3Wide } from './encodings/sLog3Wide.ts';
import { srgb } from './encodings/srgb.ts';
import { vLog } from './encodings/vLog.ts';
import { tabulated, UNIT_OCTAVES, type Lookup } from './lookupTable.ts';
import { inverse, multiply, transform, type Matrix3, type Triple } from './matrix3.ts';
import type { EncodedPlanes, LinearPlanes } from './planes.ts';
import { srgbFromLinear } from './srgb.ts';
import { adaptationMatrix, WHITE_XYZ } from './whitePoint.ts';
import { LINEAR_709_FROM_XYZ, normalisedPrimaryMatrix, PRIMARIES_709, xyzFromChromaticity } from './xyz.ts';

/**
 * Every encoding there is: adding one is its own file and its line here. Light is always of BT.709 primaries inside.
 */
export const ENCODINGS = {
  srgb,
  rec709,
  'display-p3': displayP3,
  rec2020,
  'rec2100-pq': pq2100,
  'rec2100-hlg': hlg2100,
  linear709,
  'linear-p3': linearP3,
  linear2020,
  'aces2065-1': aces2065,
  acescg,
  acescct,
  logc3: logC3,
  logc4: logC4,
  'slog3-cine': sLog3Cine,
  slog3: sLog3Wide,
  vlog: vLog,
  log3g10,
  'canon-log2': canonLog2,
  'canon-log3': canonLog3,
  slog2: sLog2,
  'f-log': fLog,
  'f-log2': fLog2,
  'n-log': nLog,
  'd-log': dLog,
  'apple-log': appleLog,
} as const satisfies Record<string, EncodingRecord>;
export type Encoding = keyof typeof ENCODINGS;
export const ENCODING_NAMES = Object.keys(ENCODINGS) as Encoding[];

/**
 * From an encoding's own linear light to that of BT.709 primaries, white to white; undefined where they are the same.
 */
function matrixTo709({ primaries }: EncodingRecord): Matrix3 | undefined {
  if (primaries === PRIMARIES_709) return undefined;
  const adapt = adaptationMatrix(xyzFromChromaticity(primaries.white), WHITE_XYZ.D65);
  return multiply(LINEAR_709_FROM_XYZ, multiply(adapt, normalisedPrimaryMatrix(primaries)));
}
interface Gamut {
  to709: Matrix3;
  from709: Matrix3;
}
const GAMUTS = new Map<Encoding, Gamut>(
  ENCODING_NAMES.flatMap((name) => {
    const to709 = matrixTo709(ENCODINGS[name]);
    return to709 ? [[name, { to709, from709: inverse(to709) }]] : [];
  }),
);

/** Linear light of one channel's normalised code value (0..1 nominal), of the encoding's own primaries. */
export const linearFromCode = (encoding: Encoding, code: number): number =>
  ENCODINGS[encoding].transfer.linearFromCode(code);
/**
 * Normalised code value of one channel's linear light, of the encoding's own primaries; the exact formula, unclamped.
 */
export const codeFromLinear = (encoding: Encoding, linear: number): number =>
  ENCODINGS[encoding].transfer.codeFromLinear(linear);

/** Linear BT.709 light of a colour's three normalised code values. */
export function linear709FromCodes(encoding: Encoding, codes: Triple): [number, number, number] {
  const { linearFromCode: decode } = ENCODINGS[encoding].transfer;
  const own: [number, number, number] = [decode(codes[0]), decode(codes[1]), decode(codes[2])];
  const gamut = GAMUTS.get(encoding);
  return gamut ? transform(gamut.to709, own) : own;
}
/** Normalised code values of linear BT.709 light; the exact formula, unclamped. */
export function codesFromLinear709(encoding: Encoding, linear: Triple): [number, number, number] {
  const gamut = GAMUTS.get(encoding);
  const own = gamut ? transform(gamut.from709, linear) : linear;
  const { codeFromLinear: encode } = ENCODINGS[encoding].transfer;
  return [encode(own[0]), encode(own[1]), encode(own[2])];
}

/** Linear light of every integer code 0..`maxCode` of one channel: exact to float32. */
export function decodeTable(encoding: Encoding, maxCode: number): Float32Array {
  const { linearFromCode: decode } = ENCODINGS[encoding].transfer;
  return Float32Array.from({ length: maxCode + 1 }, (_, code) => decode(code / maxCode));
}

/** A fast `codeFromLinear` for 0..∞; within 2e-6 of the exact formula on 0..1 (tested), an eighth of a 16-bit code. */
export function encodeTable(encoding: Encoding): Lookup {
  const { transfer, stepBits = UNIT_OCTAVES.stepBits } = ENCODINGS[encoding];
  return tabulated(transfer.codeFromLinear, { ...UNIT_OCTAVES, stepBits });
}

/** Matrices from an encoding's own linear light to that of BT.709 and back; undefined where they are the same. */
export const gamutOf = (encoding: Encoding): Gamut | undefined => GAMUTS.get(encoding);

function mix({ r, g, b }: LinearPlanes, m: Matrix3): void {
  for (let i = 0; i < r.length; i++) {
    const R = r[i]!;
    const G = g[i]!;
    const B = b[i]!;
    r[i] = m[0] * R + m[1] * G + m[2] * B;
    g[i] = m[3] * R + m[4] * G + m[5] * B;
    b[i] = m[6] * R + m[7] * G + m[8] * B;
  }
}

/** Planes of an encoding's own linear light become planes of linear BT.709 light, in place. */
export function toLinear709InPlace(planes: LinearPlanes, encoding: Encoding): void {
  const gamut = GAMUTS.get(encoding);
  if (gamut) mix(planes, gamut.to709);
}

/**
 * Normalised code values of linear BT.709 light, in new planes, unclamped. `encode` is the encoding's `encodeTable`.
 */
export function encodedFromLinear709(light: LinearPlanes, encoding: Encoding, encode: Lookup): EncodedPlanes {
  const gamut = GAMUTS.get(encoding);
  const own = gamut ? { r: light.r.slice(), g: light.g.slice(), b: light.b.slice() } : light;
  if (gamut) mix(own, gamut.from709);
  const coded = (plane: Float32Array) => {
    const out = new Float32Array(plane.length);
    encode.into(out, plane);
    return out;
  };
  return { r: coded(own.r), g: coded(own.g), b: coded(own.b) };
}

/**
 * Tells of linear BT.709 light whether any of its normalised codes would lie more than `slack` past 0 or 1. Costs two
 * comparisons a channel: transfers rise, so the ends are turned into light once.
 */
export function pastEnds(encoding: Encoding, slack: number): (r: number, g: number, b: number) => boolean {
  const { linearFromCode: decode } = ENCODINGS[encoding].transfer;
  const [low, high] = [decode(-slack), decode(1 + slack)];
  const isPast = (v: number) => v < low || v > high;
  const m = GAMUTS.get(encoding)?.from709;
  if (!m) return (r, g, b) => isPast(r) || isPast(g) || isPast(b);
  return (r, g, b) =>
    isPast(m[0] * r + m[1] * g + m[2] * b) ||
    isPast(m[3] * r + m[4] * g + m[5] * b) ||
    isPast(m[6] * r + m[7] * g + m[8] * b);
}

/** sRGB code (0..1, clamped) that shows this linear light on an sRGB screen. */
export const srgbCodeFromLinear = (linear: number): number => Math.min(Math.max(srgbFromLinear(linear), 0), 1);
/** Has this encoding primaries other than BT.709's? Its channels cannot then be shown one by one on an sRGB screen. */
export const hasOwnPrimaries = (encoding: Encoding): boolean => GAMUTS.has(encoding);

/** Linear BT.709 light as the codes of an encoding can hold it: its own channels cut off at 0 and 1. */
export function clampToCodes(encoding: Encoding): (rgb: Triple) => [number, number, number] {
  const { linearFromCode: decode } = ENCODINGS[encoding].transfer;
  const [low, high] = [decode(0), decode(1)];
  const clamp = ([r, g, b]: Triple): [number, number, number] => [
    Math.min(Math.max(r, low), high),
    Math.min(Math.max(g, low), high),
    Math.min(Math.max(b, low), high),
  ];
  const gamut = GAMUTS.get(encoding);
  return gamut ? (rgb) => transform(gamut.to709, clamp(transform(gamut.from709, rgb))) : clamp;
}
