// What a file of the Common LUT Format does to a colour, step by step (AMPAS S-2014-006, SMPTE ST 2136-1).
import { floatFromHalf, GREATEST_HALF, halfFromFloat } from '../colour/halfFloat.ts';
import { cdlSaturation } from '../light/balance.ts';
import type { Cdl } from '../document/look.ts';
import type { Cube } from './cube.ts';
import { cubeAt, type OnCodes } from './cubeAt.ts';

/** Numbers of a channel's logarithm; `linSideBreak` is there where the part below it is straight. */
export interface LogCurve {
  base: number;
  logSideSlope: number;
  logSideOffset: number;
  linSideSlope: number;
  linSideOffset: number;
  linSideBreak?: number | undefined;
  linearSlope?: number | undefined;
}
/** What stands for all three channels, or for each of them. */
export type PerChannel<T> = readonly [T, T, T];
type LogStyle = 'linToLog' | 'logToLin';
/** What becomes of codes below 0. */
export type BelowZero = 'clamped' | 'mirrored' | 'kept';

/** One step; codes are normalised, 1 for the full scale of any bit depth. */
export type ClfStep =
  /** Rows of three factors and an offset. */
  | { op: 'matrix'; rows: PerChannel<readonly [number, number, number, number]> }
  | { op: 'table'; table: Cube }
  /** An entry for each half float, by its bits: 65536 of three channels. */
  | { op: 'halfTable'; values: Float32Array }
  /** `code · slope + offset`, then held between `min` and `max` where they are there. */
  | { op: 'range'; slope: number; offset: number; min?: number | undefined; max?: number | undefined }
  | { op: 'log'; style: LogStyle; curves: PerChannel<LogCurve> }
  | { op: 'power'; exponents: PerChannel<number>; belowZero: BelowZero }
  /** A power with a straight part near black, as IEC 61966-2-1 has it. */
  | { op: 'straightPower'; curves: PerChannel<{ exponent: number; offset: number }>; isBack: boolean; mirrors: boolean }
  | { op: 'cdl'; cdl: Cdl; clamps: boolean; isBack: boolean };

/** A file's steps, in their order. */
export interface Clf {
  kind: 'CLF';
  title: string;
  steps: readonly ClfStep[];
}

type Curve = (code: number) => number;
const onEach =
  (curves: PerChannel<Curve>): OnCodes =>
  (rgb) => {
    for (let c = 0; c < 3; c++) rgb[c] = curves[c]!(rgb[c]!);
  };

/** The least that a logarithm is taken of: the least normal float of 32 bits. */
const LEAST = 2 ** -126;

function logarithm(style: LogStyle, { base, linSideBreak, linearSlope, ...of }: LogCurve): Curve {
  const perBase = 1 / Math.log(base);
  const toLog = (v: number) =>
    of.logSideSlope * Math.log(Math.max(of.linSideSlope * v + of.linSideOffset, LEAST)) * perBase + of.logSideOffset;
  const toLin = (v: number) =>
    (base ** ((v - of.logSideOffset) / of.logSideSlope) - of.linSideOffset) / of.linSideSlope;
  if (linSideBreak === undefined) return style === 'linToLog' ? toLog : toLin;
  // where none is stated, the straight part goes on as steeply as the curve begins
  const steepness = (of.logSideSlope * of.linSideSlope * perBase) / (of.linSideSlope * linSideBreak + of.linSideOffset);
  const slope = linearSlope ?? steepness;
  const logSideBreak = toLog(linSideBreak);
  const offset = logSideBreak - slope * linSideBreak;
  return style === 'linToLog'
    ? (v) => (v <= linSideBreak ? slope * v + offset : toLog(v))
    : (v) => (v <= logSideBreak ? (v - offset) / slope : toLin(v));
}

function power(exponent: number, belowZero: BelowZero): Curve {
  if (belowZero === 'clamped') return (v) => Math.max(v, 0) ** exponent;
  if (belowZero === 'kept') return (v) => (v < 0 ? v : v ** exponent);
  return (v) => Math.sign(v) * Math.abs(v) ** exponent;
}

function straightPower({ exponent, offset }: { exponent: number; offset: number }, isBack: boolean): Curve {
  // without an offset nothing is straight
  if (offset === 0) return power(isBack ? 1 / exponent : exponent, 'clamped');
  const from = offset / (exponent - 1);
  const at = (exponent * offset) / ((exponent - 1) * (1 + offset));
  const codeThere = at ** exponent;
  const slope = ((exponent - 1) / offset) * codeThere;
  return isBack
    ? (v) => (v >= codeThere ? (1 + offset) * v ** (1 / exponent) - offset : v / slope)
    : (v) => (v >= from ? ((v + offset) / (1 + offset)) ** exponent : v * slope);
}
const mirrored =
  (curve: Curve): Curve =>
  (v) =>
    v < 0 ? -curve(-v) : curve(v);

const clamp01: Curve = (v) => Math.min(Math.max(v, 0), 1);
const asItIs: Curve = (v) => v;
/** ASC CDL v1.2; where nothing is clamped, the power leaves codes below 0 as they are. */
function cdlSteps({ slope, offset, power: powers, saturation }: Cdl, clamps: boolean, isBack: boolean): OnCodes {
  const held = clamps ? clamp01 : asItIs;
  const raised = (v: number, p: number) => (v < 0 ? v : v ** p);
  if (!isBack)
    return (rgb) => {
      for (let c = 0; c < 3; c++) rgb[c] = raised(held(rgb[c]! * slope[c]! + offset[c]!), powers[c]!);
      cdlSaturation(rgb, saturation);
      for (let c = 0; c < 3; c++) rgb[c] = held(rgb[c]!);
    };
  return (rgb) => {
    for (let c = 0; c < 3; c++) rgb[c] = held(rgb[c]!);
    cdlSaturation(rgb, 1 / saturation);
    for (let c = 0; c < 3; c++) rgb[c] = held((raised(held(rgb[c]!), 1 / powers[c]!) - offset[c]!) / slope[c]!);
  };
}

function onMatrix(rows: PerChannel<readonly [number, number, number, number]>): OnCodes {
  const [[a, b, c, x], [d, e, f, y], [g, h, i, z]] = rows;
  return (rgb) => {
    const [red, green, blue] = [rgb[0]!, rgb[1]!, rgb[2]!];
    rgb[0] = a * red + b * green + c * blue + x;
    rgb[1] = d * red + e * green + f * blue + y;
    rgb[2] = g * red + h * green + i * blue + z;
  };
}

/** Linear between the two half floats that a code lies between; past the greatest, the greatest's entry. */
function onHalfs(values: Float32Array): OnCodes {
  return (rgb) => {
    for (let c = 0; c < 3; c++) {
      const code = Math.min(Math.max(rgb[c]!, -GREATEST_HALF), GREATEST_HALF);
      const near = halfFromFloat(code);
      const from = floatFromHalf(near);
      const entry = values[3 * near + c]!;
      if (from === code) rgb[c] = entry;
      else {
        const next = neighbour(near, code > from);
        rgb[c] = entry + ((values[3 * next + c]! - entry) * (code - from)) / (floatFromHalf(next) - from);
      }
    }
  };
}
/** The bits of the next half float up or down. */
function neighbour(half: number, isUp: boolean): number {
  // the bits count away from 0 on either side of it
  if ((half & 0x7fff) === 0) return isUp ? 1 : 0x8001;
  return half + (((half & 0x8000) === 0) === isUp ? 1 : -1);
}

function stepAt(step: ClfStep): OnCodes {
  switch (step.op) {
    case 'matrix':
      return onMatrix(step.rows);
    case 'table':
      return cubeAt(step.table);
    case 'halfTable':
      return onHalfs(step.values);
    case 'range': {
      const { slope, offset, min = -Infinity, max = Infinity } = step;
      const curve: Curve = (v) => Math.min(Math.max(v * slope + offset, min), max);
      return onEach([curve, curve, curve]);
    }
    case 'log':
      return onEach(mapped(step.curves, (of) => logarithm(step.style, of)));
    case 'power':
      return onEach(mapped(step.exponents, (exponent) => power(exponent, step.belowZero)));
    case 'straightPower':
      return onEach(
        mapped(step.curves, (of) => {
          const curve = straightPower(of, step.isBack);
          return step.mirrors ? mirrored(curve) : curve;
        }),
      );
    case 'cdl':
      return cdlSteps(step.cdl, step.clamps, step.isBack);
  }
}
const mapped = <T, U>([r, g, b]: PerChannel<T>, of: (one: T) => U): PerChannel<U> => [of(r), of(g), of(b)];

/** A file's steps as one function. What is no number is taken for 0. */
export function clfAt({ steps }: Clf): OnCodes {
  const all = steps.map(stepAt);
  return (rgb) => {
    for (let c = 0; c < 3; c++) if (Number.isNaN(rgb[c]!)) rgb[c] = 0;
    for (const step of all) step(rgb);
  };
}
